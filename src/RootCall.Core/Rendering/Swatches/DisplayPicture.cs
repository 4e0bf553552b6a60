using System.Numerics;
using RootCall.Core.Imaging.Colours;
using RootCall.Core.Shading;
using StbImageWriteSharp;

namespace RootCall.Core.Rendering.Swatches;

/// <summary>Linear light as a display shows it: the curve of IEC 61966-2-1, no tone curve; what is brighter than 1 is white.</summary>
public static class DisplayPicture
{
    /// <param name="pixels">Rows from the top.</param>
    public static byte[] Png(int width, int height, ReadOnlySpan<Vector3> pixels) =>
        Png(width, height, pixels, v => SrgbCurve.ToEncoded(v));

    /// <summary>As a house shows it; as IEC 61966-2-1 says where it has no config.</summary>
    public static byte[] Png(int width, int height, ReadOnlySpan<Vector3> pixels, HouseColours? house) =>
        house is null ? Png(width, height, pixels) : EncodedPng(width, height, house.Shown(pixels, CancellationToken.None));

    /// <summary>A picture whose values are encoded already.</summary>
    public static byte[] EncodedPng(int width, int height, ReadOnlySpan<Vector3> pixels) => Png(width, height, pixels, v => v);

    private static byte[] Png(int width, int height, ReadOnlySpan<Vector3> pixels, Func<float, double> encoded)
    {
        var bytes = new byte[pixels.Length * 3];
        for (var i = 0; i < pixels.Length; i++)
        for (var c = 0; c < 3; c++)
            bytes[(i * 3) + c] = (byte)Math.Round(encoded(Math.Clamp(pixels[i][c], 0, 1)) * 255);
        using var file = new MemoryStream();
        new ImageWriter().WritePng(bytes, width, height, ColorComponents.RedGreenBlue, file);
        return file.ToArray();
    }
}
