using System.Globalization;
using System.Text;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>Writes edits of looks into material libraries: one statement is replaced, added or taken out.</summary>
internal sealed class WavefrontLooks(Scene scene)
{
    private readonly List<(int File, ByteEdit Edit)> edits = [];
    private readonly Dictionary<string, byte[]> added = [];
    private readonly Dictionary<int, List<Line>> libraries = [];

    private sealed record Line(string Material, string Keyword, long Start, int Length, string Rest);

    public OwnChanges Make(IReadOnlyList<LookEdit> looks)
    {
        foreach (var look in looks) Add(look);
        return new(edits.ToLookup(e => e.File, e => e.Edit), added);
    }

    private void Add(LookEdit look)
    {
        switch (look)
        {
            case SetValue value:
                if (!MtlMaterials.Values.ContainsKey(value.Input)) throw new CannotUseException($"MTL has no statement for the value of {value.Input}.");
                Put(value.Material, [value.Input], value.To is null ? null : $"{value.Input} {value.To}");
                break;
            case SetImage { To: { } image } set:
                var statements = MtlMaterials.StatementsOf(set.Input).ToList();
                if (statements.Count == 0) throw new CannotUseException($"MTL has no map for {set.Input}.");
                Put(set.Material, statements, Map(statements[0], image), keepKeyword: true);
                break;
            case SetImage { To: null } set:
                Put(set.Material, [.. MtlMaterials.StatementsOf(set.Input)], null);
                break;
            case Rename { Kind: "material" } rename:
                Rename(rename);
                break;
            case RemoveMaterial remove:
                Remove(remove.Material);
                break;
            case MakeLibrary make:
                Make(make);
                break;
            case AssignMaterial:
                throw new CannotUseException("An OBJ assigns materials face by face; the assignment was left as it is.");
            default:
                throw new CannotUseException($"Wavefront cannot say this: {look.Describe()}.");
        }
    }

    /// <summary>The definition in its library, and every statement of the OBJ that uses it.</summary>
    private void Rename(Rename rename)
    {
        var found = 0;
        for (var file = 0; file < scene.Files.Length; file++)
            foreach (var line in Lines(file).Where(l => l.Keyword is "newmtl" or "usemtl" && l.Rest == rename.From))
            {
                edits.Add((file, new(line.Start, line.Length, Encoding.UTF8.GetBytes($"{line.Keyword} {rename.To}"))));
                found++;
            }

        if (found == 0) throw new CannotUseException($"Nothing in the scene is called {rename.From}.");
    }

    private void Remove(string material)
    {
        for (var file = 1; file < scene.Files.Length; file++)
        {
            var block = Lines(file).Where(l => l.Material == material).ToList();
            foreach (var line in block) edits.Add((file, new(line.Start, line.Length, [])));
            if (block.Count > 0) return;
        }

        throw new CannotUseException($"No library that was read defines the material {material}.");
    }

    private void Make(MakeLibrary make)
    {
        if (scene.References.Any(r => r.Kind == ReferenceKind.MaterialLibrary)) throw new CannotUseException("The scene calls for a material library already.");
        var path = Path.Combine(scene.Folder, make.Written);
        if (File.Exists(path)) throw new CannotUseException($"“{make.Written}” is already there; nothing that exists is written over.");
        var text = new StringBuilder();
        foreach (var material in scene.Materials) text.Append("newmtl ").Append(material.Name).Append("\nKd 0.8 0.8 0.8\n\n");
        added[path] = Encoding.UTF8.GetBytes(text.ToString());
        edits.Add((0, new(0, 0, Encoding.UTF8.GetBytes($"mtllib {make.Written}\n"))));
    }

    private static string Map(string keyword, ImageUse image)
    {
        var text = new StringBuilder(keyword);
        var t = image.Transform;
        if (t.Rotation != 0) throw new CannotUseException("MTL has no rotation of UV coordinates.");
        void Option(string name, params double[] numbers) => text.Append(' ').Append(name).Append(' ').AppendJoin(' ', numbers.Select(n => n.ToString("0.######", CultureInfo.InvariantCulture)));
        if (t.OffsetU != 0 || t.OffsetV != 0) Option("-o", t.OffsetU, t.OffsetV, 0);
        if (t.ScaleU != 1 || t.ScaleV != 1) Option("-s", t.ScaleU, t.ScaleV, 1);
        var bump = keyword.EndsWith("bump", StringComparison.OrdinalIgnoreCase);
        if (bump && image.Scale is [var multiplier, ..] && multiplier != 1) Option("-bm", multiplier);
        else if (!bump && (image.Scale.Length > 0 || image.Bias.Length > 0)) Option("-mm", image.Bias is [var low, ..] ? low : 0, image.Scale is [var gain, ..] ? gain : 1);
        if (image.WrapU == WrapMode.Clamp) text.Append(" -clamp on");
        if (image.Channels is "r" or "g" or "b") text.Append(" -imfchan ").Append(image.Channels);
        return text.Append(' ').Append(WavefrontFormat.Safe(image.Reference.Written)).ToString();
    }

    /// <param name="statement">The whole statement; null takes it out.</param>
    /// <param name="keepKeyword">Leave the spelling of the keyword that stands there.</param>
    private void Put(string material, IReadOnlyList<string> keywords, string? statement, bool keepKeyword = false)
    {
        for (var file = 1; file < scene.Files.Length; file++)
        {
            var lines = Lines(file);
            var block = lines.Where(l => l.Material == material).ToList();
            if (block.Count == 0) continue;
            var old = block.FirstOrDefault(l => keywords.Contains(l.Keyword, StringComparer.OrdinalIgnoreCase));
            if (old is null && statement is null) return;
            if (old is null)
            {
                var last = block[^1];
                edits.Add((file, new(last.Start + last.Length, 0, Encoding.UTF8.GetBytes("\n" + statement))));
                return;
            }

            if (statement is not null && keepKeyword) statement = old.Keyword + statement[statement.IndexOf(' ', StringComparison.Ordinal)..];
            // A statement that goes leaves its empty line, so that no other byte moves.
            edits.Add((file, new(old.Start, old.Length, Encoding.UTF8.GetBytes(statement ?? string.Empty))));
            return;
        }

        throw new CannotUseException($"No library that was read defines the material {material}; make or relink its library first.");
    }

    private List<Line> Lines(int file)
    {
        if (libraries.TryGetValue(file, out var known)) return known;
        var list = new List<Line>();
        using var stream = scene.Files[file].Open();
        var lines = new ByteLines(stream);
        var material = string.Empty;
        while (lines.Next(out var line))
        {
            var statement = Statement.Of(line);
            if (statement.Keyword.Length == 0 || statement.Keyword[0] == (byte)'#') continue;
            if (statement.Is("newmtl"u8)) material = Statement.Decode(statement.Rest);
            var start = statement.RestStart > 0 ? line.IndexOf(statement.Keyword) : 0;
            list.Add(new(material, Statement.Decode(statement.Keyword), lines.Start + start, statement.RestStart + statement.Rest.Length - start, Statement.Decode(statement.Rest)));
        }

        return libraries[file] = list;
    }
}
