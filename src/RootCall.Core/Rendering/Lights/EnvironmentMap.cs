using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Rendering.Sampling;
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

    /// <param name="cells">Radiance in rows from the top, linear, none below 0; without one above 0 it is of no use.</param>
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

    /// <summary>A file in longitude and latitude, as bright as the studio.</summary>
    /// <param name="side">Most cells around; each is the mean of the pixels that it stands for.</param>
    /// <exception cref="UndecodedException">It does not decode.</exception>
    /// <exception cref="CannotUseException">It gives no light.</exception>
    public static EnvironmentMap Of(IImageDecoder decoder, string path, int side, CancellationToken stop)
    {
        var read = Of(Texture.Of(decoder, path, ColourSpace.Linear, side, stop));
        return read.whole > 0
            ? Studio.Exposed(read.Width, read.Height, (around, up) => read.From(Direction(around, up)).Radiance)
            : throw new CannotUseException($"“{Path.GetFileName(path)}” gives no light.");
    }

    /// <summary>
    /// An image in longitude and latitude, seen from inside with its middle at +z (OpenEXR, latitude-longitude map).
    /// </summary>
    public static EnvironmentMap Of(Texture image)
    {
        var (width, height, pixels) = image.Largest;
        // To the right of the middle lies what is to the right of whoever looks at it: here that is the other way around.
        var cells = new Vector3[width * height];
        for (var i = 0; i < cells.Length; i++)
            cells[i] = Vector3.Max(Vector3.Zero, pixels.Span[i - (2 * (i % width)) + width - 1].AsVector3());
        return new(width, height, [.. cells]);
    }

    /// <summary>The same light turned and made stronger.</summary>
    /// <param name="from">From a direction there to one here.</param>
    public EnvironmentMap Turned(Func<Vector3, Vector3> from, Vector3 times) =>
        new(
            Width,
            Height,
            [
                .. Enumerable
                    .Range(0, Width * Height)
                    .Select(i =>
                        times
                        * From(
                            from(Direction(((i % Width) + 0.5f) / Width * 360 - 180, 90 - (((i / Width) + 0.5f) / Height * 180)))
                        ).Radiance
                    ),
            ]
        );

    /// <param name="around">Degrees from +z towards +x.</param>
    /// <param name="up">Degrees above the horizon.</param>
    private static Vector3 Direction(float around, float up)
    {
        var (sine, level) = MathF.SinCos(float.DegreesToRadians(up));
        var (x, z) = MathF.SinCos(float.DegreesToRadians(around));
        return new(x * level, sine, z * level);
    }

    /// <summary>Mean radiance over all directions.</summary>
    public float Mean => whole / (4 * MathF.PI);

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
    public LightSample Sample(Vector2 u)
    {
        var (y, v) = RunningSums.Find(rows, u.Y);
        var (x, w) = RunningSums.Find(columns.AsSpan(y * (Width + 1), Width + 1), u.X);
        var height = Top(y) + (v * (Top(y + 1) - Top(y)));
        var (sine, cosine) = MathF.SinCos(((x + w) / Width * 2 * MathF.PI) - MathF.PI);
        var radius = MathF.Sqrt(MathF.Max(0, 1 - (height * height)));
        var (radiance, density) = Of(x, y);
        return new(new(radius * sine, height, radius * cosine), float.PositiveInfinity, radiance, density, IsFound: true);
    }

    private (Vector3 Radiance, float Density) Of(int x, int y)
    {
        var cell = cells[(y * Width) + x];
        return (cell, Brightness(cell) / whole);
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
