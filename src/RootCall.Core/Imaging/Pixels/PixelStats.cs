using System.Collections.Immutable;
using Picked = RootCall.Core.Shading.Channels;

namespace RootCall.Core.Imaging.Pixels;

/// <summary>Statistics of an image's stored values, from a sample of its pixels.</summary>
/// <param name="Channels">One for each channel: grey; grey and alpha; red, green, blue; with alpha.</param>
/// <param name="Grey">Share of pixels whose red, green and blue are the same within 0.02; 1 for grey images.</param>
/// <param name="UnitLength">Share of pixels that are unit vectors pointing out of the surface when read as such, within 0.1.</param>
/// <param name="Colourful">Share of pixels whose channels lie more than 0.15 apart; null where it was not measured.</param>
/// <param name="Alike">
/// The least correlation of two channels that vary, -1 to 1: high in a picture, low where each channel is a map of its own. Null
/// where fewer than two vary, or it was not measured.
/// </param>
/// <param name="InDisc">Share of pixels whose red and green, read as two parts of a vector, are no longer than 1; null as above.</param>
public sealed record PixelStats(
    ImmutableArray<ChannelStats> Channels,
    double Grey,
    double UnitLength,
    double? Colourful = null,
    double? Alike = null,
    double? InDisc = null
)
{
    /// <summary>Where in the image something is; null where it was not measured.</summary>
    public PixelCells? Cells { get; init; }

    public const int Side = 128;
    private const int Bins = 32;
    private const double SameGrey = 0.02;
    private const double SameLength = 0.1;
    private const double Colour = 0.15;

    /// <summary>Deviation from which on a channel is said to vary: five steps of 8 bits.</summary>
    private const double Varies = 0.02;

    /// <summary>
    /// Most pixels are unit vectors, on the whole they point straight out, and the picture is no grey one. A blue sky is made of unit
    /// vectors too, and they lean.
    /// </summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool LooksLikeNormals =>
        Channels.Length >= 3
        && UnitLength > 0.8
        && Grey < 0.5
        && Upright(Channels[0])
        && Upright(Channels[1])
        && Channels[2].Mean > Math.Max(Channels[0].Mean, Channels[1].Mean) + 0.1;

    /// <summary>Red and green are two parts of unit vectors, and blue says nothing: the third part is left to the reader.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool LooksLikeTwoChannelNormals =>
        Channels.Length >= 3
        && InDisc > 0.98
        && Channels[2].IsConstant
        && Channels[2].Mean is < 0.02 or > 0.98
        && Upright(Channels[0])
        && Upright(Channels[1]);

    /// <summary>All three channels are the same, or there is one.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsGrey => Grey > 0.98;

    /// <summary>The same everywhere: it tells nothing of what it is for.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsFlat => Channels.Take(Channels.Length is 2 or 4 ? Channels.Length - 1 : Channels.Length).All(c => c.IsConstant);

    private static bool Upright(ChannelStats channel) => Math.Abs(channel.Mean - 0.5) < 0.12;

    /// <summary>Statistics of one channel, of several of the first; null when the image has no such channel.</summary>
    public ChannelStats? Channel(Picked channel) =>
        (channel, Channels.Length) switch
        {
            (Picked.A, 2) => Channels[1],
            (Picked.A, 4) => Channels[3],
            (Picked.A, _) => null,
            (_, <= 2) => Channels[0],
            (Picked.G, _) => Channels[1],
            (Picked.B, _) => Channels[2],
            _ => Channels[0],
        };

    public static PixelStats Of(PixelSample sample)
    {
        var (n, channels, values) = (sample.Width * sample.Height, sample.Channels, sample.Values);
        var stats = new ChannelStats[channels];
        for (var c = 0; c < channels; c++)
            stats[c] = ChannelStats.Of(values, c, channels, n, Bins);
        if (channels < 3)
            return new([.. stats], 1, 0, 0) { Cells = PixelCells.Of(sample) };
        var (grey, unit, colourful, inDisc) = (0, 0, 0, 0);
        Span<double> products = stackalloc double[3];
        for (var i = 0; i < n; i++)
        {
            var (r, g, b) = (values[i * channels], values[(i * channels) + 1], values[(i * channels) + 2]);
            if (Math.Abs(r - g) <= SameGrey && Math.Abs(g - b) <= SameGrey)
                grey++;
            if (Math.Max(r, Math.Max(g, b)) - Math.Min(r, Math.Min(g, b)) > Colour)
                colourful++;
            products[0] += r * g;
            products[1] += g * b;
            products[2] += r * b;
            double x = (r * 2) - 1,
                y = (g * 2) - 1,
                z = (b * 2) - 1;
            if (z > 0 && Math.Abs(Math.Sqrt((x * x) + (y * y) + (z * z)) - 1) <= SameLength)
                unit++;
            if (Math.Sqrt((x * x) + (y * y)) <= 1 + SameLength)
                inDisc++;
        }

        var all = (double)Math.Max(1, n);
        return new([.. stats], grey / all, unit / all, colourful / all, Correlation(stats, products, all), inDisc / all)
        {
            Cells = PixelCells.Of(sample),
        };
    }

    /// <param name="products">Sums of red times green, green times blue, red times blue.</param>
    private static double? Correlation(ChannelStats[] stats, ReadOnlySpan<double> products, double count)
    {
        double? least = null;
        for (var i = 0; i < 3; i++)
        {
            var (a, b) = (stats[i == 2 ? 0 : i], stats[i == 0 ? 1 : 2]);
            if (a.Deviation < Varies || b.Deviation < Varies)
                continue;
            var r = Math.Clamp(((products[i] / count) - (a.Mean * b.Mean)) / (a.Deviation * b.Deviation), -1, 1);
            least = least is { } known ? Math.Min(known, r) : r;
        }

        return least is { } value && double.IsFinite(value) ? value : null;
    }
}

/// <param name="Deviation">Standard deviation.</param>
/// <param name="Histogram">Counts in equal steps from 0 to 1; values outside count in the first and last.</param>
public sealed record ChannelStats(double Min, double Mean, double Max, double Deviation, ImmutableArray<int> Histogram)
{
    /// <summary>The same value everywhere, within one step of 8 bits.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsConstant => Max - Min < 1.5 / 255;

    /// <summary>Nearly all values lie at the two ends: a stencil rather than a gradient.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsTwoValued
    {
        get
        {
            var end = Math.Max(1, Histogram.Length / 8);
            int low = Histogram.Take(end).Sum(),
                high = Histogram.TakeLast(end).Sum(),
                all = Histogram.Sum();
            return low > 0 && high > 0 && low + high >= all * 0.9;
        }
    }

    internal static ChannelStats Of(ReadOnlySpan<float> values, int channel, int channels, int count, int bins)
    {
        double min = double.PositiveInfinity,
            max = double.NegativeInfinity,
            sum = 0,
            squares = 0;
        var histogram = new int[bins];
        var seen = 0;
        for (var i = 0; i < count; i++)
        {
            double v = values[(i * channels) + channel];
            if (!double.IsFinite(v))
                continue;
            (min, max) = (Math.Min(min, v), Math.Max(max, v));
            sum += v;
            squares += v * v;
            histogram[Math.Clamp((int)(v * bins), 0, bins - 1)]++;
            seen++;
        }

        if (seen == 0)
            return new(0, 0, 0, 0, [.. histogram]);
        var mean = sum / seen;
        return new(min, mean, max, Math.Sqrt(Math.Max(0, (squares / seen) - (mean * mean))), [.. histogram]);
    }
}
