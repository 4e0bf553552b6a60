using System.Numerics;
using RootCall.Core.Imaging.Colours;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Rendering.Textures;

/// <summary>
/// An image as linear values in levels, each of half the size of the one before; reduced while it is decoded, so that an image of any
/// size takes no more than what is shown of it.
/// </summary>
public sealed class Texture
{
    private readonly record struct Level(int Width, int Height, Vector4[] Pixels);

    private readonly Level[] levels;

    private Texture(Level first)
    {
        var made = new List<Level> { first };
        while (made[^1] is { } last && (last.Width > 1 || last.Height > 1))
            made.Add(Halved(last));
        levels = [.. made];
    }

    /// <summary>What it takes in memory.</summary>
    public long Bytes => levels.Sum(l => (long)l.Pixels.Length * 16);

    /// <summary>Its first level: rows from the top; red, green, blue and alpha, linear and finite.</summary>
    public (int Width, int Height, ReadOnlyMemory<Vector4> Pixels) Largest => (levels[0].Width, levels[0].Height, levels[0].Pixels);

    /// <summary>Decodes an image.</summary>
    /// <param name="space">How its numbers become linear ones; those of the alpha stay.</param>
    /// <param name="side">Most pixels along the longer side; each is the mean of those that it stands for.</param>
    /// <param name="toLinear">In place of <paramref name="space"/>: makes red, green and blue of pixels linear.</param>
    /// <exception cref="UndecodedException">It does not decode.</exception>
    public static Texture Of(
        IImageDecoder decoder,
        string path,
        ColourSpace space,
        int side,
        CancellationToken stop,
        Converting? toLinear = null
    )
    {
        Vector4[]? sums = null;
        int[] counts = [];
        int width = 0,
            height = 0,
            factor = 1;
        decoder.Read(
            path,
            rows =>
            {
                if (sums is null)
                {
                    factor = Math.Max(1, (Math.Max(rows.Width, rows.Height) + side - 1) / side);
                    (width, height) = ((rows.Width + factor - 1) / factor, (rows.Height + factor - 1) / factor);
                    (sums, counts) = (new Vector4[width * height], new int[width * height]);
                }

                var values = toLinear is null ? rows.Values : Converted(rows, toLinear);
                var channels = toLinear is null ? rows.Channels : 4;
                for (var y = 0; y < rows.Count; y++)
                {
                    var line = (rows.First + y) / factor * width;
                    for (var x = 0; x < rows.Width; x++)
                    {
                        var pixel = values.Slice(((y * rows.Width) + x) * channels, channels);
                        var at = line + (x / factor);
                        sums[at] += Linear(pixel, space);
                        counts[at]++;
                    }
                }
            },
            stop
        );
        for (var i = 0; i < counts.Length; i++)
            sums![i] /= Math.Max(1, counts[i]);
        return new(new Level(width, height, sums ?? [Vector4.Zero]));
    }

    /// <summary>Replaces red, green and blue of pixels.</summary>
    public delegate void Converting(Span<float> rgb);

    /// <summary>Red, green, blue and alpha of each pixel, the first three converted.</summary>
    private static float[] Converted(PixelRows rows, Converting toLinear)
    {
        var count = rows.Width * rows.Count;
        var (rgb, whole) = (new float[count * 3], new float[count * 4]);
        for (var i = 0; i < count; i++)
        {
            var v = Whole(rows.Values.Slice(i * rows.Channels, rows.Channels));
            v.AsVector3().CopyTo(rgb, i * 3);
            whole[(i * 4) + 3] = v.W;
        }

        toLinear(rgb);
        for (var i = 0; i < count; i++)
            rgb.AsSpan(i * 3, 3).CopyTo(whole.AsSpan(i * 4));
        return whole;
    }

    /// <summary>Red, green, blue and alpha between four pixels of two levels.</summary>
    /// <param name="uv">V grows downwards.</param>
    public Vector4 Sample(Vector2 uv, float footprint, WrapMode wrapU, WrapMode wrapV)
    {
        if (!float.IsFinite(uv.X) || !float.IsFinite(uv.Y))
            return Vector4.Zero;
        var texels = footprint * MathF.Max(levels[0].Width, levels[0].Height);
        var level = texels > 1 && float.IsFinite(texels) ? MathF.Min(MathF.Log2(texels), levels.Length - 1) : 0;
        var low = (int)level;
        var near = Bilinear(levels[low], uv, wrapU, wrapV);
        return level == low || low + 1 >= levels.Length
            ? near
            : Vector4.Lerp(near, Bilinear(levels[low + 1], uv, wrapU, wrapV), level - low);
    }

