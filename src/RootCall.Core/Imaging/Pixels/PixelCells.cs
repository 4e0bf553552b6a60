namespace RootCall.Core.Imaging.Pixels;

/// <summary>
/// Where in an image something is, coarsely: 8 x 8 cells in rows from the top, so that two maps of one thing can be held beside each
/// other although nobody decodes them again.
/// </summary>
/// <param name="Light">Mean of the channels but alpha, 0 to 255.</param>
/// <param name="Detail">Standard deviation of the same within the cell, 0 to 255.</param>
/// <param name="Alpha">Mean of the alpha; empty when there is none.</param>
public sealed record PixelCells(ReadOnlyMemory<byte> Light, ReadOnlyMemory<byte> Detail, ReadOnlyMemory<byte> Alpha)
{
    public const int Side = 8;
    private const int Count = Side * Side;

    public static PixelCells Of(PixelSample sample)
    {
        var (channels, colours) = (sample.Channels, sample.Channels is 2 or 4 ? sample.Channels - 1 : sample.Channels);
        Span<double> sum = stackalloc double[Count],
            squares = stackalloc double[Count],
            alpha = stackalloc double[Count];
        Span<int> seen = stackalloc int[Count];
        for (var y = 0; y < sample.Height; y++)
        for (var x = 0; x < sample.Width; x++)
        {
            var pixel = sample.Values.AsSpan(((y * sample.Width) + x) * channels, channels);
            var light = 0.0;
            for (var c = 0; c < colours; c++)
                light += float.IsFinite(pixel[c]) ? Math.Clamp(pixel[c], 0, 1) : 0;
            light /= colours;
            var cell = (y * Side / sample.Height * Side) + (x * Side / sample.Width);
            sum[cell] += light;
            squares[cell] += light * light;
            alpha[cell] += colours < channels ? pixel[^1] : 0;
            seen[cell]++;
        }

        byte[] means = new byte[Count],
            details = new byte[Count],
            alphas = new byte[colours < channels ? Count : 0];
        for (var i = 0; i < Count; i++)
        {
            var n = Math.Max(1, seen[i]);
            var mean = sum[i] / n;
            means[i] = Byte(mean);
            details[i] = Byte(Math.Sqrt(Math.Max(0, (squares[i] / n) - (mean * mean))));
            if (alphas.Length > 0)
                alphas[i] = Byte(alpha[i] / n);
        }

        return new(means, details, alphas);
    }

    private static byte Byte(double value) => double.IsFinite(value) ? (byte)Math.Clamp(Math.Round(value * 255), 0, 255) : (byte)0;

    /// <summary>How two go together, cell by cell, -1 to 1; null when one of them is the same everywhere.</summary>
    public static double? Correlation(ReadOnlySpan<byte> a, ReadOnlySpan<byte> b)
    {
        if (a.Length != b.Length || a.IsEmpty)
            return null;
        double sumA = 0,
            sumB = 0,
            squaresA = 0,
            squaresB = 0,
            products = 0;
        for (var i = 0; i < a.Length; i++)
        {
            (sumA, sumB) = (sumA + a[i], sumB + b[i]);
            (squaresA, squaresB, products) = (squaresA + (a[i] * a[i]), squaresB + (b[i] * b[i]), products + (a[i] * b[i]));
        }

        var n = a.Length;
        var (varianceA, varianceB) = ((squaresA / n) - (sumA / n * sumA / n), (squaresB / n) - (sumB / n * sumB / n));
        // A step of 8 bits either way is no picture.
        return varianceA < 1 || varianceB < 1
            ? null
            : Math.Clamp(((products / n) - (sumA / n * sumB / n)) / Math.Sqrt(varianceA * varianceB), -1, 1);
    }
}
