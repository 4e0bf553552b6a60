using System.Numerics;
using System.Runtime.InteropServices;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Swatches;

namespace RootCall.Core.Viewing;

/// <summary>
/// A look in a few numbers, so that thousands can be held against each other: CIELAB of the fields of a coarse grid over the sphere, how
/// much the picture varies, and how much from one pixel to the next, all in its units. Two looks that nobody can tell apart lie near 0.
/// What differs in small forms alone (one grain from another) is one number here.
/// </summary>
public sealed class LookFeatures
{
    /// <summary>Fields of the grid on a side; those in its corners show no sphere.</summary>
    private const int Across = 5;

    /// <summary>Pixels of the side of a picture that is good enough.</summary>
    public const int Side = 48;

    /// <summary>What a whole picture's spread weighs beside the colours of its fields.</summary>
    private const float Spread = 0.7f;

    private readonly float[] numbers;

    private LookFeatures(float[] numbers) => this.numbers = numbers;

    public static LookFeatures Of(Swatch swatch)
    {
        var fields = new (Vector3 Sum, int Count)[Across * Across];
        var (sum, squares, steps, all, pairs) = (Vector3.Zero, Vector3.Zero, 0f, 0, 0);
        var last = 0f;
        for (var i = 0; i < swatch.Pixels.Length; i++)
        {
            if (!SphereSwatch.Shows(swatch.Side, i))
                continue;
            var lab = Lab.Of(Vector3.Clamp(swatch.Pixels[i], Vector3.Zero, Vector3.One));
            var colour = new Vector3((float)lab.L, (float)lab.A, (float)lab.B);
            var (x, y) = (i % swatch.Side, i / swatch.Side);
            ref var field = ref fields[(y * Across / swatch.Side * Across) + (x * Across / swatch.Side)];
            field = (field.Sum + colour, field.Count + 1);
            (sum, squares, all) = (sum + colour, squares + (colour * colour), all + 1);
            if (x > 0 && SphereSwatch.Shows(swatch.Side, i - 1))
                (steps, pairs) = (steps + MathF.Abs(colour.X - last), pairs + 1);
            last = colour.X;
        }

        // A field with few pixels says little: its share is what it shows.
        var numbers = new List<float>();
        foreach (var (colours, count) in fields.Where(f => f.Count > 0))
        {
            var mean = colours / count * MathF.Sqrt((float)count / all);
            numbers.AddRange([mean.X, mean.Y, mean.Z]);
        }

        var middle = sum / Math.Max(1, all);
        var varies = Vector3.SquareRoot(Vector3.Max(Vector3.Zero, (squares / Math.Max(1, all)) - (middle * middle)));
        numbers.AddRange([varies.X * Spread, varies.Y * Spread, varies.Z * Spread, steps / Math.Max(1, pairs)]);
        return new([.. numbers]);
    }

    /// <summary>About the ΔE (CIE 1976) between both, in the mean over the sphere.</summary>
    public float Distance(LookFeatures other)
    {
        ReadOnlySpan<float> a = numbers,
            b = other.numbers;
        if (a.Length != b.Length)
            return float.MaxValue;
        var sum = Vector<float>.Zero;
        var at = 0;
        for (; at <= a.Length - Vector<float>.Count; at += Vector<float>.Count)
        {
            var apart = new Vector<float>(a[at..]) - new Vector<float>(b[at..]);
            sum += apart * apart;
        }

        var squares = Vector.Sum(sum);
        for (; at < a.Length; at++)
            squares += (a[at] - b[at]) * (a[at] - b[at]);
        return MathF.Sqrt(squares);
    }

    public byte[] Write() => MemoryMarshal.AsBytes(numbers.AsSpan()).ToArray();

    /// <summary>Null for what is none, or was written by another version.</summary>
    public static LookFeatures? Read(ReadOnlySpan<byte> written) =>
        written.Length > 0
        && written.Length % sizeof(float) == 0
        && MemoryMarshal.Cast<byte, float>(written) is var numbers
        && numbers.ToArray().All(float.IsFinite)
            ? new(numbers.ToArray())
            : null;
}