    private static Vector4 Bilinear(Level level, Vector2 uv, WrapMode wrapU, WrapMode wrapV)
    {
        if ((wrapU == WrapMode.Black && (uv.X < 0 || uv.X > 1)) || (wrapV == WrapMode.Black && (uv.Y < 0 || uv.Y > 1)))
            return Vector4.Zero;
        // Far out a single holds no pixels any more.
        float x = (Folded(uv.X, wrapU) * level.Width) - 0.5f,
            y = (Folded(uv.Y, wrapV) * level.Height) - 0.5f;
        int x0 = (int)MathF.Floor(x),
            y0 = (int)MathF.Floor(y);
        int l = At(x0, level.Width, wrapU),
            r = At(x0 + 1, level.Width, wrapU),
            t = At(y0, level.Height, wrapV) * level.Width,
            b = At(y0 + 1, level.Height, wrapV) * level.Width;
        var p = level.Pixels;
        return Vector4.Lerp(Vector4.Lerp(p[t + l], p[t + r], x - x0), Vector4.Lerp(p[b + l], p[b + r], x - x0), y - y0);
    }

    private static float Folded(float x, WrapMode wrap) =>
        wrap switch
        {
            WrapMode.Clamp or WrapMode.Black => Math.Clamp(x, 0, 1),
            WrapMode.Mirror => MathF.Abs(x - (2 * MathF.Floor((x + 1) / 2))),
            _ => x - MathF.Floor(x),
        };

    /// <param name="pixel">One beyond either end at most.</param>
    private static int At(int pixel, int count, WrapMode wrap) =>
        wrap is WrapMode.Clamp or WrapMode.Black or WrapMode.Mirror ? Math.Clamp(pixel, 0, count - 1)
        : pixel < 0 ? pixel + count
        : pixel >= count ? pixel - count
        : pixel;

    private static Level Halved(Level from)
    {
        int width = Math.Max(1, from.Width / 2),
            height = Math.Max(1, from.Height / 2);
        var pixels = new Vector4[width * height];
        for (var y = 0; y < height; y++)
        for (var x = 0; x < width; x++)
        {
            int left = x * from.Width / width,
                right = Math.Max(left + 1, (x + 1) * from.Width / width),
                top = y * from.Height / height,
                bottom = Math.Max(top + 1, (y + 1) * from.Height / height);
            var sum = Vector4.Zero;
            for (var j = top; j < bottom; j++)
            for (var i = left; i < right; i++)
                sum += from.Pixels[(j * from.Width) + i];
            pixels[(y * width) + x] = sum / ((right - left) * (bottom - top));
        }

        return new(width, height, pixels);
    }

    /// <summary>A stored pixel as linear light or number; grey stands in all three, and alpha is 1 where there is none.</summary>
    public static Vector4 Linear(ReadOnlySpan<float> pixel, ColourSpace space)
    {
        var v = Whole(pixel);
        return space switch
        {
            ColourSpace.Srgb => new(Curve(v.X), Curve(v.Y), Curve(v.Z), v.W),
            ColourSpace.AcesCg => Vector4.Transform(v, FromAcesCg),
            _ => v,
        };
    }

    /// <summary>Grey stands in all three; what is no number is 0.</summary>
    private static Vector4 Whole(ReadOnlySpan<float> pixel)
    {
        var v = pixel.Length switch
        {
            1 => new Vector4(pixel[0], pixel[0], pixel[0], 1),
            2 => new(pixel[0], pixel[0], pixel[0], pixel[1]),
            3 => new(pixel[0], pixel[1], pixel[2], 1),
            _ => new(pixel[0], pixel[1], pixel[2], pixel[3]),
        };
        return new(Finite(v.X), Finite(v.Y), Finite(v.Z), Finite(v.W));
    }

    private static float Finite(float value) => float.IsFinite(value) ? value : 0;

    private static readonly Matrix4x4 FromAcesCg = Primaries.AcesCg.To(Primaries.Rec709);

    private static readonly float[] Steps = [.. Enumerable.Range(0, 256).Select(i => (float)SrgbCurve.ToLinear(i / 255.0))];

    /// <summary>The steps of 8 bits, which most images are made of, need no power.</summary>
    private static float Curve(float encoded)
    {
        var step = encoded * 255;
        var nearest = (int)(step + 0.5f);
        return encoded is >= 0 and <= 1 && MathF.Abs(step - nearest) < 1e-4f ? Steps[nearest] : (float)SrgbCurve.ToLinear(encoded);
    }
}
