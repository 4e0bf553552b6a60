using RootCall.Cli.Output;
using RootCall.Core.Crossing;
using RootCall.Core.Files;
using RootCall.Core.Formats.MaterialX;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Scenes;
using RootCall.Core.Viewing;

namespace RootCall.Cli.Verbs;

/// <summary>How far looks of one scene move, by spheres in the studio.</summary>
internal sealed class LookMeasure(OpenedScene opened, TextureCache textures, string moment)
{
    private const int Side = 96,
        Samples = 16;

    /// <summary>Null where one of the two is not drawn.</summary>
    public DeltaEJson? Moved(Material material, CrossedMaterial crossed)
    {
        Swatch? Of(ShaderGraph look) =>
            Swatch.Of(
                // A crossed look reads the images of the one that arrived.
                SwatchOrder.Of(material, opened.Report, SwatchLight.Studio, Side) with
                {
                    Graph = look,
                },
                textures,
                moment,
                Samples,
                Environment.ProcessorCount,
                Timeout.InfiniteTimeSpan,
                CancellationToken.None
            );
        LookDifference? difference = Of(material.Graph) is { } before && Of(crossed.Graph) is { } after ? after.Difference(before) : null;
        return difference is null ? null : new(difference.Mean, difference.High, difference.Most);
    }

    public ConvertedJson Row(Material material, string to, CrossedMaterial? crossed, string? why) =>
        crossed is null
            ? new(
                material.Name,
                material.Graph.SurfaceNode?.Type ?? string.Empty,
                to,
                null,
                [],
                why ?? "Its shading model cannot be carried."
            )
            : new(
                material.Name,
                crossed.From,
                to,
                Moved(material, crossed),
                [.. crossed.Mappings.Select(m => new MappingJson(string.Join(", ", m.From), m.To, m.Kind, m.Detail, m.Before, m.After))],
                why
            );
}

/// <summary>Materials of one scene as a MaterialX document.</summary>
internal sealed class CrossedDocument(OpenedScene opened, TextureCache textures, string moment, string folder)
{
    private readonly LookMeasure measure = new(opened, textures, moment);

    private readonly Dictionary<ReferenceKey, string> paths = opened
        .Report.References.DistinctBy(r => r.Reference.Key)
        .ToDictionary(
            r => r.Reference.Key,
            r => (r.Called ?? r.Clear?.Path) is { } file ? Path.GetRelativePath(folder, file).Replace('\\', '/') : r.Reference.Key.Written
        );

    public (string Path, IReadOnlyList<ConvertedJson> Rows) Write(IEnumerable<Material> picked, string to, CrossingRoute route)
    {
        var path = Path.Combine(folder, $"{Path.GetFileNameWithoutExtension(opened.Report.Scene.Path)}.{to}.mtlx");
        if (File.Exists(path))
            throw new CannotUseException($"“{path}” is already there; nothing that exists is written over.");
        var author = new MtlxAuthor(k => paths.GetValueOrDefault(k, k.Written));
        var rows = new List<ConvertedJson>();
        foreach (var material in picked)
        {
            var crossed = Crossings.Of(material.Graph, to, route);
            rows.Add(measure.Row(material, to, crossed, crossed is null ? null : author.Add(material.Name, crossed.Graph)));
        }

        Directory.CreateDirectory(folder);
        WholeOrNothing.File(path, file => file.Write(System.Text.Encoding.UTF8.GetBytes(author.Document())));
        return (path, rows);
    }
}
