using System.Collections.Immutable;
using RootCall.Core.Audit;
using RootCall.Core.Bench;
using RootCall.Core.Edits;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Bench;

/// <summary>Wires laid otherwise by hand: what is offered can be written and is so, and what cannot says why before.</summary>
public sealed class WireTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    public void Dispose() => place.Dispose();

    /// <summary>
    /// Over the scenes of the demo, a wire of each input's role and format, all that is offered for it. <see cref="Audited.With"/> writes
    /// and reads back; what is asked is asked of the scene that was read.
    /// </summary>
    [Fact]
    public void Whatever_is_offered_for_a_wire_is_so_in_what_is_written()
    {
        var (made, refused) = (new List<(string Format, WireAct Act)>(), new List<string>());
        var known = new HashSet<(string, string)>();
        foreach (var answer in demo.Answers())
        {
            var before = Audits.OpenRelinked(answer.Arrived, demo.Library);
            var format = before.Scene.Scene.Format.Id;
            foreach (var input in before.Scene.Materials.SelectMany(m => m.Inputs.Where(i => i.Maps.Length == 1)))
            {
                if (!known.Add((format, input.What)))
                    continue;
                var choices = WireChoices.Of(before.Scene, input.Material, input.Name);
                refused.AddRange(choices.Select(c => c.WhyNot).OfType<string>());
                // Of the many inputs that it could go to a few stand for all.
                var tried = choices.Where(c => c.WhyNot is null).GroupBy(c => c.Act).SelectMany(g => g.Take(2));
                foreach (var choice in tried)
                {
                    var decision = WireChoices.Decision(choice.Act, input.Name, choice.To, choice.Channel);
                    var plan = HandPlan.Make(before.Scene, decision, HandPlaces.Of(before.Scene, [input.Material.Name]));
                    var after = before.With(place.At(Guid.NewGuid().ToString("N")), plan.Edits).Scene;
                    Assert.True(
                        IsSo(choice, input, after),
                        $"{answer.Arrived}, {input.Material.Name}.{input.Name}: {decision.Title} is not so"
                    );
                    made.Add((format, choice.Act));
                }
            }
        }

        // Every format that says looks can lay wires; only inverting is not said by all.
        foreach (var format in new[] { "gltf", "usda", "mtlx", "obj" })
            Assert.Superset(
                new HashSet<WireAct> { WireAct.Move, WireAct.Fork, WireAct.Disconnect },
                made.Where(m => m.Format == format).Select(m => m.Act).ToHashSet()
            );
        Assert.Contains(("usda", WireAct.Invert), made);
        Assert.Superset(
            new HashSet<WireAct> { WireAct.Invert, WireAct.Multiply, WireAct.CorrectColour },
            made.Where(m => m.Format == "mtlx").Select(m => m.Act).ToHashSet()
        );
        Assert.Contains(made, m => m.Act == WireAct.Channel);
        Assert.All(refused, r => Assert.EndsWith(".", r, StringComparison.Ordinal));
    }

    private static bool IsSo(WireChoice choice, InputView was, AuditScene after)
    {
        var material = after.Called(was.Material.Name)!;
        bool Lies(MaterialView m, string input, string word) =>
            HeldNode.Of(after, m.Input(input)!).Any(n => n.Word.EndsWith(word, StringComparison.Ordinal));
        bool Reads(string input) =>
            material.Input(input)?.Maps is [var map] && map.Use.Reference.Written == was.Maps[0].Use.Reference.Written;
        return choice.Act switch
        {
            WireAct.Move => Reads(choice.To!) && material.Input(was.Name) is null or { Maps.IsEmpty: true },
            WireAct.Fork => Reads(choice.To!) && Reads(was.Name),
            WireAct.Channel => material.Input(was.Name)!.Maps[0].Channel == choice.Channel,
            WireAct.Invert => IsTurned(was, material),
            WireAct.NormalMap => material.Input(was.Name)!.Maps[0] is { PassesNormalMap: true } or { Use.Bias.IsEmpty: false },
            WireAct.Multiply or WireAct.CorrectColour => Lies(
                material,
                was.Name,
                choice.Act == WireAct.Multiply ? "multiply" : "correction"
            ),
            WireAct.TakeOut => !HeldNode.Of(after, material.Input(was.Name)!).Any(n => n.Name == choice.To),
            _ => material.Input(was.Name) is null or { Maps.IsEmpty: true },
        };
    }

    /// <summary>What arrives of a value and what arrived of it before make what arrives of 1, whatever it is multiplied by.</summary>
    private static bool IsTurned(InputView was, MaterialView now)
    {
        double[] At(MaterialView material, float stored) =>
            [
                .. UnderPointer
                    .Of(material, material.Input(was.Name)!.Maps[0], [stored, stored, stored])
                    .Inputs.First(i => i.Input == was.Name)
                    .Numbers,
            ];
        var (turned, before, one) = (At(now, 0.25f), At(was.Material, 0.25f), At(was.Material, 1));
        return turned.Zip(before, one).All(n => Math.Abs(n.First + n.Second - n.Third) < 1e-5);
    }

    [Theory]
    [InlineData("specular_roughness", "rgb", "specular_roughness takes one number; pick one channel of the image.")]
    [InlineData("base_color", "r", "base_color takes a colour; pick R, G and B together.")]
    [InlineData("no_such", "r", "paint has no input no_such.")]
    public void An_end_that_does_not_fit_says_why(string to, string channel, string why)
    {
        var scene = Paint("paint.png");
        var decision = new HandFork("base_color", to, ChannelWords.Of(channel));
        Assert.Equal(why, Assert.Single(HandPlan.Make(scene.Scene, decision, HandPlaces.Of(scene.Scene, ["paint"])).Left).Reason);
    }

    /// <summary>
    /// Nodes laid and set come to what MaterialX's standard nodes say they do ("multiply", "colorcorrect", MaterialX 1.39): half of all,
    /// and without saturation a grey by the library's own weights ("saturate", lumacoeffs). Taken out, what is written is what arrived.
    /// </summary>
    [Fact]
    public void Nodes_are_laid_set_and_taken_out_again()
    {
        place.PutPng("paint.png");
        var scene = Paint("paint.png");
        var arrived = File.ReadAllText(scene.Scene.Scene.Path);
        var edits = ImmutableArray<Edit>.Empty;
        var now = scene;
        // One entry after the other; each time all are written and read.
        void Take(HandDecision decision)
        {
            var plan = HandPlan.Make(now.Scene, decision, HandPlaces.Of(now.Scene, ["paint"]));
            Assert.Empty(plan.Left);
            edits = [.. edits, .. plan.Edits];
            now = scene.With(place.At(Guid.NewGuid().ToString("N")), edits);
        }

        void Set(int node, string part, params double[] numbers) =>
            Take(HeldNode.Set(Nodes(now)[node].Values.First(v => v.What == part).Name, numbers));
        Take(new HandLay("base_color", LaidNode.Multiply));
        Take(new HandLay("base_color", LaidNode.CorrectColour));
        Assert.Equal(["colour correction", "multiply"], Nodes(now).Select(n => n.Word));
        Assert.Equal([0.2, 0.4, 0.6], At(now), Near);
        Set(1, "in2", 0.5, 0.5, 0.5);
        Assert.Equal([0.1, 0.2, 0.3], At(now), Near);
        Set(0, "saturation", 0);
        var grey = (0.2722287 * 0.1) + (0.6740818 * 0.2) + (0.0536895 * 0.3);
        Assert.Equal([grey, grey, grey], At(now), Near);

        // What would be lost on the way is not taken elsewhere.
        var moved = HandPlan.Make(now.Scene, new HandMove("base_color", "subsurface_color"), HandPlaces.Of(now.Scene, ["paint"]));
        Assert.Contains("would not come along", Assert.Single(moved.Left).Reason, StringComparison.Ordinal);
        foreach (var node in Nodes(now).Reverse())
            Take(new HandTakeOut("base_color", node.Name));
        Assert.Empty(Nodes(now));
        Assert.Empty(SceneComparison.Differences(scene.Scene.Scene, now.Scene.Scene));
    }

    private static bool Near(double a, double b) => Math.Abs(a - b) < 1e-3;

    private static ImmutableArray<HeldNode> Nodes(Audited scene) =>
        HeldNode.Of(scene.Scene, scene.Scene.Called("paint")!.Input("base_color")!);

    private static double[] At(Audited scene)
    {
        var material = scene.Scene.Called("paint")!;
        var map = material.Input("base_color")!.Maps[0];
        return [.. UnderPointer.Of(material, map, Stored(0.2, 0.4, 0.6)).Inputs.First(i => i.Input == "base_color").Numbers];
    }

    private static float[] Stored(params double[] linear) => [.. linear.Select(v => (float)SrgbCurve.ToEncoded(v))];

    /// <summary>A grey image has one channel, and one without alpha has none to pick.</summary>
    [Fact]
    public void Channels_that_the_file_does_not_hold_are_not_offered()
    {
        place.PutPng("paint.png");
        var scene = Paint("paint.png");
        var why = WireChoices.Of(scene.Scene, scene.Scene.Called("paint")!, "base_color").First(c => c.Channel == Channels.A).WhyNot;
        Assert.Equal("paint.png has no alpha.", why);
    }

    [Fact]
    public void Inputs_are_copied_by_role_and_materials_without_them_say_so()
    {
        var path = place.Put(
            "shelf.mtlx",
            """
            <?xml version="1.0"?>
            <materialx version="1.39">
              <image name="grain" type="float"><input name="file" type="filename" value="grain.png"/></image>
              <open_pbr_surface name="s1" type="surfaceshader">
                <input name="coat_weight" type="float" value="0.5"/>
                <input name="specular_roughness" type="float" nodename="softer"/>
              </open_pbr_surface>
              <multiply name="softer" type="float">
                <input name="in1" type="float" nodename="grain"/>
                <input name="in2" type="float" value="0.5"/>
              </multiply>
              <surfacematerial name="tin" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s1"/></surfacematerial>
              <standard_surface name="s2" type="surfaceshader"/>
              <surfacematerial name="jar" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s2"/></surfacematerial>
              <surface_unlit name="s3" type="surfaceshader"/>
              <surfacematerial name="label" type="material">
                <input name="surfaceshader" type="surfaceshader" nodename="s3"/>
              </surfacematerial>
            </materialx>
            """
        );
        var scene = Audits.Open(path);
        var copy = new HandCopy("tin", ["coat_weight", "specular_roughness"]);
        var plan = HandPlan.Make(scene.Scene, copy, HandPlaces.Of(scene.Scene, ["jar", "label", "tin"]));
        Assert.Equal(["label has no coat, roughness.", "tin has its own inputs already."], plan.Left.Select(l => l.Reason));
        var after = scene.With(place.At("after"), plan.Edits).Scene.Called("jar")!;
        Assert.Equal(0.5, after.Input("coat")!.Number);
        Assert.Equal("grain.png", after.Input("specular_roughness")!.Maps[0].Use.Reference.Written);
        Assert.Equal("0.5", after.Input("specular_roughness")!.Factor?.ToString());
    }

    /// <summary>What multiplies an image comes with it, and what stood there alone multiplies it no more (glTF 2.0, 3.9.2).</summary>
    [Theory]
    [InlineData("""{ "baseColorTexture": { "index": 0 }, "baseColorFactor": [0.5, 0.4, 0.3, 1] }""", "0.5 0.4 0.3")]
    [InlineData("""{ "baseColorTexture": { "index": 0 } }""", null)]
    public void A_factor_is_copied_with_its_image(string tin, string? factor)
    {
        var scene = Audits.Open(
            place.Put(
                "pair.gltf",
                $$"""
                {
                  "asset": { "version": "2.0" },
                  "images": [ { "uri": "tin.png" } ], "textures": [ { "source": 0 } ],
                  "materials": [
                    { "name": "tin", "pbrMetallicRoughness": {{tin}} },
                    { "name": "jar", "pbrMetallicRoughness": { "baseColorFactor": [0.1, 0.1, 0.1, 1] } }
                  ]
                }
                """
            )
        );
        var plan = HandPlan.Make(scene.Scene, new HandCopy("tin", ["baseColor"]), HandPlaces.Of(scene.Scene, ["jar"]));
        Assert.Empty(plan.Left);
        var after = scene.With(place.At("copied"), plan.Edits).Scene.Called("jar")!.Input("baseColor")!;
        Assert.Equal("tin.png", after.Maps[0].Use.Reference.Written);
        Assert.Equal(factor, after.Factor?.ToString());
    }

    /// <summary>What was picked wears another, or one of its own; the others stay. Asked of the scene that was read back.</summary>
    [Theory]
    [InlineData("arrived/brass_gardener/brass_gardener.gltf")]
    [InlineData("clean/lean_to/lean_to.usda")]
    [InlineData("arrived/tool_wall/tool_wall.obj")]
    [InlineData("arrived/moth_jar/moth_jar.dae")]
    public void Some_wearers_get_another_material_or_their_own(string file)
    {
        var scene = Audits.OpenRelinked(demo.At(file), demo.Library);
        var worn = scene.Scene.Materials.MaxBy(m => m.Users.Length)!;
        var other = scene.Scene.Materials.First(m => m != worn && m.Type.Length > 0);
        var one = new WornPart(worn.Users[0].Mesh.Id, worn.Users[0].Part.Name);
        var tried = 0;
        foreach (var decision in (HandDecision[])[new HandAssign(other.Name, [one]), new HandSplit("its_own", [one])])
        {
            var plan = HandPlan.Make(scene.Scene, decision, HandPlaces.Of(scene.Scene, [worn.Name]));
            if (plan.Left is [var (_, why), ..])
            {
                // A format that cannot say it, or nothing to split from: told in a sentence.
                Assert.EndsWith(".", why, StringComparison.Ordinal);
                continue;
            }

            tried++;
            var to = decision is HandAssign a ? a.To : "its_own";
            var after = scene.With(place.At(Guid.NewGuid().ToString("N")), plan.Edits).Scene;
            var mesh = after.Scene.Meshes.First(m => m.Id == one.Mesh);
            Assert.Equal(to, mesh.Parts.First(p => p.Name == one.Part).Material);
            Assert.Equal(worn.Users.Length - 1, after.Called(worn.Name)!.Users.Length);
        }

        Assert.True(tried > 0 || file.EndsWith(".obj", StringComparison.Ordinal), "nothing could be tried");
        var all = HandPlan.Make(scene.Scene, new HandAssign(worn.Name, []), HandPlaces.Of(scene.Scene, [worn.Name]));
        Assert.Equal($"It is {worn.Name} already.", Assert.Single(all.Left).Reason);
    }

    /// <summary>
    /// One of two that share geometry becomes its own and wears another material; the other stays as it is. What lies below an instance of
    /// USD says why nothing is said of it before (USD, "Scenegraph instancing": opinions on descendants of an instance are not heard).
    /// </summary>
    [Theory]
    [InlineData("pair.gltf", "/meshes/0", "/nodes/1", "/meshes/1", Pair)]
    [InlineData("pair.usda", "/right/leaf", "/right", "/right/leaf", Instanced)]
    public void An_instance_becomes_its_own(string file, string mesh, string instance, string own, string text)
    {
        var scene = Audits.Open(place.Put(file, text));
        FixPlan Plan(Audited on, HandDecision decision) => HandPlan.Make(on.Scene, decision, HandPlaces.Of(on.Scene, ["green"]));
        var made = Plan(scene, new HandOwn(mesh, instance));
        Assert.Empty(made.Left);
        var after = scene.With(place.At("after"), made.Edits);
        if (file.EndsWith("usda", StringComparison.Ordinal))
            Assert.Contains(
                "Make that its own first",
                Assert.Single(Plan(scene, new HandAssign("rust", [new(mesh, string.Empty)])).Left).Reason,
                StringComparison.Ordinal
            );
        var assigned = Plan(after, new HandAssign("rust", [new(own, string.Empty)]));
        Assert.Empty(assigned.Left);
        var both = scene.With(place.At("both"), [.. made.Edits, .. assigned.Edits]).Scene.Scene;
        string Wears(string node)
        {
            var at = both.Nodes.First(n => n.Name == node);
            var shown = at.Mesh >= 0 ? at : both.Nodes.First(n => n.Parent == both.Nodes.IndexOf(at) && n.Mesh >= 0);
            return both.Meshes[shown.Mesh].Parts[0].Material;
        }

        Assert.Equal(("green", "rust"), (Wears("left"), Wears("right")));
        Assert.Equal(both.Meshes.Sum(m => m.Triangles), both.Counts.Triangles);
    }

    private const string Pair = """
        {
          "asset": { "version": "2.0" },
          "scene": 0, "scenes": [ { "nodes": [ 0, 1 ] } ],
          "nodes": [ { "name": "left", "mesh": 0 }, { "name": "right", "mesh": 0, "translation": [ 1, 0, 0 ] } ],
          "meshes": [ { "name": "leaf", "primitives": [ { "attributes": { "POSITION": 0 }, "material": 0 } ] } ],
          "materials": [ { "name": "green" }, { "name": "rust" } ],
          "accessors": [ { "componentType": 5126, "count": 3, "type": "VEC3", "min": [ 0, 0, 0 ], "max": [ 1, 1, 0 ] } ]
        }
        """;

    private const string Instanced = """
        #usda 1.0
        class "made"
        {
            def Mesh "leaf" (
                prepend apiSchemas = ["MaterialBindingAPI"]
            )
            {
                int[] faceVertexCounts = [3]
                int[] faceVertexIndices = [0, 1, 2]
                point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]
                rel material:binding = </green>
            }
        }
        def Xform "left" (
            inherits = </made>
            instanceable = true
        )
        {
        }
        def Xform "right" (
            inherits = </made>
            instanceable = true
        )
        {
        }
        def Material "green"
        {
            token outputs:surface.connect = </green/s.outputs:surface>
            def Shader "s"
            {
                uniform token info:id = "UsdPreviewSurface"
                token outputs:surface
            }
        }
        def Material "rust"
        {
            token outputs:surface.connect = </rust/s.outputs:surface>
            def Shader "s"
            {
                uniform token info:id = "UsdPreviewSurface"
                token outputs:surface
            }
        }
        """;

    private Audited Paint(string image) =>
        Audits.Open(
            place.Put(
                "paint.mtlx",
                $"""
                <?xml version="1.0"?>
                <materialx version="1.39">
                  <image name="colour" type="color3"><input name="file" type="filename" value="{image}" colorspace="srgb_texture"/></image>
                  <open_pbr_surface name="s" type="surfaceshader">
                    <input name="base_color" type="color3" nodename="colour"/>
                  </open_pbr_surface>
                  <surfacematerial name="paint" type="material">
                    <input name="surfaceshader" type="surfaceshader" nodename="s"/>
                  </surfacematerial>
                </materialx>
                """
            )
        );
}
