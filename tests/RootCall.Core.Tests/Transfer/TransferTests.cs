using System.Collections.Immutable;
using System.Text.Json;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Core.Transfer;
using RootCall.Testing;

namespace RootCall.Core.Tests.Transfer;

/// <summary>The transfer check over the demo: what was planted is found, and what can be restored is restored by its own edits.</summary>
public sealed class TransferTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    public static TheoryData<string> Scenes =>
        [.. RootCall.Demo.DemoWriter.TransferScenes.Select(s => Path.GetFileNameWithoutExtension(s))];

    [Theory]
    [MemberData(nameof(Scenes))]
    public void Planted_losses_are_found_and_nothing_else(string name)
    {
        var answer = Answer(name);
        var report = TransferCheck.Compare(Look.Muster(answer.Clean), Look.Muster(answer.Arrived, demo.Library));
        Assert.Equal(answer.Losses.Order(), report.Rows.Select(Row).Order());
        Assert.All(report.Rows, r => Assert.True(r.WhyNot is not null ^ !r.Restore.IsEmpty, $"{Row(r)} says neither how nor why not"));
        Assert.Equal(report.Rows.Length, report.Families.Sum(f => f.Rows.Length));
    }

    [Theory]
    [InlineData("watering_can")]
    [InlineData("tin_pear")]
    [InlineData("tin_lantern")]
    [InlineData("seed_drawer")]
    [InlineData("moth_jar")]
    [InlineData("enamel_sign")]
    public void Restoring_everything_leaves_only_what_no_edit_restores(string name)
    {
        var answer = Answer(name);
        var clean = Look.Muster(answer.Clean);
        var context = Look.Context(answer.Arrived, demo.Library, Path.GetDirectoryName(answer.Clean)!);
        var report = TransferCheck.Compare(clean, CurrentScene.Muster(answer.Arrived, context, Bounds.Default));
        var edits = report.Rows.SelectMany(r => r.Restore).ToImmutableArray<Edit>();
        Assert.NotEmpty(edits);
        Assert.All(edits, e => Assert.False(string.IsNullOrWhiteSpace(e.Describe())));

        var made = Make(answer.Arrived, context, edits);
        Assert.Empty(made.Refused.Select(r => $"{r.Edit.Describe()}: {r.Reason}"));
        var after = TransferCheck.Compare(
            clean,
            CurrentScene.Muster(answer.Arrived, context with { Edited = made.Copies }, Bounds.Default)
        );
        // An image that came back with its map is no longer missing.
        var back = edits.OfType<SetImage>().Select(e => Path.GetFileName(e.To?.Reference.Written)).ToHashSet();
        var left = report.Rows.Where(r => r.Restore.IsEmpty && !(r.Kind == "image" && back.Contains(r.Name))).Select(Row);
        Assert.Equal(left.Order(), after.Rows.Select(Row).Order());
    }

    [Fact]
    public void A_delivery_compared_with_itself_lost_nothing()
    {
        foreach (var answer in demo.Answers())
        {
            var report = Look.Muster(answer.Clean);
            Assert.Empty(TransferCheck.Compare(report, report).Rows);
        }
    }

    [Fact]
    public void The_same_look_in_another_format_is_found_by_what_its_inputs_are_for()
    {
        place.Put("a/a.obj", "mtllib a.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\no leaf\nusemtl tin\nf 1/1 2/1 3/1\n");
        place.Put("a/a.mtl", "newmtl tin\nmap_Kd -s 3 3 1 tin_color.png\nmap_Pr tin_rough.png\nnorm tin_normal.png\n");
        foreach (var (image, grey) in new[] { ("tin_color", 90), ("tin_rough", 120), ("tin_normal", 150) })
            place.PutPng($"a/{image}.png", (byte)grey);
        place.PutPng("b/tin_color.png", 91);
        place.Put(
            "b/b.gltf",
            """
            { "asset": { "version": "2.0" }, "images": [{ "uri": "tin_color.png" }], "textures": [{ "source": 0 }],
              "materials": [{ "name": "tin", "pbrMetallicRoughness": { "baseColorTexture": { "index": 0 } } }],
              "accessors": [{ "count": 3, "type": "VEC3", "componentType": 5126, "min": [0, 0, 0], "max": [1, 1, 0] },
                { "count": 3, "type": "VEC2", "componentType": 5126 }],
              "meshes": [{ "name": "leaf", "primitives": [{ "attributes": { "POSITION": 0, "TEXCOORD_0": 1 }, "material": 0 }] }],
                "nodes": [{ "name": "leaf", "mesh": 0 }] }
            """
        );
        var context = Look.Context(place.At("b/b.gltf"), place.At("a"));
        var source = Look.Muster(place.At("a/a.obj"));
        var report = TransferCheck.Compare(source, CurrentScene.Muster(place.At("b/b.gltf"), context, Bounds.Default));
        Assert.Equal(
            [
                "image tin_normal.png missing",
                "image tin_rough.png missing",
                "material tin map normal",
                "material tin map roughness",
                "material tin tiling base colour",
            ],
            report.Rows.Select(Row).Order()
        );

        Assert.Contains("crossing", report.Rows.Single(r => r is { What: "map", Input: "roughness" }).WhyNot, StringComparison.Ordinal);
        var made = Make(place.At("b/b.gltf"), context, [.. report.Rows.SelectMany(r => r.Restore)]);
        Assert.Empty(made.Refused);
        var text = File.ReadAllText(made.Copies.Values.Single());
        Assert.Contains("../a/tin_normal.png", text, StringComparison.Ordinal);
        Assert.Contains("\"scale\": [3, 3]", text, StringComparison.Ordinal);
        Assert.Contains("KHR_texture_transform", text, StringComparison.Ordinal);
    }

    /// <summary>An alpha that the image lacks, or that the material does not ask for, is not lost with a tiling.</summary>
    [Theory]
    [InlineData("OPAQUE")]
    [InlineData("MASK")]
    public void What_is_not_seen_through_loses_no_opacity(string mode)
    {
        MusterReport Of(string name, string transform)
        {
            place.PutPng($"{name}/tin_color.png", 91);
            return Look.Muster(
                place.Put(
                    $"{name}/t.gltf",
                    $$"""
                    { "asset": { "version": "2.0" }, "images": [{ "uri": "tin_color.png" }], "textures": [{ "source": 0 }],
                      "materials": [{ "name": "tin", "alphaMode": "{{mode}}",
                        "pbrMetallicRoughness": { "baseColorTexture": { "index": 0 {{transform}} } } }] }
                    """
                )
            );
        }

        var tiled = Of("tiled", """, "extensions": { "KHR_texture_transform": { "scale": [3, 3] } }""");
        Assert.Equal(["material tin tiling base colour"], TransferCheck.Compare(tiled, Of("plain", "")).Rows.Select(Row));
    }

    [Fact]
    public void The_command_line_gives_the_rows()
    {
        var answer = Answer("tin_pear");
        var said = Tool.RootCall("compare", answer.Clean, answer.Arrived, "--format", "json");
        Assert.Equal(1, said.Status);
        using var json = JsonDocument.Parse(said.Output);
        var row = Assert.Single(json.RootElement.GetProperty("rows").EnumerateArray());
        Assert.Equal(
            ("material", "tin_skin", "value", "0.35", "0.9"),
            (
                row.GetProperty("kind").GetString(),
                row.GetProperty("name").GetString(),
                row.GetProperty("what").GetString(),
                row.GetProperty("a").GetString(),
                row.GetProperty("b").GetString()
            )
        );
        Assert.Equal(0, Tool.RootCall("compare", answer.Clean, answer.Clean).Status);
        Assert.Equal(2, Tool.RootCall("compare", answer.Clean, place.At("nothing.usda")).Status);
    }

    public void Dispose() => place.Dispose();

    private DemoAnswer Answer(string name) => demo.Answers().Single(a => a.Name == name);

    private EditedFiles Make(string scene, MusterContext context, ImmutableArray<Edit> edits)
    {
        var folder = place.At("edited");
        Directory.CreateDirectory(folder);
        return EditedFiles.Make(
            scene,
            [new(Guid.NewGuid(), "Restore", edits, EntryState.Applied, "transfer check", DateTimeOffset.UnixEpoch)],
            folder,
            new ReadContext(context.Scope, Bounds.Default)
        );
    }

    private static string Row(TransferRow row) => $"{row.Kind} {row.Name} {row.What}{(row.Input is null ? string.Empty : " " + row.Input)}";
}
