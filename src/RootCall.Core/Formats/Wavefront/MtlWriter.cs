using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>Writes what differs between two states of a scene into its material libraries, a statement at a time.</summary>
internal sealed class MtlWriter(Scene before, Scene now)
{
    private readonly List<(int File, ByteEdit Edit)> edits = [];
    private readonly Dictionary<string, byte[]> added = [];
    private readonly Dictionary<int, MtlText> texts = [];

    public OwnChanges Write()
    {
        var current = now.Materials.DistinctBy(m => m.Arrived ?? m.Name).ToDictionary(m => m.Arrived ?? m.Name, StringComparer.Ordinal);
        var library = now.Files.FirstOrDefault(f => f.IsMade);
        if (library is not null)
            Make(library);
        foreach (var material in before.Materials)
        {
            if (!current.TryGetValue(material.Name, out var changed))
                Remove(material);
            else if (!ReferenceEquals(material, changed))
                Change(material, changed);
        }

        var known = before.Materials.Select(m => m.Name).ToHashSet(StringComparer.Ordinal);
        foreach (
            var file in now.Materials.Where(m => m.File < before.Files.Length && !known.Contains(m.Arrived ?? m.Name)).GroupBy(m => m.File)
        )
            Append(file.Key, file);
        return new(edits.ToLookup(e => e.File, e => e.Edit), added);
    }

    /// <summary>More definitions at the end of a library.</summary>
    private void Append(int file, IEnumerable<Material> materials)
    {
        using var stream = before.Files[file].Open();
        var length = stream.Length;
        var newLine = Text(file).NewLine;
        stream.Position = Math.Max(0, length - 1);
        var text = new StringBuilder(length > 0 && stream.ReadByte() != '\n' ? newLine : string.Empty);
        foreach (var material in materials)
            Define(text.Append(newLine), material, newLine);
        edits.Add((file, new(length, 0, Encoding.UTF8.GetBytes(text.ToString()))));
    }

    private static void Define(StringBuilder text, Material material, string newLine)
    {
        text.Append("newmtl ").Append(material.Name).Append(newLine);
        foreach (var input in FixedGraph.Read(material.Graph))
        {
            if (input.Value is { } value)
                text.Append(input.Name).Append(' ').Append(value.Text ?? NumberText.Join(" ", value.Numbers)).Append(newLine);
            if (input.Image is { } image)
                text.Append(MapText.Of(image, null).Whole).Append(newLine);
        }
    }

    private MtlText Text(int file) => texts.TryGetValue(file, out var text) ? text : texts[file] = MtlText.Read(before.Files[file]);

    private void Change(Material old, Material material)
    {
        if (old.Name != material.Name)
            Rename(old.Name, material.Name);
        // What no library defined before is defined in the one that is made.
        var changes = old.Graph.SurfaceNode is null ? [] : FixedGraph.Changes(old.Graph, material.Graph).ToList();
        if (changes.Count == 0)
            return;
        var text = Text(old.File);
        var block = new MtlBlock(text, text.BlockOf(old.Name));
        foreach (var (was, input) in changes)
        {
            var name = (input ?? was)!.Name;
            if (!Equals(was?.Value, input?.Value))
                block.Put([name], input?.Value is { } value ? new(name, value.Text ?? NumberText.Join(" ", value.Numbers)) : null);
            if (!(was?.Image?.SameAs(input?.Image) ?? input?.Image is null))
                block.Put([.. MtlMaterials.StatementsOf(name)], input?.Image is { } image ? MapText.Of(image, was?.Image) : null);
        }

        edits.AddRange(block.Edits().Select(e => (old.File, e)));
    }

    /// <summary>The definition in its library, and every statement of the scene that uses it.</summary>
    private void Rename(string from, string to)
    {
        for (var file = 0; file < before.Files.Length; file++)
            foreach (var line in Text(file).Lines.Where(l => l.Keyword is "newmtl" or "usemtl" && l.Rest == from))
                edits.Add((file, new(line.RestStart, line.RestLength, Encoding.UTF8.GetBytes(to))));
    }

    private void Remove(Material material)
    {
        if (material.Graph.SurfaceNode is null)
            return;
        var text = Text(material.File);
        var block = text.BlockOf(material.Name).ToList();
        if (block.Count == 0)
            return;
        var end = text.BlankAfter(block[^1]);
        edits.Add((material.File, new(block[0].Start, (int)(end - block[0].Start), [])));
    }

    /// <summary>A library for a scene that has none, with an entry for each material that it uses.</summary>
    private void Make(SourceFile library)
    {
        var text = new StringBuilder();
        foreach (var material in now.Materials)
        {
            Define(text, material, "\n");
            text.Append('\n');
        }

        added[library.Path] = Encoding.UTF8.GetBytes(text.ToString());
        edits.Add((0, new(0, 0, Encoding.UTF8.GetBytes($"mtllib {Path.GetRelativePath(now.Folder, library.Path)}\n"))));
    }
}

/// <summary>A statement to be written.</summary>
internal sealed record MtlStatement(string Keyword, string Rest)
{
    /// <summary>Only the file's name differs from the statement that stands there: its options stay byte for byte.</summary>
    public string? NameOnly { get; init; }

    public string Whole => $"{Keyword} {Rest}";
}

/// <summary>How an image is read, in the options of a map statement.</summary>
internal static class MapText
{
    public static MtlStatement Of(ImageUse image, ImageUse? old)
    {
        var text = new StringBuilder();
        var t = image.Transform;
        void Option(string name, params double[] numbers) =>
            text.Append(name).Append(' ').Append(NumberText.Join(" ", numbers)).Append(' ');
        if (t.OffsetU != 0 || t.OffsetV != 0)
            Option("-o", t.OffsetU, t.OffsetV, 0);
        if (t.ScaleU != 1 || t.ScaleV != 1)
            Option("-s", t.ScaleU, t.ScaleV, 1);
        if (image.Bias is [var low, ..])
            Option("-mm", low, image.Scale is [var gain, ..] ? gain : 1);
        else if (image.Scale is [var multiplier, ..])
            Option("-bm", multiplier);
        if (image.WrapU == WrapMode.Clamp)
            text.Append("-clamp on ");
        if (image.Channels is Channels.R or Channels.G or Channels.B or Channels.Depth)
            text.Append("-imfchan ").Append(image.Channels.Word()).Append(' ');
        if (image.Channels is Channels.A)
            text.Append("-imfchan m ");
        return new(image.Slot, text.Append(image.Reference.Written).ToString())
        {
            NameOnly = old is not null && old.SameReading(image) && old.Channels == image.Channels ? image.Reference.Written : null,
        };
    }
}
