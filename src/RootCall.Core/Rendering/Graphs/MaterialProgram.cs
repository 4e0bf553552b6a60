using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Rendering.Graphs.Nodes;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Core.Shading.Evaluation;

namespace RootCall.Core.Rendering.Graphs;

/// <summary>Gives the surface at a point.</summary>
public interface ISurfaces
{
    /// <summary>There may be places where nothing is: an opacity below 1.</summary>
    bool MayBeAbsent { get; }

    /// <summary>The opacity at a point: what <see cref="At"/> says, for less.</summary>
    float OpacityAt(in ShadingPoint point, bool isInside) => At(point, isInside).Surface.Opacity;

    /// <summary>The surface, and the frame that its directions are in.</summary>
    /// <param name="isInside">The viewer is inside the solid.</param>
    (Surface Surface, Frame Frame) At(in ShadingPoint point, bool isInside);
}

/// <summary>A material made ready to be shaded: its graph as a program, its model with the inputs found.</summary>
public sealed class MaterialProgram : ISurfaces
{
    /// <summary>Slopes of a bump are cut here: beyond it a height is no bump any more, but a form (1 is 45°).</summary>
    private const float Steepest = 2;

    /// <summary>Surfaces mixed of surfaces that are mixed.</summary>
    private const int Deepest = 8;

    private readonly IShadingModel model;
    private readonly GraphProgram program;
    private readonly int inputs;
    private readonly int? normal;
    private readonly bool isTangentSpace;
    private readonly GraphProgram? height;

    /// <summary>Works out only what an opacity is made of; the other inputs have their defaults.</summary>
    private readonly GraphProgram? veil;

    private MaterialProgram(ShadingModel data, IShadingModel model, ShaderGraph graph, ITextureSource textures, SortedSet<string> told)
    {
        var surface = graph.SurfaceNode!;
        this.model = model;
        inputs = data.Inputs.Length;
        // What is in the way of light is worked out, so no model reads a map of it.
        var wishes = data
            .Inputs.Select(i => (i.Role is Role.Occlusion or Role.Ambient ? null : surface.Input(i.Name), Default(i)))
            .ToList();
        if (data.Input(Role.Normal) is { } n && surface.Input(n.Name) is { } given && (given.From ?? (object?)given.Value) is not null)
            normal = data.Inputs.IndexOf(n);
        isTangentSpace = data.IsTangentSpace;
        program = GraphCompiler.Compile(graph, textures, wishes, told);
        var raised = new[] { Role.Bump, Role.Displacement }
            .Select(r => data.Input(r) is { } i ? surface.Input(i.Name) : null)
            .FirstOrDefault(i => i?.From is not null);
        if (raised is not null)
            height = GraphCompiler.Compile(graph, textures, [(raised, Vector4.Zero)], told);
        foreach (var (input, how) in data.Approximated)
            if (surface.Input(input) is { } asked && (asked.From is not null || asked.Value?.Numbers.Any(n => n != 0) == true))
                told.Add(how);
        MayBeAbsent = IsVeil(data, surface);
        if (MayBeAbsent)
            veil = GraphCompiler.Compile(
                graph,
                textures,
                [.. wishes.Select((w, i) => MakesOpacity(data, data.Inputs[i]) ? w : (null, w.Item2))],
                told
            );
        Told = [.. told];
    }

    public bool MayBeAbsent { get; }

    /// <summary>What was left out or is not known, in sentences.</summary>
    public ImmutableArray<string> Told { get; }

    /// <summary>Null for a material without a surface, or with one whose model is not evaluated here.</summary>
    public static MaterialProgram? Of(ShaderGraph graph, ITextureSource textures)
    {
        // A surface that is passed on is the one that it passes on.
        for (var hops = 0; hops < Deepest; hops++)
        {
            if (graph.SurfaceNode is not { } surface || ShadingModels.OfType(surface.Type) is not { } data)
                return null;
            if (data.Id == "materialx-passed-on" && surface.Input("in")?.From is { } from)
            {
                graph = graph with { Surface = from.Node };
                continue;
            }

            var slots = new Slots(
                data,
                name => surface.Input(name)?.Effective?.Text,
                name => surface.Input(name) is { } i && (i.From is not null || i.Value is not null)
            );
            return Evaluations.Of(data, slots) is { } model ? new(data, model, graph, textures, new(StringComparer.Ordinal)) : null;
        }

        return null;
    }

