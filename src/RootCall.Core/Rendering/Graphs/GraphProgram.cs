using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Shading;

namespace RootCall.Core.Rendering.Graphs;

/// <summary>
/// A graph as a list of steps, each after those that it reads: what it gives for many points is worked out step by step.
/// </summary>
internal sealed class GraphProgram
{
    /// <param name="Inputs">For each input the step that gives it, or where the point gives it, or a number.</param>
    /// <param name="Type">What of the four numbers counts.</param>
    public sealed record Step(NodeFunction Function, ImmutableArray<Source> Inputs, InputType Type);

    /// <param name="At">The step, when 0 or more.</param>
    public readonly record struct Source(int At, Given From, Vector4 Value)
    {
        /// <summary>The same everywhere.</summary>
        public bool IsNumber => At < 0 && From == Given.Number;

        public static Source OfStep(int at) => new(at, default, default);

        public static Source Of(Given from, Vector4 value) => new(-1, from, value);
    }

    private const int OnStack = 64;

    private readonly ImmutableArray<Step> steps;
    private readonly Vector4[] standing;
    private readonly ImmutableArray<(int Result, Source Source)> varying;

    public GraphProgram(ImmutableArray<Step> steps, ImmutableArray<Source> results)
    {
        this.steps = steps;
        standing = [.. results.Select(r => r.Value)];
        varying = [.. results.Select((r, i) => (i, r)).Where(r => !r.r.IsNumber)];
    }

    /// <param name="values">Room for as many values as there are results for each point, those of one point together.</param>
    public void Run(ReadOnlySpan<ShadingPoint> points, Span<Vector4> values)
    {
        Span<Vector4> inputs = stackalloc Vector4[16];
        Span<Vector4> registers = steps.Length <= OnStack ? stackalloc Vector4[OnStack] : new Vector4[steps.Length];
        for (var p = 0; p < points.Length; p++)
        {
            ref readonly var point = ref points[p];
            for (var s = 0; s < steps.Length; s++)
            {
                var step = steps[s];
                var count = step.Inputs.Length;
                for (var i = 0; i < count; i++)
                    inputs[i] = step.Inputs[i] is { At: >= 0 and var at } ? registers[at] : Of(step.Inputs[i], point);
                registers[s] = Trimmed(step.Function(inputs[..count], point), step.Type);
            }

            var own = values.Slice(p * standing.Length, standing.Length);
            standing.CopyTo(own);
            foreach (var (result, source) in varying)
                own[result] = source.At >= 0 ? registers[source.At] : Of(source, point);
        }
    }

    private static Vector4 Of(Source source, in ShadingPoint point) =>
        source.From switch
        {
            Given.Uv => Values.Of(point.Uv.X, point.Uv.Y),
            Given.Position => Values.Of(point.Position),
            Given.Normal => Values.Of(point.Normal),
            Given.Tangent => Values.Of(point.Tangent),
            Given.Bitangent => Values.Of(point.Bitangent),
            _ => source.Value,
        };

    /// <summary>One number stands in all four parts; what a shorter vector does not have is 0.</summary>
    public static Vector4 Trimmed(Vector4 v, InputType type) =>
        type.Numbers switch
        {
            1 => new(v.X),
            2 => new(v.X, v.Y, 0, 0),
            3 => new(v.X, v.Y, v.Z, 0),
            _ when type == InputType.Boolean => new(v.X),
            _ => v,
        };
}
