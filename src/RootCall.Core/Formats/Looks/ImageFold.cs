using System.Collections.Immutable;
using RootCall.Core.Rendering.Graphs.Nodes;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Looks;

/// <summary>
/// What feeds an input, where it is no more than one image with a gain and an offset a number: what formats with fixed fields can say.
/// </summary>
/// <param name="Picks">The channel that each number of the input comes from.</param>
/// <param name="Gain">By which each is multiplied.</param>
/// <param name="Base">What is added then.</param>
internal sealed record ImageFold(ImageUse Use, ImmutableArray<Channels> Picks, ImmutableArray<double> Gain, ImmutableArray<double> Base)
{
    private const int MaxDepth = 64;

    /// <summary>How strongly a map bends normals, where a node makes a normal of it; null for none.</summary>
    public double? Strength { get; private init; }

    public bool IsPlain => Gain.All(g => g == 1) && Base.All(b => b == 0);

    /// <summary>One number of a value: a channel of an image, times a gain, plus an offset; without an image the offset alone.</summary>
    private readonly record struct Line(ImageUse? Use, Channels Pick, double Gain, double Base)
    {
        public static Line Of(double number) => new(null, default, 0, number);

        public Line Times(double by) => this with { Gain = Gain * by, Base = Base * by };
    }

    /// <summary>Null where it is more than that, or nothing feeds the input.</summary>
    public static ImageFold? Of(ShaderGraph graph, ShaderInput input)
    {
        if (input.From is not { } wire)
            return null;
        double? strength = null;
        if (graph.Node(wire.Node) is { } map && NodeKinds.NameOf(map.Type) == "normalmap" && map.Input("in")?.From is { } stored)
            (wire, strength) = (stored, map.Input("scale")?.Effective?.Numbers is [var s, ..] ? s : 1);
        var count = Math.Max(1, input.Type.Numbers);
        if (Fit(new Folding(graph).Of(wire, 0), count) is not { } lines || lines[0].Use is not { } use)
            return null;
        return lines.All(l => l.Use is { } other && other.Reference == use.Reference && other.SameReading(use))
            ? new(use, [.. lines.Select(l => l.Pick)], [.. lines.Select(l => l.Gain)], [.. lines.Select(l => l.Base)])
            {
                Strength = strength,
            }
            : null;
    }

    private static Line[]? Fit(Line[]? lines, int count) =>
        lines is null ? null
        : lines.Length >= count ? lines[..count]
        : lines.Length == 1 ? [.. Enumerable.Repeat(lines[0], count)]
        : null;

    /// <summary>Reckons with lines as nodes do with numbers; null for what leaves the straight.</summary>
    private sealed class Folding(ShaderGraph graph)
    {
        public Line[]? Of(Connection wire, int depth)
        {
            if (depth > MaxDepth || graph.Node(wire.Node) is not { } node)
                return null;
            if (node.Image is { } use)
                return Channel(Stored(node, use), wire.Output);
            Line[]? In(string name) =>
                node.Input(name) is not { } input ? null
                : input.From is { } from ? Of(from, depth + 1)
                : input.Effective?.Numbers is { Length: > 0 } numbers ? [.. numbers.Select(Line.Of)]
                : null;
            return NodeKinds.NameOf(node.Type) switch
            {
                "multiply" => Pair(In("in1"), In("in2"), Product),
                "divide" => Pair(In("in1"), In("in2"), (a, b) => b is { Use: null, Base: not 0 } ? a.Times(1 / b.Base) : null),
                "add" => Pair(In("in1"), In("in2"), Sum),
                "subtract" => Pair(In("in1"), In("in2"), (a, b) => Sum(a, b.Times(-1))),
                "invert" => Pair(In("amount") ?? [Line.Of(1)], In("in"), (a, b) => Sum(a, b.Times(-1))),
                "convert" => Converted(In("in"), node),
                "extract" => In("in") is { } all && node.Input("index")?.Effective?.Numbers is [var index, ..] && (int)index < all.Length
                    ? [all[(int)index]]
                    : null,
                "combine2" or "combine3" => Joined(
                    [In("in1"), In("in2"), In("in3")],
                    node.Type.Contains('3', StringComparison.Ordinal) ? 3 : 2
                ),
                "separate2" or "separate3" or "separate4" => Channel(
                    In("in"),
                    wire.Output.Replace("out", string.Empty, StringComparison.Ordinal)
                ),
                "constant" => In("value"),
                "dot" => In("in"),
                _ => null,
            };
        }

        private static Line[] Stored(ShaderNode node, ImageUse use)
        {
            ReadOnlySpan<Channels> all = [Channels.R, Channels.G, Channels.B, Channels.A];
            if (use.Channels is Channels.Luminance or Channels.Depth)
                return [new(use, use.Channels, 1, 0)];
            var count = node.Output.Numbers is > 0 and var said ? said : 4;
            return [.. all[..Math.Min(count, 4)].ToArray().Select(c => new Line(use, c, 1, 0))];
        }

        private static Line[]? Channel(Line[]? lines, string output) =>
            lines is null ? null
            : ChannelWords.Of(output)?.Place() is { } place
                ? place < lines.Length ? [lines[place]]
                    : null
            : "xyzw".IndexOf(output, StringComparison.Ordinal) is var at && output.Length == 1 && at >= 0 && at < lines.Length ? [lines[at]]
            : lines;

        private static Line[]? Converted(Line[]? lines, ShaderNode node) =>
            Fit(
                lines,
                node.Output.Numbers is > 0 and var count ? count
                    : NodeKinds.OutputOf(node.Type).Numbers is > 0 and var told ? told
                    : 3
            );

        private static Line[]? Joined(Line[]?[] parts, int count) =>
            parts.Take(count).All(p => p is { Length: 1 }) ? [.. parts.Take(count).Select(p => p![0])] : null;

        private static Line? Product(Line a, Line b) =>
            b.Use is null ? a.Times(b.Base)
            : a.Use is null ? b.Times(a.Base)
            : null;

        private static Line? Sum(Line a, Line b) =>
            b.Use is null ? a with { Base = a.Base + b.Base }
            : a.Use is null ? b with { Base = a.Base + b.Base }
            : a.Use.Reference == b.Use.Reference && a.Use.SameReading(b.Use) && a.Pick == b.Pick
                ? a with
                {
                    Gain = a.Gain + b.Gain,
                    Base = a.Base + b.Base,
                }
            : null;

        private static Line[]? Pair(Line[]? a, Line[]? b, Func<Line, Line, Line?> of)
        {
            if (a is null || b is null || Math.Max(a.Length, b.Length) is var count && (Fit(a, count) is null || Fit(b, count) is null))
                return null;
            var (left, right) = (Fit(a, count)!, Fit(b, count)!);
            var made = new Line[count];
            for (var i = 0; i < count; i++)
            {
                if (of(left[i], right[i]) is not { } line)
                    return null;
                made[i] = line;
            }

            return made;
        }
    }
}
