using System.Collections.Immutable;
using System.Text.Json;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Edits;

/// <summary>Every kind of edit can be told and stored; a ledger of them is made entry by entry.</summary>
public sealed class LookEditTests : IDisposable
{
    private static readonly ReferenceKey Image = new(ReferenceKind.Image, "s.gltf", "a.png");

    private readonly Place place = new();

    public static TheoryData<Edit, string> Edits =>
        new()
        {
            { new RelinkReference(Image, null, "/lib/a.png"), "Relink a.png to /lib/a.png" },
            { new SetValue("tin", "roughness", null, ShaderValue.Of(0.18)), "Set tin.roughness to 0.18" },
            { new SetValue("tin", "roughness", ShaderValue.Of(0.18), null), "Leave tin.roughness to its default" },
            { new SetImage("tin", "normal", null, new(Image)), "Connect a.png to tin.normal" },
            { new SetImage("tin", "normal", new(Image), null), "Disconnect a.png from tin.normal" },
            {
                new SetImage("tin", "normal", new(Image), new(Image) { Transform = UvTransform.Identity with { ScaleU = 4, ScaleV = 2 } }),
                "Set the tiling of tin.normal to 4 x 2"
            },
            { new SetImage("tin", "normal", new(Image), new(Image with { Written = "b.png" })), "Feed tin.normal from b.png" },
            { new SetImage("tin", "normal", new(Image), new(Image) { DeclaredSpace = "raw" }), "Change how tin.normal reads a.png" },
            { new AssignMaterial("box", "lid", "tin", "brass"), "Assign brass to box.lid" },
            { new AssignMaterial("box", string.Empty, "tin", string.Empty), "Assign no material to box" },
            { new ExtractImage(Image, "/store/a.png", "textures/a.png"), "Extract a.png to textures/a.png" },
            { new CarryImage(Image, "/lib/a.png"), "Carry a.png inside the scene" },
            { new SelectVariant("/W", "patina", "fresh", "aged"), "Choose aged for patina of /W" },
            { new SetAsset("/W/c.inputs:file", "a.png", "b.png"), "Call b.png from /W/c.inputs:file" },
        };

    [Theory]
    [MemberData(nameof(Edits))]
    public void An_edit_is_told_and_stored(Edit edit, string sentence)
    {
        Assert.Equal(sentence, edit.Describe());
        Assert.False(string.IsNullOrWhiteSpace(edit.Target));
        Assert.NotEqual(edit.Text.Before, edit.Text.After);
        var stored = JsonSerializer.Deserialize<Edit>(Json(edit))!;
        Assert.Equal(edit.GetType(), stored.GetType());
        Assert.Equal(Json(edit), Json(stored));
    }

    [Fact]
    public void Entries_are_made_one_on_the_other_and_each_refusal_names_its_entry()
    {
        var path = place.Put("s.gltf", Look.Gltf("a.png"));
        LedgerEntry Entry(params Edit[] edits) => new(Guid.NewGuid(), "x", [.. edits], EntryState.Applied, "by hand", default);
        LedgerEntry[] entries =
        [
            Entry(new SetValue("m0", "roughness", null, ShaderValue.Of(0.1)), new SetValue("gone", "roughness", null, ShaderValue.Of(1))),
            Entry(new SetValue("m0", "roughness", ShaderValue.Of(0.1), ShaderValue.Of(0.2))),
            Entry(new RelinkReference(new(ReferenceKind.Image, "s.gltf", "a.png"), null, "/x")),
            Entry(new SetValue("m0", "roughness", ShaderValue.Of(0.2), null), new SetValue("m0", "metallic", null, ShaderValue.Of(0))),
        ];
        Directory.CreateDirectory(place.At("edited"));
        var made = EditedFiles.Make(path, entries, place.At("edited"), new(new([place.Folder]), Bounds.Default));
        var refusal = Assert.Single(made.Refused);
        Assert.Equal((entries[0].Id, "The scene has no material gone."), (refusal.Entry.Id, refusal.Reason));
        var text = File.ReadAllText(made.Copies[path]);
        Assert.Contains("\"metallicFactor\": 0", text, StringComparison.Ordinal);
        Assert.DoesNotContain("roughnessFactor", text, StringComparison.Ordinal);
        Assert.Equal(Look.Gltf("a.png"), File.ReadAllText(path));
        Assert.Empty(EditedFiles.Make(path, [], place.Folder, new(new([place.Folder]), Bounds.Default)).Copies);
    }

    [Fact]
    public void An_entry_that_another_stands_on_is_not_taken_back()
    {
        var first = new LedgerEntry(
            Guid.NewGuid(),
            "first",
            [new SetValue("tin", "roughness", null, ShaderValue.Of(1))],
            EntryState.Applied,
            "by hand",
            default
        );
        var other = first with { Id = Guid.NewGuid(), Edits = [new SetValue("brass", "roughness", null, ShaderValue.Of(1))] };
        var second = first with { Id = Guid.NewGuid(), Edits = [new SetImage("tin", "roughness", null, new(Image))] };
        var ledger = new Ledger(ImmutableArray.Create(first, other, second));
        ledger.TakeBack(first.Id, out var standing);
        Assert.Equal([second.Id], standing.Select(s => s.Id));
        Assert.Equal([first.Id, second.Id], ledger.TakeBack(other.Id, out _).Entries.Select(e => e.Id));
    }

    public void Dispose() => place.Dispose();

    private static string Json(Edit edit) => JsonSerializer.Serialize(edit);
}
