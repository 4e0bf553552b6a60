namespace RootCall.Demo.Painting;

/// <summary>Tileable noise over the unit square: the same numbers on every machine, since it is all integer hashes.</summary>
internal static class Noise
{
    /// <summary>Smooth value noise, 0 to 1, that repeats every unit; <paramref name="cells"/> lattice cells a side.</summary>
    public static float Value(float u, float v, int cells, int seed)
    {
        float x = Wrap(u) * cells,
            y = Wrap(v) * cells;
        int x0 = (int)x,
            y0 = (int)y;
        float fx = Smooth(x - x0),
            fy = Smooth(y - y0);
        float a = Hash(x0 % cells, y0 % cells, seed),
            b = Hash((x0 + 1) % cells, y0 % cells, seed);
        float c = Hash(x0 % cells, (y0 + 1) % cells, seed),
            d = Hash((x0 + 1) % cells, (y0 + 1) % cells, seed);
        return Mix(Mix(a, b, fx), Mix(c, d, fx), fy);
    }

    /// <summary>Octaves of value noise, each twice as fine and half as strong; 0 to 1.</summary>
    public static float Fbm(float u, float v, int cells, int octaves, int seed)
    {
        float sum = 0,
            weight = 0,
            strength = 1;
        for (var o = 0; o < octaves; o++, strength /= 2, cells *= 2)
        {
            sum += strength * Value(u, v, cells, seed + o);
            weight += strength;
        }

        return sum / weight;
    }

    /// <summary>Distance to the nearest of one random point a cell, in cells; about 0 to 1.</summary>
    public static float Cells(float u, float v, int cells, int seed)
    {
        float x = Wrap(u) * cells,
            y = Wrap(v) * cells,
            best = 9;
        for (var j = -1; j <= 1; j++)
        for (var i = -1; i <= 1; i++)
        {
            int cx = (int)x + i,
                cy = (int)y + j;
            int wx = (cx + cells) % cells,
                wy = (cy + cells) % cells;
            float dx = cx + Hash(wx, wy, seed) - x,
                dy = cy + Hash(wx, wy, seed + 71) - y;
            best = Math.Min(best, (dx * dx) + (dy * dy));
        }

        return MathF.Sqrt(best);
    }

    public static float Mix(float a, float b, float t) => a + ((b - a) * t);

    public static float Step(float from, float to, float x) => Smooth(Math.Clamp((x - from) / (to - from), 0, 1));

    private static float Smooth(float t) => t * t * (3 - (2 * t));

    private static float Wrap(float x) => x - MathF.Floor(x);

    private static float Hash(int x, int y, int seed)
    {
        var h = ((uint)x * 0x9E3779B1u) ^ ((uint)y * 0x85EBCA77u) ^ ((uint)seed * 0xC2B2AE3Du);
        h = (h ^ (h >> 15)) * 0x2C1B3C6Du;
        h = (h ^ (h >> 12)) * 0x297A2D39u;
        return ((h ^ (h >> 15)) & 0xFFFFFF) / (float)0x1000000;
    }
}
