using System.Buffers;
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
    /// <param name="Loop">The same for many points at once, where the node has it.</param>
    public sealed record Step(NodeFunction Function, ImmutableArray<Source> Inputs, InputType Type, NodeLoop? Loop = null)
    {
        /// <summary>How many numbers it gives; 0 where no type is said.</summary>
        public int Numbers { get; } = Type == InputType.Boolean ? 1 : Type.Numbers;
    }

    /// <param name="At">The step, when 0 or more.</param>
    public readonly record struct Source(int At, Given From, Vector4 Value)
    {
        /// <summary>The same everywhere.</summary>
        public bool IsNumber => At < 0 && From == Given.Number;

        public static Source OfStep(int at) => new(at, default, default);

        public static Source Of(Given from, Vector4 value) => new(-1, from, value);
    }

    private const int OnStack = 64;

    /// <summary>Points that are worked out together: what all steps give for them stays in the second cache.</summary>
    private const int Together = 32;

    /// <summary>From here on, going step by step is worth the room it takes.</summary>
    private const int Many = 8;

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
        if (points.Length >= Many && varying.Length > 0)
            RunTogether(points, values);
        else
            RunOneByOne(points, values);
    }

    private void RunOneByOne(ReadOnlySpan<ShadingPoint> points, Span<Vector4> values)
    {
        Span<Vector4> inputs = stackalloc Vector4[16];
        Span<Vector4> registers = steps.Length <= OnStack ? stackalloc Vector4[OnStack] : new Vector4[steps.Length];
        for (var p = 0; p < points.Length; p++)
        {
            ref readonly var point = ref points[p];
            for (var s = 0; s < steps.Length; s++)
            {
                var step = steps[s];
                registers[s] = Trimmed(step.Function(Gathered(step, inputs, registers, 1, 0, point), point), step.Numbers);
            }

            var own = values.Slice(p * standing.Length, standing.Length);
            standing.CopyTo(own);
            foreach (var (result, source) in varying)
                own[result] = source.At >= 0 ? registers[source.At] : Of(source, point);
        }
    }

    /// <summary>Each step for all points before the next one: the same numbers, without asking at each point what the step is.</summary>
    private void RunTogether(ReadOnlySpan<ShadingPoint> points, Span<Vector4> values)
    {
        Span<Vector4> inputs = stackalloc Vector4[16];
        var registers = ArrayPool<Vector4>.Shared.Rent((steps.Length + inputs.Length) * Together);
        for (var first = 0; first < points.Length; first += Together)
        {
            var here = points.Slice(first, Math.Min(Together, points.Length - first));
            for (var s = 0; s < steps.Length; s++)
            {
                var step = steps[s];
                var into = registers.AsSpan(s * Together, here.Length);
                if (step.Loop is { } loop)
                    loop(Columns(step, registers, here), into, step.Numbers == 1);
                else
                    for (var p = 0; p < here.Length; p++)
                        into[p] = step.Function(Gathered(step, inputs, registers, Together, p, here[p]), here[p]);
                Trim(into, step.Numbers);
            }

            for (var p = 0; p < here.Length; p++)
            {
                var own = values.Slice((first + p) * standing.Length, standing.Length);
                standing.CopyTo(own);
                foreach (var (result, source) in varying)
                    own[result] = source.At >= 0 ? registers[(source.At * Together) + p] : Of(source, here[p]);
            }
        }

        ArrayPool<Vector4>.Shared.Return(registers);
    }

    /// <summary>What a step reads at one point.</summary>
    private static ReadOnlySpan<Vector4> Gathered(
        Step step,
        Span<Vector4> inputs,
        ReadOnlySpan<Vector4> registers,
        int stride,
        int place,
        in ShadingPoint point
    )
    {
        var count = step.Inputs.Length;
        for (var i = 0; i < count; i++)
            inputs[i] = step.Inputs[i] is { At: >= 0 and var at } ? registers[(at * stride) + place] : Of(step.Inputs[i], point);
        return inputs[..count];
    }

    /// <summary>What a step reads at many points; what no step gives is written behind the steps' own room.</summary>
    private NodeColumns Columns(Step step, Span<Vector4> registers, ReadOnlySpan<ShadingPoint> points)
    {
        var columns = new NodeColumns(registers, Together, points.Length);
        for (var i = 0; i < step.Inputs.Length; i++)
        {
            var source = step.Inputs[i];
            columns.Places[i] = source.At >= 0 ? source.At : steps.Length + i;
            if (source.At >= 0)
                continue;
            var column = columns[i];
            if (source.IsNumber)
                column.Fill(source.Value);
            else
                for (var p = 0; p < points.Length; p++)
                    column[p] = Of(source, points[p]);
        }

        return columns;
    }

    private static void Trim(Span<Vector4> values, int numbers)
    {
        switch (numbers)
        {
            case 1:
                foreach (ref var value in values)
                    value = new(value.X);
                break;
            case 3:
                foreach (ref var value in values)
                    value.W = 0;
                break;
            case 2:
                foreach (ref var value in values)
                    value = Trimmed(value, 2);
                break;
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
    public static Vector4 Trimmed(Vector4 v, int numbers) =>
        numbers switch
        {
            1 => new(v.X),
            2 => new(v.X, v.Y, 0, 0),
            3 => new(v.X, v.Y, v.Z, 0),
            _ => v,
        };
}
