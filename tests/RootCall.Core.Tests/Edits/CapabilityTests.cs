using RootCall.Core.Edits;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Core.Tests.Law;
using RootCall.Testing;

namespace RootCall.Core.Tests.Edits;

/// <summary>What a format says of itself is what happens: asked before an edit is offered, and when it is applied.</summary>
public sealed class CapabilityTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    public void Dispose() => place.Dispose();

    private IEnumerable<Scene> Scenes() =>
        demo.Answers().Select(a => Look.Read(a.Arrived, demo.Library)).Concat(OwnScenes.All(place).Select(s => Look.Read(s)));

    [Fact]
    public void An_act_that_a_format_cannot_say_is_refused_with_its_reason_and_leaves_the_scene_as_it_is()
    {
        var (refused, formats) = (0, new HashSet<string>());
        foreach (var scene in Scenes())
        foreach (var act in Enum.GetValues<SceneAct>())
        {
            if (SceneFormats.Of(scene.Path).Capabilities.WhyNot(act) is not { } why || EditFor(act, scene) is not { } edit)
                continue;
            var applied = edit.Apply(scene);
            Assert.Equal((why, false), (applied.Refusal, applied.Ripples));
            Assert.Same(scene, applied.Scene);
            Assert.EndsWith(".", why, StringComparison.Ordinal);
            refused++;
            formats.Add(scene.Format.Id);
        }

        Assert.True(refused > 40 && formats.Count >= 6, $"{refused} refusals in {string.Join(", ", formats)}");
    }

    [Fact]
    public void Every_format_that_is_written_has_a_shape_for_its_materials_or_says_why_not()
    {
        foreach (var format in SceneFormats.All)
        {
            var can = format.Capabilities;
            Assert.False(string.IsNullOrWhiteSpace(can.Name));
            if (can.ReadOnlyBecause is { } only)
                Assert.All(Enum.GetValues<SceneAct>(), act => Assert.Equal($"{only}.", can.WhyNot(act)));
            else if (can.WhyNot(SceneAct.SetValue) is null)
                Assert.NotNull(can.Shape);
            Assert.NotEmpty(format.Extensions);
            Assert.All(format.Extensions, e => Assert.Same(format, SceneFormats.For($"x{e.ToUpperInvariant()}")));
        }

        Assert.Equal(
            SceneFormats.All.SelectMany(f => f.Extensions).Count(),
            SceneFormats.All.SelectMany(f => f.Extensions).Distinct().Count()
        );
    }

    [Theory]
    [InlineData(UvParts.All, 2, 0.5, 30, null)]
    [InlineData(UvParts.Scale | UvParts.Offset, 2, 0.5, 0, null)]
    [InlineData(UvParts.Scale | UvParts.Offset, 1, 0, 30, "Here has no rotation of UV coordinates.")]
    [InlineData(UvParts.None, 2, 0, 0, "Here has no UV transform.")]
    [InlineData(UvParts.None, 1, 0, 0, null)]
    [InlineData(UvParts.Rotation, 1, 0.5, 30, "Here has no UV transform.")]
    public void A_transform_is_measured_by_what_changes(UvParts parts, double scale, double offset, double degrees, string? why) =>
        Assert.Equal(
            why,
            new FormatCapabilities { Name = "Here", Uv = parts }.WhyNot(
                UvTransform.Identity,
                UvTransform.Identity with
                {
                    ScaleU = scale,
                    OffsetV = offset,
                    Rotation = degrees,
                }
            )
        );

    public static TheoryData<string, Edit, string> Refusals =>
        new()
        {
            { "gltf", new SetValue("gone", "roughness", null, ShaderValue.Of(1)), "The scene has no material gone." },
            { "gltf", new SetValue("tin", "roughness", null, ShaderValue.Of(1, 2)), "roughness takes a number." },
            { "gltf", new SetValue("tin", "baseColor", null, ShaderValue.OfText("red")), "baseColor takes 3 numbers." },
            { "gltf", new SetValue("tin", "roughness", null, ShaderValue.Of(double.NaN)), "roughness takes finite numbers." },
            { "gltf", new AssignMaterial("gone", "", "", "tin"), "The scene has no mesh gone." },
            { "gltf", new SelectVariant("", "variants", "", "noon"), "The scene has no variants variants." },
            { "gltf", new Rename("mesh", "x", "x", "y"), "The scene has no mesh x." },
            { "gltf", new Rename("node", "x", "x", "y"), "The scene has no node x." },
            { "gltf", new Rename("material", "x", "x", "y"), "The scene has no material x." },
            { "gltf", new Rename("material", "tin", "tin", ""), "A name is needed." },
            { "gltf", new CopyMaterial("tin", "tin"), "The scene has a material tin already." },
            { "gltf", new CopyMaterial("gone", "new"), "The scene has no material gone." },
            { "mtlx", new Rename("material", "tin", "tin", "two words"), "“two words” cannot be a name in MaterialX." },
            { "mtlx", new Rename("material", "tin", "tin", "brass"), "The scene has a brass already." },
            { "mtlx", new SetValue("tin", "base", null, ShaderValue.Of(1, 2, 3)), "base takes a number." },
            { "usda", new SelectVariant("/W", "patina", "fresh", "gone"), "The scene has no variant gone." },
            { "usda", new SelectVariant("/W", "season", "fresh", "aged"), "/W has no variants season." },
            { "usda", new SetAsset("/W/gone.inputs:file", "a", "b"), "Nothing in the scene is called from /W/gone.inputs:file." },
            { "usda", new SetValue("/W/tin", "roughness", null, ShaderValue.OfText("rough")), "roughness takes a number." },
        };

    [Theory]
    [MemberData(nameof(Refusals))]
    public void What_means_nothing_is_refused_in_one_sentence(string ending, Edit edit, string why)
    {
        var scene = Look.Read(OwnScenes.All(place).Single(s => s.EndsWith($".{ending}", StringComparison.Ordinal)));
        var applied = edit.Apply(scene);
        Assert.Equal(why, applied.Refusal);
        Assert.Same(scene, applied.Scene);
    }

    /// <summary>A file that breaks off is not written into: its own writer could not tell what stands after the break.</summary>
    [Fact]
    public void A_broken_file_takes_no_edit_of_its_looks_and_still_takes_a_path()
    {
        var whole = Look.Gltf("a.png");
        var scene = Look.Read(place.Put("broken.gltf", whole[..whole.LastIndexOf(']')]));
        var why = new SetValue("m0", "roughness", null, ShaderValue.Of(0.5)).Apply(scene).Refusal;
        Assert.Equal(scene.Broken, why);
        Assert.NotNull(why);
        var key = scene.References.Single(r => r.Kind == ReferenceKind.Image).Key;
        Assert.Null(new RelinkReference(key, null, place.PutPng("b.png")).Apply(scene).Refusal);
    }

    /// <summary>An edit that a rule proposes for a scene can be made to that scene: nothing is offered that is refused.</summary>
    [Fact]
    public void No_fix_is_offered_that_the_format_refuses()
    {
        var offered = 0;
        foreach (var answer in demo.Answers())
        {
            var audited = Audits.OpenRelinked(answer.Arrived, demo.Library);
            var session = TestSession.Of(audited.Scene.Report, audited.Context, place.Folder);
            foreach (var fix in audited.Report.Findings.SelectMany(f => f.Fixes))
            {
                var made = session.And(TestSession.Entry(fix.Edits));
                Assert.True(made.Refused.IsEmpty, $"{answer.Name}: {fix.Title}: {made.Refused.FirstOrDefault()?.Reason}");
                offered++;
            }
        }

        Assert.True(offered > 60, $"only {offered} fixes were offered");
    }

    private static Edit? EditFor(SceneAct act, Scene scene)
    {
        var material = scene.Materials.FirstOrDefault()?.Name ?? "tin";
        var (mesh, node) = (scene.Meshes.FirstOrDefault()?.Name ?? "box", scene.Nodes.FirstOrDefault()?.Name ?? "box");
        var image = scene.References.FirstOrDefault(r => r.Kind == ReferenceKind.Image)?.Key ?? new(ReferenceKind.Image, "x", "x.png");
        return act switch
        {
            SceneAct.SetValue => new SetValue(material, "roughness", null, ShaderValue.Of(0.5)),
            SceneAct.SetImage => new SetImage(material, "roughness", null, new(image) { Channels = Channels.G }),
            SceneAct.Assign => new AssignMaterial(mesh, string.Empty, material, material),
            SceneAct.Extract => new ExtractImage(image, "/store/a.png", "textures/a.png"),
            SceneAct.Carry => new CarryImage(image, "/store/a.png"),
            SceneAct.MakeLibrary => new MakeLibrary("new.mtl"),
            SceneAct.SelectVariant => new SelectVariant(string.Empty, "patina", "fresh", "aged"),
            SceneAct.SetAsset => new SetAsset("/W/c.inputs:file", "a.png", "b.png"),
            SceneAct.RenameMaterial => new Rename("material", material, material, "new"),
            SceneAct.RenameMesh => new Rename("mesh", mesh, mesh, "new"),
            SceneAct.RenameNode => new Rename("node", node, node, "new"),
            SceneAct.CopyMaterial => new CopyMaterial(material, "new"),
            SceneAct.RemoveMaterial => new RemoveMaterial(material),
            _ => null,
        };
    }
}
