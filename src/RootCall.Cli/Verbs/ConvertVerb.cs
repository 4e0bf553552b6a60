using System.Collections.Immutable;
using System.CommandLine;
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

/// <summary><c>convert</c>: materials in another shading model, each with how far its look moved.</summary>
internal static class ConvertVerb
{
    /// <summary>Surfaces that a MaterialX document can say.</summary>
    private static readonly ImmutableArray<string> Written = ["standard-surface", "open-pbr", "usd-preview-surface", "materialx-gltf-pbr"];

    /// <summary>Of the pictures that looks are held beside each other in.</summary>
    private const int Side = 96,
        Samples = 16,
        TextureSide = 512;

    public static Command Command()
    {
        var (scene, roots, format, output) = (
            SharedOptions.Scene(),
            SharedOptions.Roots(),
            SharedOptions.Format(),
            SharedOptions.Out("The folder to write a MaterialX document into; what is there already stays.")
        );
        var to = new Option<string>("--to") { Description = $"The shading model: {string.Join(", ", Written)}.", Required = true };
        var material = new Option<string[]>("--material") { Description = "Only these, by name or id." };
        var limit = new Option<double>("--limit") { Description = "How far a look may move: mean ΔE.", DefaultValueFactory = _ => 3 };
        var command = new Command("convert", "Carries materials to another shading model, and measures how far their looks move.")
        {
            scene,
            roots,
            to,
            material,
            limit,
            output,
            format,
        };
        command.SetAction(call =>
        {
            var model = call.GetValue(to)!;
            if (!Written.Contains(model))
                throw new CannotUseException($"“{model}” is not written yet: it is one of {string.Join(", ", Written)}.");
            using var opened = OpenedScene.Open(call.GetValue(scene)!, call.GetValue(roots)!);
            var report = opened.Report;
            var picked = call.GetValue(material) is { Length: > 0 } names
                ? names.Select(n => report.Scene.Called(n) ?? throw new CannotUseException($"The scene has no material “{n}”.")).ToList()
                : report.Scene.Materials.Where(m => !m.IsTemplate && m.Graph.SurfaceNode is not null).ToList();
            var folder = Path.GetFullPath(call.GetValue(output)!);
            var path = Path.Combine(folder, $"{Path.GetFileNameWithoutExtension(report.Scene.Path)}.{model}.mtlx");
            if (File.Exists(path))
                throw new CannotUseException($"“{path}” is already there; nothing that exists is written over.");
            using var moment = Folders.Temporary();
            var work = new Crossed(opened, new(opened.Decoder, FrameWorks.TextureBytes, TextureSide), moment.Path, folder);
            var rows = picked.Select(m => work.Cross(m, model)).OrderByDescending(r => r.DeltaE?.Mean ?? double.MaxValue).ToList();
            Directory.CreateDirectory(folder);
            WholeOrNothing.File(path, file => file.Write(System.Text.Encoding.UTF8.GetBytes(work.Author.Document())));
            if (call.GetValue(format) == "json")
                Print.Json(new(path, rows), OutputContext.Default.ConvertJson);
            else
                Tell(path, rows);
            var most = call.GetValue(limit);
            return rows.TrueForAll(r => r.WhyNot is null && (r.DeltaE is not { } moved || moved.Mean <= most)) ? 0 : 1;
        });
        return command;
    }

    private static void Tell(string path, IEnumerable<ConvertedJson> rows)
    {
        Console.WriteLine(path);
        foreach (var row in rows)
        {
            Console.WriteLine(
                row.WhyNot is { } why ? $"  {row.Name}: left. {why}"
                : row.DeltaE is { } moved
                    ? FormattableString.Invariant(
                        $"  {row.Name}: ΔE {moved.Mean:0.0} mean, {moved.P95:0.0} of 95 in 100, {moved.Max:0.0} at most"
                    )
                : $"  {row.Name}"
            );
            foreach (var m in row.Mappings.Where(m => m.Kind != MappingKind.Exact))
                Console.WriteLine($"    {m.Input}: {(m.Kind == MappingKind.Lost ? "lost" : "approximate")}, {m.Detail}");
        }
    }

    /// <summary>Crosses the materials of one scene.</summary>
    private sealed class Crossed(OpenedScene opened, TextureCache textures, string moment, string folder)
    {
        private readonly Dictionary<ReferenceKey, string> paths = opened
            .Report.References.DistinctBy(r => r.Reference.Key)
            .ToDictionary(
                r => r.Reference.Key,
                r =>
                    (r.Called ?? r.Clear?.Path) is { } file
                        ? Path.GetRelativePath(folder, file).Replace('\\', '/')
                        : r.Reference.Key.Written
            );

        public MtlxAuthor Author => author ??= new(k => paths.GetValueOrDefault(k, k.Written));

        private MtlxAuthor? author;

        public ConvertedJson Cross(Material material, string to)
        {
            if (Crossings.Of(material.Graph, to) is not { } crossed)
                return new(
                    material.Name,
                    material.Graph.SurfaceNode?.Type ?? string.Empty,
                    to,
                    null,
                    [],
                    "Its shading model cannot be carried."
                );
            var why = Author.Add(material.Name, crossed.Graph);
            return new(
                material.Name,
                crossed.From,
                to,
                Moved(material, crossed),
                [.. crossed.Mappings.Select(m => new MappingJson(string.Join(", ", m.From), m.To, m.Kind, m.Detail, m.Before, m.After))],
                why
            );
        }

        private DeltaEJson? Moved(Material material, CrossedMaterial crossed)
        {
            Swatch? Of(Material m) =>
                Swatch.Of(
                    SwatchOrder.Of(m, opened.Report, SwatchLight.Studio, Side),
                    textures,
                    moment,
                    Samples,
                    Environment.ProcessorCount,
                    Timeout.InfiniteTimeSpan,
                    CancellationToken.None
                );
            LookDifference? difference =
                Of(material) is { } before && Of(material with { Graph = crossed.Graph }) is { } after ? after.Difference(before) : null;
            return difference is null ? null : new(difference.Mean, difference.High, difference.Most);
        }
    }
}
