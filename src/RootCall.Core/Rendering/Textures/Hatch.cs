using System.Numerics;
using RootCall.Core.Rendering.Graphs;

namespace RootCall.Core.Rendering.Textures;

/// <summary>What stands where an image of colours is missing: a woven hatch that bears the number of its reference.</summary>
/// <param name="number">From 1.</param>
public sealed class Hatch(int number) : ITexture
{
    private const float Light = 0.28f,
        Dark = 0.11f,
        Plate = 0.02f,
        Ink = 0.75f;

    /// <summary>Threads across the image.</summary>
    private const int Threads = 24;

    /// <summary>How often the plate comes, across and down.</summary>
    private const int Plates = 4;

    private readonly string digits = number.ToString(System.Globalization.CultureInfo.InvariantCulture);

    public Vector4 Sample(Vector2 uv, float footprint)
    {
        if (!float.IsFinite(uv.X) || !float.IsFinite(uv.Y))
            return new(Dark, Dark, Dark, 1);
        var grey = OnPlate(uv) ?? Woven(uv);
        return new(grey, grey, grey, 1);
    }

    /// <summary>Threads that go over and under each other, aslant.</summary>
    private static float Woven(Vector2 uv)
    {
        float a = (uv.X + uv.Y) * Threads,
            b = (uv.X - uv.Y) * Threads;
        int i = (int)MathF.Floor(a),
            j = (int)MathF.Floor(b);
        var isOver = ((i + j) & 1) == 0;
        var across = isOver ? a - i : b - j;
        return Dark + ((Light - Dark) * MathF.Sin(across * MathF.PI));
    }

    /// <summary>The number, in digits of 3 x 5 cells with a rim; null beside it.</summary>
    private float? OnPlate(Vector2 uv)
    {
        var (x, y) = (uv.X * Plates, uv.Y * Plates);
        float u = x - MathF.Floor(x),
            v = y - MathF.Floor(y);
        const float Cell = 1 / 14f;
        var wide = ((digits.Length * 4) + 1) * Cell;
        const float High = 7 * Cell;
        var (left, top) = ((1 - wide) / 2, (1 - High) / 2);
        if (u < left || u >= left + wide || v < top || v >= top + High)
            return null;
        int column = (int)((u - left) / Cell) - 1,
            row = (int)((v - top) / Cell) - 1;
        if (column < 0 || row is < 0 or > 4 || column % 4 == 3 || column / 4 >= digits.Length)
            return Plate;
        var bits = Figures[digits[column / 4] - '0'];
        return ((bits >> (((4 - row) * 3) + (2 - (column % 4)))) & 1) != 0 ? Ink : Plate;
    }

    /// <summary>0 to 9, five rows of three cells from the top, the left cell highest.</summary>
    private static readonly int[] Figures =
    [
        0b111_101_101_101_111,
        0b010_110_010_010_111,
        0b111_001_111_100_111,
        0b111_001_111_001_111,
        0b101_101_111_001_001,
        0b111_100_111_001_111,
        0b111_100_111_101_111,
        0b111_001_001_010_010,
        0b111_101_111_101_111,
        0b111_101_111_001_111,
    ];
}
