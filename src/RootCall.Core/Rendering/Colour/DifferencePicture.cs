using System.Numerics;

namespace RootCall.Core.Rendering.Colour;

/// <summary>Where two pictures of one thing lie apart: CIEDE2000 of each pixel, dark where they are the same.</summary>
public static class DifferencePicture
{
    /// <summary>What is as far apart as this, or farther, has the lightest colour.</summary>
    public const double Top = 12;

    /// <summary>From nothing up, in equal steps of lightness, so that it reads without hues: encoded, IEC 61966-2-1.</summary>
    private static readonly uint[] Kiln = [0x14100F, 0x3A1E18, 0x672D22, 0x97422F, 0xC1623F, 0xD98D55, 0xE5B57C, 0xF0D9B0, 0xFAF4E6];

    /// <summary>Encoded red, green and blue, 0 to 1, of each pixel.</summary>
    public static Vector3[] Of(ReadOnlySpan<Vector3> a, ReadOnlySpan<Vector3> b)
    {
        var picture = new Vector3[a.Length];
        for (var i = 0; i < picture.Length; i++)
            picture[i] = Colour(LookDifference.Between(a[i], b[i]));
        return picture;
    }

    private static Vector3 Colour(double apart)
    {
        var at = Math.Clamp(apart / Top, 0, 1) * (Kiln.Length - 1);
        var low = Math.Min((int)at, Kiln.Length - 2);
        return Vector3.Lerp(Step(Kiln[low]), Step(Kiln[low + 1]), (float)(at - low));
    }

    private static Vector3 Step(uint rgb) => new Vector3((rgb >> 16) & 255, (rgb >> 8) & 255, rgb & 255) / 255;
}
