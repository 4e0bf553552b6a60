using System.Collections.Immutable;
using RootCall.Cli.Output;
using RootCall.Core.Files;
using RootCall.Core.Formats.MaterialX;
using RootCall.Core.Scenes;

namespace RootCall.Cli.Verbs;

/// <summary>Materials of one scene as a MaterialX document.</summary>
internal sealed class CrossedDocument(OpenedScene opened, Carrying carrying, string folder)
{
    private readonly Dictionary<ReferenceKey, string> paths = opened
        .Report.References.DistinctBy(r => r.Reference.Key)
        .ToDictionary(
            r => r.Reference.Key,
            r => (r.Called ?? r.Clear?.Path) is { } file ? Path.GetRelativePath(folder, file).Replace('\\', '/') : r.Reference.Key.Written
        );

    public (string Path, IReadOnlyList<ConvertedJson> Rows, ImmutableArray<string> Told) Write(IEnumerable<Material> picked)
    {
        var path = Path.Combine(folder, $"{Path.GetFileNameWithoutExtension(opened.Report.Scene.Path)}.{carrying.To}.mtlx");
        if (File.Exists(path))
            throw new CannotUseException($"“{path}” is already there; nothing that exists is written over.");
        var author = new MtlxAuthor(k => paths.GetValueOrDefault(k, k.Written));
        var rows = new List<ConvertedJson>();
        foreach (var material in picked)
        {
            var carried = carrying.Of(material);
            rows.Add(carried.Row(carried.Crossed is { } crossed ? author.Add(material.Name, crossed.Graph) : null));
        }

        Directory.CreateDirectory(folder);
        WholeOrNothing.File(path, file => file.Write(System.Text.Encoding.UTF8.GetBytes(author.Document())));
        return (path, rows, []);
    }
}