    public (Surface Surface, Frame Frame) At(in ShadingPoint point, bool isInside)
    {
        Span<Vector4> values = stackalloc Vector4[inputs];
        program.Run([point], values);
        var facing = isInside ? -point.Normal : point.Normal;
        var shading = Normal(point, values);
        if (isInside)
            shading = -shading;
        // A normal that the viewer cannot see is bent until it can be.
        if (Vector3.Dot(shading, point.View) < 0.01f)
            shading = Vector3.Normalize(shading + (facing * (0.02f - MathF.Min(0, Vector3.Dot(shading, point.View)))));
        if (Vector3.Dot(shading, point.View) < 0.001f)
            shading = facing;
        var tangent = point.Tangent - (shading * Vector3.Dot(point.Tangent, shading));
        var frame =
            tangent.LengthSquared() < 1e-8f
                ? Frame.Around(shading)
                : new Frame(Vector3.Normalize(tangent), Vector3.Cross(shading, Vector3.Normalize(tangent)), shading);
        var view = frame.ToLocal(point.View);
        view = Vector3.Normalize(view with { Z = MathF.Max(view.Z, 1e-4f) });
        return (model.At(new Inputs(values), new(view, isInside)), frame);
    }

    public float OpacityAt(in ShadingPoint point, bool isInside)
    {
        if (veil is null)
            return 1;
        Span<Vector4> values = stackalloc Vector4[inputs];
        veil.Run([point], values);
        return model.At(new Inputs(values), new(Vector3.UnitZ, isInside)).Opacity;
    }

    private Vector3 Normal(in ShadingPoint point, ReadOnlySpan<Vector4> values)
    {
        var result = point.Normal;
        if (normal is { } at)
        {
            var v = Values.Three(values[at]);
            if (isTangentSpace)
                v = point.FromTangentSpace(v);
            if (float.IsFinite(v.LengthSquared()) && v.LengthSquared() > 1e-8f)
                result = Vector3.Normalize(v);
        }

        if (height is null)
            return result;
        var (u, w) = GraphCompiler.Slopes(height, point);
        var bent = GeometryNodes.FromSlopes(Slope(u), Slope(w));
        return Vector3.Normalize(result + point.FromTangentSpace(bent with { Z = 0 }));
    }

    /// <summary>Something feeds an opacity, or it is not 1, and the material does not say that it is opaque all the same.</summary>
    private static bool IsVeil(ShadingModel data, ShaderNode surface)
    {
        if (data.Input("alphaMode") is not null && surface.Input("alphaMode")?.Effective?.Text is null or "OPAQUE")
            return false;
        return data
            .Inputs.Where(i => MakesOpacity(data, i))
            .Any(i => surface.Input(i.Name) is { } given && (given.From is not null || given.Value is { } v && !IsWhole(v, i.Role)));
    }

    private static bool MakesOpacity(ShadingModel data, ModelInput input) =>
        input.Role is Role.Opacity or Role.Transparency or Role.OpacityThreshold
        || (input.Gate is { } gate && data.Input(gate)?.Role is Role.Opacity or Role.Transparency);

    private static bool IsWhole(ShaderValue value, Role? role) =>
        !value.Numbers.IsDefaultOrEmpty && value.Numbers.All(n => n == (role == Role.Transparency ? 0 : 1));

    private static float Slope(float change) =>
        float.IsFinite(change) ? Math.Clamp(change * GeometryNodes.SlopeScale, -Steepest, Steepest) : 0;

    private static Vector4 Default(ModelInput input) => Values.Of([.. input.Default.Select(d => (float)d)]);
}
