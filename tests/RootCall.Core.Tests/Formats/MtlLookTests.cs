using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>Edits of material libraries: a statement is replaced, added or taken out, and no other byte moves.</summary>
public sealed class MtlLookTests : IDisposable
{
    private const string Library =
        "# by hand\r\nnewmtl tin\r\n\tKd 0.8 0.8 0.8   # grey\r\nmap_Kd  -s 2 2 1 tin.png\r\nNs 10\r\n\r\nnewmtl brass\r\nKd 1 1 0\r\n";
    private readonly Place place = new();
    private readonly string scene;

    public MtlLookTests()
    {
        scene = place.Put("s.obj", "mtllib s.mtl\nusemtl tin\nv 0 0 0\nf 1 1 1\n");
        place.Put("s.mtl", Library);
    }

    [Fact]
    public void Values_change_in_place_come_behind_the_last_statement_or_go()
    {
        Assert.Equal(
            Library.Replace("Ns 10", "Ns 24", StringComparison.Ordinal),
            Edited(new SetValue("tin", "Ns", null, ShaderValue.Of(24)))
        );
        Assert.Equal(Library.Replace("Ns 10\r\n", string.Empty, StringComparison.Ordinal), Edited(new SetValue("tin", "Ns", null, null)));
        Assert.Equal(
            Library.Replace("Kd 1 1 0", "Kd 1 1 0\r\nPr 0.3", StringComparison.Ordinal),
            Edited(new SetValue("brass", "Pr", null, ShaderValue.Of(0.3)))
        );
        Assert.Equal(Library, Edited(new SetValue("brass", "Pr", null, null)));
    }

    [Fact]
    public void Maps_keep_the_spelling_of_their_statement_and_say_their_options()
    {
        var graph = SceneFormats.Read(scene, Context()).Materials.Single(m => m.Name == "tin").Graph;
        var use = graph.ImagesOf(graph.SurfaceNode!.Input("Kd")!).Single();
        Assert.Equal(
            Library.Replace("map_Kd  -s 2 2 1 tin.png", "map_Kd -o 0.5 0 0 -s 4 2 1 -clamp on tin.png", StringComparison.Ordinal),
            Edited(
                new SetImage(
                    "tin",
                    "Kd",
                    use,
                    use with
                    {
                        Transform = use.Transform with { ScaleU = 4, OffsetU = 0.5 },
                        WrapU = WrapMode.Clamp,
                        WrapV = WrapMode.Clamp,
                    }
                )
            )
        );
        Assert.Equal(
            Library.Replace("map_Kd  -s 2 2 1 tin.png\r\n", string.Empty, StringComparison.Ordinal),
            Edited(new SetImage("tin", "Kd", use, null))
        );
        ImageUse Image(string name) => new(new(ReferenceKind.Image, "s.mtl", name));
        Assert.EndsWith(
            "Kd 1 1 0\r\nmap_bump -bm 0.4 b.png\r\n",
            Edited(new SetImage("brass", "bump", null, Image("b.png") with { Scale = [0.4] })),
            StringComparison.Ordinal
        );
        Assert.EndsWith(
            "Kd 1 1 0\r\nmap_Pr -mm 0.1 2 -imfchan g ./-odd.png\r\n",
            Edited(new SetImage("brass", "Pr", null, Image("-odd.png") with { Scale = [2], Bias = [0.1], Channels = Channels.G })),
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("rotation")]
    [InlineData("input")]
    [InlineData("material")]
    [InlineData("assign")]
    [InlineData("map")]
    [InlineData("library")]
    public void What_MTL_cannot_say_is_refused_with_the_reason(string what)
    {
        Edit edit = what switch
        {
            "rotation" => new SetImage(
                "tin",
                "Kd",
                null,
                new(new(ReferenceKind.Image, "s.mtl", "a.png")) { Transform = UvTransform.Identity with { Rotation = 45 } }
            ),
            "input" => new SetValue("tin", "coat_weight", null, ShaderValue.Of(1)),
            "material" => new SetValue("gone", "Kd", null, ShaderValue.Of(1, 1, 1)),
            "assign" => new AssignMaterial("s", string.Empty, "tin", "brass"),
            "map" => new SetImage("tin", "subsurface", null, new(new(ReferenceKind.Image, "s.mtl", "a.png"))),
            _ => new MakeLibrary("other.mtl"),
        };
        var reason = Assert.Single(Make(edit).Refused).Reason;
        Assert.EndsWith(".", reason, StringComparison.Ordinal);
        Assert.DoesNotContain('\n', reason);
    }

    public void Dispose() => place.Dispose();

    private ReadContext Context() => new(new([place.Folder]), Bounds.Default);

    private EditedFiles Make(params Edit[] edits)
    {
        Directory.CreateDirectory(place.At("edited"));
        return EditedFiles.Make(
            scene,
            [new(Guid.NewGuid(), "x", [.. edits], EntryState.Applied, "by hand", default)],
            place.At("edited"),
            Context()
        );
    }

    private string Edited(params Edit[] edits)
    {
        var made = Make(edits);
        Assert.Empty(made.Refused.Select(r => r.Reason));
        return made.Copies.TryGetValue(place.At("s.mtl"), out var copy) ? File.ReadAllText(copy) : Library;
    }
}
