using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Crossing.Models;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing;

/// <summary>A material in another shading model.</summary>
/// <param name="From">Id of the model that it had.</param>
/// <param name="Graph">Its look there; what varied over the surface is nodes of MaterialX's standard library.</param>
/// <param name="Mappings">Where each input went; the worst first.</param>
public sealed record CrossedMaterial(string From, string To, ShaderGraph Graph, ImmutableArray<Mapping> Mappings)
{
    /// <summary>It says what it mirrors as a colour: either of <see cref="CrossingRoute"/> leads to the other model.</summary>
    public bool HasRoutes { get; init; }

    /// <summary>
    /// The same with some inputs given other numbers; one that the model does not have, or not so many numbers, is left out.
    /// </summary>
    public CrossedMaterial With(IReadOnlyList<SetInput> set)
    {
        var (model, surface, rows) = (ShadingModels.Find(To)!, Graph.SurfaceNode!, Mappings);
        foreach (var said in set)
        {
            var (name, value) = said;
            if (model.Input(name) is not { } data || value.Text is not null || value.Numbers.Length != data.Type.Numbers)
                continue;
            var input = new ShaderInput(name, data.Type, value) { Default = data.Default.IsEmpty ? null : new(data.Default) };
            var there = surface.Input(name);
            surface = surface with { Inputs = there is null ? surface.Inputs.Add(input) : surface.Inputs.Replace(there, input) };
            var row = rows.FirstOrDefault(r => r.To == name);
            var mine = new Mapping(
                row?.From ?? [],
                name,
                MappingKind.Approximate,
                said.IsFitted ? "fitted to how it looked" : "set by hand",
                row?.Before ?? string.Empty,
                $"{value}",
                false
            );
            rows = row is null ? rows.Add(mine) : rows.Replace(row, mine);
        }

        return ReferenceEquals(surface, Graph.SurfaceNode)
            ? this
            : this with
            {
                Graph = Graph with { Nodes = Graph.Nodes.Replace(Graph.SurfaceNode!, surface) },
                Mappings = rows,
            };
    }
}

/// <summary>What becomes of a mirrored colour that stands beside a diffuse one.</summary>
[JsonConverter(typeof(CrossingRouteConverter))]
public enum CrossingRoute
{
    /// <summary>It stays, as an index and a tint of what is mirrored: nothing is lost, where the other model has both.</summary>
    Kept,

    /// <summary>
    /// Base colour and metalness, by the solve that the archived extension published: what is no metal and no common dielectric moves.
    /// </summary>
    Metalness,
}

/// <summary>Routes as words in JSON: <c>kept</c>.</summary>
public sealed class CrossingRouteConverter() : JsonStringEnumConverter<CrossingRoute>(JsonNamingPolicy.CamelCase);

/// <summary>Carries looks from one shading model to another.</summary>
public static class Crossings
{
    private static readonly ImmutableArray<ICrossedModel> All =
    [
        new GltfCrossing(GltfNames.Gltf),
        new GltfSpecularCrossing(),
        new UsdCrossing(),
        new OpenPbrCrossing(),
        new StandardCrossing(),
        new PrincipledCrossing(),
        new MtlPhongCrossing(),
        new MtlPbrCrossing(),
        new ColladaCrossing(),
    ];

    /// <summary>Said in files, and carried from or to beside the nine.</summary>
    private static readonly ImmutableArray<ICrossedModel> More = [new GltfCrossing(GltfNames.MaterialX), new FbxCrossing()];

    /// <summary>Ids of the models that can be carried to each other.</summary>
    public static ImmutableArray<string> Models { get; } = [.. All.Select(m => m.Id)];

    /// <summary>Looks can be carried to that model.</summary>
    public static bool Carries(string model) => model != "fbx-phong" && All.Concat(More).Any(m => m.Id == model);

