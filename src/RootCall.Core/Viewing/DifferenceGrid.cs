using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Swatches;

namespace RootCall.Core.Viewing;

/// <summary>Where two swatches lie apart, a cell for some pixels each: coarse enough that what is noise does not show.</summary>
/// <param name="Cells">Along each side.</param>
/// <param name="Top">What is as far apart, or farther, has the lightest colour of a picture.</param>
/// <param name="Tenths">CIEDE2000 in tenths, rows from the top; -1 where the thing is not shown.</param>
public sealed record DifferenceGrid(int Cells, double Top, ImmutableArray<int> Tenths)
{
    private const int Most = 96;

    public static DifferenceGrid Of(Swatch before, Swatch after)
    {
        var step = Math.Max(1, before.Side / Most);
        var cells = before.Side / step;
        var tenths = new int[cells * cells];
        for (var y = 0; y < cells; y++)
        for (var x = 0; x < cells; x++)
            tenths[(y * cells) + x] = Cell(before, after, x * step, y * step, step);
        return new(cells, DifferencePicture.Top, [.. tenths]);
    }

    /// <summary>The light of all pixels of a cell is put together first: their noise is not a difference of looks.</summary>
    private static int Cell(Swatch before, Swatch after, int left, int top, int step)
    {
        var (a, b) = (Vector3.Zero, Vector3.Zero);
        for (var y = top; y < top + step; y++)
        for (var x = left; x < left + step; x++)
        {
            var i = (y * before.Side) + x;
            if (!SphereSwatch.Shows(before.Side, i))
                return -1;
            (a, b) = (a + before.Pixels[i], b + after.Pixels[i]);
        }

        return (int)Math.Round(10 * LookDifference.Between(a / (step * step), b / (step * step)));
    }
}
