using System.Text;
using StbImageWriteSharp;

namespace RootCall.Demo.Painting;

/// <summary>Paints functions over the unit square into image files. Row 0 is the top, v grows downward.</summary>
internal static class Picture
{
    public delegate Colour Paint(float u, float v);

    public delegate float Height(float u, float v);

    public static byte[] Png(int size, int channels, Paint paint) =>
        Write((w, s) => w.WritePng(Pixels(size, size, channels, paint), size, size, Components(channels), s));

    public static byte[] Png(int width, int height, int channels, Paint paint) =>
        Write((w, s) => w.WritePng(Pixels(width, height, channels, paint), width, height, Components(channels), s));

    public static byte[] Jpeg(int size, Paint paint) =>
        Write((w, s) => w.WriteJpg(Pixels(size, size, 3, paint), size, size, ColorComponents.RedGreenBlue, s, 90));

    public static byte[] Tga(int size, int channels, Paint paint) =>
        Write((w, s) => w.WriteTga(Pixels(size, size, channels, paint), size, size, Components(channels), s));

    /// <summary>A normal map with Y up (glTF 2.0, material.normalTexture) from a height in texture widths.</summary>
    public static byte[] NormalPng(int size, float strength, Height height)
    {
        var step = 1f / size;
        return Png(size, 3, (u, v) =>
        {
            float dx = (height(u + step, v) - height(u - step, v)) * strength,
                dy = (height(u, v - step) - height(u, v + step)) * strength;
            var length = MathF.Sqrt((dx * dx) + (dy * dy) + 1);
            return new(0.5f - (dx / length / 2), 0.5f - (dy / length / 2), 0.5f + (1 / length / 2));
        });
    }

    /// <summary>A latitude-longitude picture of linear values, twice as wide as high, as a Radiance picture of literal runs.</summary>
    public static byte[] Hdr(int height, Paint paint)
    {
        var width = height * 2;
        using var file = new MemoryStream();
        file.Write(Encoding.ASCII.GetBytes($"#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y {height} +X {width}\n"));
        var line = new byte[4, width];
        for (var y = 0; y < height; y++)
        {
            for (var x = 0; x < width; x++)
            {
                var c = paint((x + 0.5f) / width, (y + 0.5f) / height);
                var most = Math.Max(c.R, Math.Max(c.G, c.B));
                // Shared exponent: mantissas of the largest channel lie in 128 to 255.
                var exponent = most > 1e-9f ? MathF.ILogB(most) + 1 : -128;
                var scale = MathF.ScaleB(256, -exponent);
                (line[0, x], line[1, x], line[2, x], line[3, x]) = (
                    (byte)(c.R * scale),
                    (byte)(c.G * scale),
                    (byte)(c.B * scale),
                    (byte)(exponent + 128)
                );
            }

            file.Write([2, 2, (byte)(width >> 8), (byte)width]);
            for (var channel = 0; channel < 4; channel++)
            for (var x = 0; x < width; x += 128)
            {
                var run = Math.Min(128, width - x);
                file.WriteByte((byte)run);
                for (var i = 0; i < run; i++)
                    file.WriteByte(line[channel, x + i]);
            }
        }

        return file.ToArray();
    }

    private static ColorComponents Components(int channels) =>
        channels switch
        {
            1 => ColorComponents.Grey,
            3 => ColorComponents.RedGreenBlue,
            _ => ColorComponents.RedGreenBlueAlpha,
        };

    private static byte[] Write(Action<ImageWriter, Stream> write)
    {
        using var stream = new MemoryStream();
        write(new(), stream);
        return stream.ToArray();
    }

    private static byte[] Pixels(int width, int height, int channels, Paint paint)
    {
        var data = new byte[width * height * channels];
        Parallel.For(0, height, y =>
        {
            for (var x = 0; x < width; x++)
            {
                var c = paint((x + 0.5f) / width, (y + 0.5f) / height);
                var at = ((y * width) + x) * channels;
                data[at] = Byte(c.R);
                if (channels < 3)
                    continue;
                data[at + 1] = Byte(c.G);
                data[at + 2] = Byte(c.B);
                if (channels == 4)
                    data[at + 3] = Byte(c.A);
            }
        });
        return data;
    }

    private static byte Byte(float value) => (byte)((Math.Clamp(value, 0, 1) * 255) + 0.5f);
}