    /// <summary>Null for a look without a surface, or whose model cannot be carried.</summary>
    /// <param name="to">One of <see cref="Models"/>, or MaterialX's surface of glTF's inputs.</param>
    public static CrossedMaterial? Of(ShaderGraph graph, string to, CrossingRoute route = CrossingRoute.Kept)
    {
        var target = All.Concat(More).First(m => m.Id == to);
        if (Surface(graph) is not { } surface || ShadingModels.OfType(surface.Type) is not { } model)
            return null;
        if (All.Concat(More).FirstOrDefault(m => m.Id == model.Id) is not { } own)
            return null;
        if (own.Id == to)
            return new(model.Id, to, graph, []);
        var sums = new Sums();
        var from = new Source(model, surface, graph);
        var reliefs = new Reliefs(graph, sums);
        var look = own.Read(from, sums);
        reliefs.Read(model, from, look);
        var data = ShadingModels.Find(to)!;
        var hasRoutes = look.Mirrored is not null;
        if (route == CrossingRoute.Metalness)
            look = Formulas.Metallic(look, sums);
        if (look.IsUnlit && !SaysUnlit(to))
            look = Glowing(look);
        if (!data.Has(Role.CoatColour))
            look = ClearCoat.Of(look, sums);
        var made = new Target(data, from, sums);
        target.Write(look, made, sums);
        reliefs.Write(data, look, made);
        foreach (var (part, value) in look.Left.Where(l => !l.Value.From.IsEmpty))
            made.Lose(value.From, $"{data.Name} has no {Words(part)}");
        foreach (var input in from.Left)
            made.Lose([input.Name], "no other model has it");
        var nodes = ImageTurns.Of([.. graph.Nodes.Where(n => n.Name != surface.Name)], IsGltf(own.Id), IsGltf(to));
        var name = surface.Name.Length > 0 ? surface.Name : "surface";
        var crossed = new ShaderGraph([made.Surface(name), .. nodes, .. sums.Nodes], name);
        return new(
            model.Id,
            to,
            crossed,
            [.. made.Rows.Select(r => Shown(r, crossed)).OrderByDescending(r => r.Kind).ThenByDescending(r => r.IsClamped)]
        )
        {
            HasRoutes = hasRoutes,
        };
    }

    /// <summary>What feeds an input is called by its images.</summary>
    private static Mapping Shown(Mapping row, ShaderGraph graph) =>
        graph.SurfaceNode!.Input(row.To) is { From: not null } fed ? row with { After = Source.Feeding(graph, fed) } : row;

    /// <summary>A surface that is passed on is the one that it passes on.</summary>
    private static ShaderNode? Surface(ShaderGraph graph)
    {
        var surface = graph.SurfaceNode;
        for (var hops = 0; hops < 8 && surface is not null && ShadingModels.OfType(surface.Type)?.Id == "materialx-passed-on"; hops++)
            surface = surface.Input("in")?.From is { } from ? graph.Node(from.Node) : null;
        return surface;
    }

    private static bool IsGltf(string model) => model.StartsWith("gltf-", StringComparison.Ordinal);

    private static bool SaysUnlit(string model) => IsGltf(model) || model == "mtl-phong";

    /// <summary>What gives off its base colour, and throws nothing back.</summary>
    private static Look Glowing(Look look)
    {
        var black = Carried.Of(0, 0, 0);
        return look.With(
            null,
            (Emission, look.Take(BaseColour, 1, 1, 1).Same("unlit: it gives off its colour")),
            (BaseColour, black),
            (Specular, Carried.Of(0)),
            (Metalness, Carried.Of(0))
        );
    }

    /// <summary>As people read it: <c>coat roughness</c>.</summary>
    private static string Words(LookPart part) =>
        string.Concat(
            part.ToString().Select((c, i) => i > 0 && char.IsUpper(c) ? $" {char.ToLowerInvariant(c)}" : $"{char.ToLowerInvariant(c)}")
        );
}
