using System.Collections.Immutable;
using System.CommandLine;
using RootCall.Cli.Output;
using RootCall.Core.Crossing;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;

namespace RootCall.Cli.Verbs;

/// <summary><c>convert</c>: materials in another shading model, each with how far its look moved.</summary>
internal static class ConvertVerb
{
    /// <summary>Surfaces that a MaterialX document can say.</summary>
    private static readonly ImmutableArray<string> Written = ["standard-surface", "open-pbr", "usd-preview-surface", "materialx-gltf-pbr"];

    private const int TextureSide = 512;

    public static Command Command()
    {
        var (scene, roots, format, output) = (
            SharedOptions.Scene(),
            SharedOptions.Roots(),
            SharedOptions.Format(),
            SharedOptions.Out("The folder to write into; what is there already stays.")
        );
        var models = Crossings.Models.Append("materialx-gltf-pbr").ToList();
        var to = new Option<string>("--to") { Description = $"The shading model: {string.Join(", ", models)}.", Required = true };
        var form = new Option<string?>("--as")
        {
            Description =
                "scene, a copy of the scene with the crossed materials; mtlx, a MaterialX document of them; glb, the scene with its "
                + "geometry as a GLB; usda, the same as a text layer of USD. Without it, scene where its format says the model.",
        };
        form.AcceptOnlyFromAmong("scene", "mtlx", "glb", "usda");
        var route = new Option<CrossingRoute>("--route")
        {
            Description = "What becomes of mirrored colours: kept, as an index and a tint; or metalness, by the published solve.",
        };
        var material = new Option<string[]>("--material") { Description = "Only these, by name or id." };
        var limit = new Option<double>("--limit")
        {
            Description = "How far a look may move: mean ΔE.",
            DefaultValueFactory = _ => CrossingGoals.UsualLimit,
        };
        var fit = new Option<bool>("--fit") { Description = "Take the numbers that come nearest, where they win over the formulas." };
        var recipe = new Option<string?>("--recipe") { Description = "Take what this recipe (a JSON file) says of crossings." };
        var houseRules = SharedOptions.HouseRules();
        var command = new Command("convert", "Carries materials to another shading model, and measures how far their looks move.")
        {
            scene,
            roots,
            to,
            material,
            form,
            route,
            limit,
            fit,
            recipe,
            houseRules,
            output,
            format,
        };
        command.SetAction(call =>
        {
            var model = call.GetValue(to)!;
            if (!models.Contains(model))
                throw new CannotUseException($"“{model}” is no shading model here: it is one of {string.Join(", ", models)}.");
            using var opened = OpenedScene.Open(call.GetValue(scene)!, call.GetValue(roots)!);
            var report = opened.Report;
            var picked = call.GetValue(material) is { Length: > 0 } names
                ? names.Select(n => report.Scene.Called(n) ?? throw new CannotUseException($"The scene has no material “{n}”.")).ToList()
                : report.Scene.Materials.Where(m => !m.IsTemplate && m.Graph.SurfaceNode is not null).ToList();
            var folder = Path.GetFullPath(call.GetValue(output)!);
            using var moment = Folders.Temporary();
            var textures = new TextureCache(opened.Decoder, FrameWorks.TextureBytes, TextureSide);
            var carrying = new Carrying(opened, textures, moment.Path, model)
            {
                Route = call.GetValue(route),
                Fit = call.GetValue(fit),
                Recipe = FixVerb.Read(call.GetValue(recipe)),
                House = OpenedScene.House(call.GetValue(houseRules)),
            };
            var whyNot = CrossingEntries.WhyNot(SceneFormats.Of(report.Scene.Path).Capabilities, model);
            var written = call.GetValue(form) ?? (whyNot is null ? "scene" : "mtlx");
            if (written == "scene" && whyNot is not null)
                throw new CannotUseException(whyNot);
            var (path, rows, told) = written switch
            {
                "scene" => new CrossedCopy(opened, carrying, folder).Write(picked),
                _ when CrossedForm.Find(written) is { } other => new CrossedFileCopy(opened, carrying, other, folder).Write(picked),
                _ => Document(new(opened, carrying, folder), picked, model),
            };
            rows = [.. rows.OrderByDescending(r => r.DeltaE?.Mean ?? double.MaxValue)];
            if (call.GetValue(format) == "json")
                Print.Json(new(path, rows, told), OutputContext.Default.ConvertJson);
            else
                Tell(path, rows, told);
            var most = call.GetValue(limit);
            return rows.All(r => r.WhyNot is null && (r.DeltaE is not { } moved || moved.Mean <= most)) ? 0 : 1;
        });
        return command;
    }

    private static (string Path, IReadOnlyList<ConvertedJson> Rows, ImmutableArray<string> Told) Document(
        CrossedDocument work,
        IEnumerable<Material> picked,
        string model
    )
    {
        if (!Written.Contains(model))
            throw new CannotUseException($"“{model}” is not written as MaterialX: {string.Join(", ", Written)} are.");
        return work.Write(picked);
    }

    private static string Called(MappingJson row) => row.Input.Length > 0 ? row.Input : "its default";

    private static void Tell(string path, IEnumerable<ConvertedJson> rows, IEnumerable<string> told)
    {
        Console.WriteLine(path);
        foreach (var sentence in told)
            Console.WriteLine($"  {sentence}");
        foreach (var row in rows)
        {
            Console.WriteLine(
                row.WhyNot is { } why ? $"  {row.Name}: left. {why}"
                : row.DeltaE is { } moved
                    ? FormattableString.Invariant(
                        $"  {row.Name}: ΔE {moved.Mean:0.0} mean, {moved.P95:0.0} of 95 in 100, {moved.Max:0.0} at most"
                    ) + (row.Formula is { } plain ? FormattableString.Invariant($"; {plain.Mean:0.0} by formula alone") : string.Empty)
                : $"  {row.Name}"
            );
            foreach (var m in row.Mappings.Where(m => m.Kind != MappingKind.Exact))
                Console.WriteLine($"    {Called(m)}: {(m.Kind == MappingKind.Lost ? "lost" : "approximate")}, {m.Detail}");
        }
    }
}
