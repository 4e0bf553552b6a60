using RootCall.Core.Audit;
using RootCall.Core.Bench;
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
        Assert.Contains(made, m => m.Act == WireAct.Channel);
        Assert.All(refused, r => Assert.EndsWith(".", r, StringComparison.Ordinal));
    }

    private static bool IsSo(WireChoice choice, InputView was, AuditScene after)
    {
        var material = after.Called(was.Material.Name)!;
        bool Reads(string input) =>
            material.Input(input)?.Maps is [var map] && map.Use.Reference.Written == was.Maps[0].Use.Reference.Written;
        return choice.Act switch
        {
            WireAct.Move => Reads(choice.To!) && material.Input(was.Name) is null or { Maps.IsEmpty: true },
            WireAct.Fork => Reads(choice.To!) && Reads(was.Name),
            WireAct.Channel => material.Input(was.Name)!.Maps[0].Channel == choice.Channel,
            WireAct.Invert => IsTurned(was, material),
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
                <input name="specular_roughness" type="float" nodename="grain"/>
              </open_pbr_surface>
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
