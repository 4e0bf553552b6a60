using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Shading;

namespace RootCall.Core.Rendering.Lights;

/// <summary>
/// Light from all around, in cells of latitude and longitude; y points up, and the middle column lies behind the viewer (+z). Each cell
/// gives off one radiance, so picking directions by it is exact.
/// </summary>
public sealed class EnvironmentMap
{
    private readonly ImmutableArray<Vector3> cells;
    private readonly float[] rows;
    private readonly float[] columns;
    private readonly float[] tops;
    private readonly float whole;

    /// <param name="cells">Radiance in rows from the top, linear, none below 0; one at least above 0.</param>
    public EnvironmentMap(int width, int height, ImmutableArray<Vector3> cells)
    {
        (Width, Height, this.cells) = (width, height, cells);
        tops = [.. Enumerable.Range(0, height + 1).Select(y => MathF.Cos(MathF.PI * y / height))];
        rows = new float[height + 1];
        columns = new float[height * (width + 1)];
        for (var y = 0; y < height; y++)
        {
            var row = columns.AsSpan(y * (width + 1), width + 1);
            for (var x = 0; x < width; x++)
                row[x + 1] = row[x] + Power(x, y);
            rows[y + 1] = rows[y] + row[width];
        }

        whole = rows[height];
    }

    /// <summary>
    /// A file that lies in longitude and latitude, seen from inside with its middle ahead (OpenEXR, latitude-longitude map).
    /// </summary>
    /// <param name="side">Most cells around; each is the mean of the pixels that it stands for.</param>
    /// <exception cref="UndecodedException">It does not decode.</exception>
    /// <exception cref="CannotUseException">It gives no light.</exception>
    public static EnvironmentMap Of(IImageDecoder decoder, string path, int side, CancellationToken stop)
    {
        var (width, height, pixels) = Texture.Of(decoder, path, ColourSpace.Linear, side, stop).Largest;
        // To the right of the middle lies what is to the right of whoever looks at it: here that is the other way around.
        Vector3 At(int x, int y) => Vector3.Max(Vector3.Zero, pixels.Span[(y * width) + width - 1 - x].AsVector3());
        if (!Enumerable.Range(0, width * height).Any(i => At(i % width, i / width) != Vector3.Zero))
            throw new CannotUseException($"“{Path.GetFileName(path)}” gives no light.");
        return Studio.Exposed(width, height, (around, up) => At((int)((around + 180) / 360 * width), (int)((90 - up) / 180 * height)));
    }

    public int Width { get; }

    public int Height { get; }

    /// <summary>Light from a direction, and how likely <see cref="Sample"/> picks it, per steradian.</summary>
    public (Vector3 Radiance, float Density) From(Vector3 direction)
    {
        var (x, y) = Cell(direction);
        return Of(x, y);
    }

    /// <summary>Light from a direction without the borders of the cells: for whoever looks at the light itself.</summary>
    public Vector3 Smooth(Vector3 direction)
    {
        float x = ((MathF.Atan2(direction.X, direction.Z) + MathF.PI) / (2 * MathF.PI) * Width) - 0.5f,
            y = Math.Clamp((MathF.Acos(Math.Clamp(direction.Y, -1, 1)) / MathF.PI * Height) - 0.5f, 0, Height - 1);
        int left = (int)MathF.Floor(x),
            top = (int)y;
        Vector3 Cell(int column, int row) => cells[(Math.Min(row, Height - 1) * Width) + ((column + Width) % Width)];
        return Vector3.Lerp(
            Vector3.Lerp(Cell(left, top), Cell(left + 1, top), x - left),
            Vector3.Lerp(Cell(left, top + 1), Cell(left + 1, top + 1), x - left),
            y - top
        );
    }

    /// <summary>Picks a direction, the more often the more light comes from there.</summary>
    /// <param name="u">Two numbers from 0 to 1, 1 left out.</param>
    public (Vector3 Direction, Vector3 Radiance, float Density) Sample(Vector2 u)
    {
        var (y, v) = Find(rows, u.Y);
        var (x, w) = Find(columns.AsSpan(y * (Width + 1), Width + 1), u.X);
        var height = Top(y) + (v * (Top(y + 1) - Top(y)));
        var (sine, cosine) = MathF.SinCos(((x + w) / Width * 2 * MathF.PI) - MathF.PI);
        var radius = MathF.Sqrt(MathF.Max(0, 1 - (height * height)));
        var (radiance, density) = Of(x, y);
        return (new(radius * sine, height, radius * cosine), radiance, density);
    }

    private (Vector3 Radiance, float Density) Of(int x, int y)
    {
        var cell = cells[(y * Width) + x];
        return (cell, Brightness(cell) / whole);
    }

    /// <summary>The place where running sums pass a share of their last, and how far into it.</summary>
    private static (int At, float Into) Find(ReadOnlySpan<float> sums, float share)
    {
        var wanted = share * sums[^1];
        int low = 0,
            high = sums.Length - 2;
        while (low < high)
        {
            var middle = (low + high + 1) / 2;
            if (sums[middle] <= wanted)
                low = middle;
            else
                high = middle - 1;
        }

        var width = sums[low + 1] - sums[low];
        return (low, width > 0 ? Math.Clamp((wanted - sums[low]) / width, 0, 0.9999999f) : 0);
    }

    private (int X, int Y) Cell(Vector3 direction)
    {
        var around = (MathF.Atan2(direction.X, direction.Z) + MathF.PI) / (2 * MathF.PI);
        var down = MathF.Acos(Math.Clamp(direction.Y, -1, 1)) / MathF.PI;
        return (Math.Clamp((int)(around * Width), 0, Width - 1), Math.Clamp((int)(down * Height), 0, Height - 1));
    }

    /// <summary>The height of the upper edge of a row on the unit sphere; between two heights the area is the same everywhere.</summary>
    private float Top(int row) => tops[row];

    private float Power(int x, int y) => Brightness(cells[(y * Width) + x]) * (Top(y) - Top(y + 1)) * 2 * MathF.PI / Width;

    private static float Brightness(Vector3 radiance) => (radiance.X + radiance.Y + radiance.Z) / 3;
}
