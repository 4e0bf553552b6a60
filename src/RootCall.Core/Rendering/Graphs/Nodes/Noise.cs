using System.Numerics;

namespace RootCall.Core.Rendering.Graphs.Nodes;

/// <summary>
/// Noise by gradients on a lattice (“Improving Noise”, SIGGRAPH 2002), by cells and by the nearest of scattered points. The
/// specification leaves the hash open; the one of MaterialX's and OSL's implementations is used (lookup3, public domain), so that a
/// pattern lies where it does there.
/// </summary>
internal static class Noise
{
    private const float Scale2 = 0.6616f,
        Scale3 = 0.9820f;

    /// <summary>-1 to 1; 0 on the lattice.</summary>
    public static float Gradient(Vector2 p)
    {
        var (x, y) = ((int)MathF.Floor(p.X), (int)MathF.Floor(p.Y));
        return Scale2 * Between(x, y, p.X - x, p.Y - y, (i, j) => Hash(i, j));
    }

    public static float Gradient(Vector3 p) => Gradient(p, h => h);

    public static Vector3 Gradient3(Vector2 p)
    {
        var (x, y) = ((int)MathF.Floor(p.X), (int)MathF.Floor(p.Y));
        float Part(int shift) => Scale2 * Between(x, y, p.X - x, p.Y - y, (i, j) => (Hash(i, j) >> shift) & 0xFF);
        return new(Part(0), Part(8), Part(16));
    }

    public static Vector3 Gradient3(Vector3 p) =>
        new(Gradient(p, h => h & 0xFF), Gradient(p, h => (h >> 8) & 0xFF), Gradient(p, h => (h >> 16) & 0xFF));

    /// <summary>Sums of the same noise, ever finer.</summary>
    public static float Fractal(Vector3 p, int octaves, float lacunarity, float diminish)
    {
        var (sum, amplitude) = (0f, 1f);
        for (var i = 0; i < Math.Min(octaves, MostOctaves); i++, amplitude *= diminish, p *= lacunarity)
            sum += amplitude * Gradient(p);
        return sum;
    }

    public static Vector3 Fractal3(Vector3 p, int octaves, float lacunarity, float diminish)
    {
        var (sum, amplitude) = (Vector3.Zero, 1f);
        for (var i = 0; i < Math.Min(octaves, MostOctaves); i++, amplitude *= diminish, p *= lacunarity)
            sum += amplitude * Gradient3(p);
        return sum;
    }

    public static float Fractal(Vector2 p, int octaves, float lacunarity, float diminish)
    {
        var (sum, amplitude) = (0f, 1f);
        for (var i = 0; i < Math.Min(octaves, MostOctaves); i++, amplitude *= diminish, p *= lacunarity)
            sum += amplitude * Gradient(p);
        return sum;
    }

    /// <summary>More than the digits of a single hold.</summary>
    private const int MostOctaves = 24;

    /// <summary>0 to 1, the same all over a cell.</summary>
    public static float Cell(Vector2 p) => Unit(Hash((int)MathF.Floor(p.X), (int)MathF.Floor(p.Y)));

    public static float Cell(Vector3 p) => Unit(Hash((int)MathF.Floor(p.X), (int)MathF.Floor(p.Y), (int)MathF.Floor(p.Z)));

    /// <summary>Two numbers of a cell are told apart by a third.</summary>
    private static Vector3 Cell3(int x, int y) => new(Unit(Hash(x, y, 0)), Unit(Hash(x, y, 1)), Unit(Hash(x, y, 2)));

    private static Vector3 Cell3(int x, int y, int z) => new(Unit(Hash(x, y, z, 0)), Unit(Hash(x, y, z, 1)), Unit(Hash(x, y, z, 2)));

    /// <summary>
    /// Distances to the three nearest of points that are scattered one to a cell (“A Cellular Texture Basis Function”, SIGGRAPH 1996).
    /// </summary>
    /// <param name="jitter">How far they are from the middle of their cells, 0 to 1.</param>
    /// <param name="isCell">
    /// Values of the nearest point's cell instead; the first is <see cref="Cell(Vector2)"/>'s where one is wanted.
    /// </param>
    public static Vector3 Nearest(Vector2 p, float jitter, bool isCell, bool isOne)
    {
        var (x, y) = ((int)MathF.Floor(p.X), (int)MathF.Floor(p.Y));
        var at = p - new Vector2(x, y);
        var least = new Least();
        for (var i = -1; i <= 1; i++)
        for (var j = -1; j <= 1; j++)
        {
            var random = Cell3(x + i, y + j);
            var point = new Vector2(i, j) + ((new Vector2(random.X, random.Y) - new Vector2(0.5f)) * jitter) + new Vector2(0.5f);
            least.Add((point - at).LengthSquared(), new(point - at, 0));
        }

        var place = new Vector2(least.Place.X, least.Place.Y) + p;
        return !isCell ? least.Distances
            : isOne ? new(Cell(place))
            : Cell3((int)MathF.Floor(place.X), (int)MathF.Floor(place.Y));
    }

    /// <inheritdoc cref="Nearest(Vector2, float, bool, bool)"/>
    public static Vector3 Nearest(Vector3 p, float jitter, bool isCell, bool isOne)
    {
        var (x, y, z) = ((int)MathF.Floor(p.X), (int)MathF.Floor(p.Y), (int)MathF.Floor(p.Z));
        var at = p - new Vector3(x, y, z);
        var least = new Least();
        for (var i = -1; i <= 1; i++)
        for (var j = -1; j <= 1; j++)
        for (var k = -1; k <= 1; k++)
        {
            var point = new Vector3(i, j, k) + ((Cell3(x + i, y + j, z + k) - new Vector3(0.5f)) * jitter) + new Vector3(0.5f);
            least.Add((point - at).LengthSquared(), point - at);
        }

        var place = least.Place + p;
        return !isCell ? least.Distances
            : isOne ? new(Cell(place))
            : Cell3((int)MathF.Floor(place.X), (int)MathF.Floor(place.Y), (int)MathF.Floor(place.Z));
    }

    /// <summary>The three smallest of some squares, and where the smallest was.</summary>
    private struct Least()
    {
        /// <summary>Beyond all; a graph may scatter points far out.</summary>
        private Vector3 squares = new(1e6f);

        public Vector3 Place { get; private set; }

        public readonly Vector3 Distances => Vector3.SquareRoot(squares);

        public void Add(float square, Vector3 place)
        {
            if (square < squares.X)
                (squares, Place) = (new(square, squares.X, squares.Y), place);
            else if (square < squares.Y)
                squares = new(squares.X, square, squares.Y);
            else if (square < squares.Z)
                squares.Z = square;
        }
    }

    private static float Between(int x, int y, float fx, float fy, Func<int, int, uint> hash)
    {
        float u = Fade(fx),
            v = Fade(fy);
        float At(int i, int j) => Slope(hash(x + i, y + j), fx - i, fy - j);
        return float.Lerp(float.Lerp(At(0, 0), At(1, 0), u), float.Lerp(At(0, 1), At(1, 1), u), v);
    }

    private static float Gradient(Vector3 p, Func<uint, uint> part)
    {
        var (x, y, z) = ((int)MathF.Floor(p.X), (int)MathF.Floor(p.Y), (int)MathF.Floor(p.Z));
        var (fx, fy, fz) = (p.X - x, p.Y - y, p.Z - z);
        float At(int i, int j, int k) => Slope(part(Hash(x + i, y + j, z + k)), fx - i, fy - j, fz - k);
        float u = Fade(fx),
            v = Fade(fy);
        float Plane(int k) => float.Lerp(float.Lerp(At(0, 0, k), At(1, 0, k), u), float.Lerp(At(0, 1, k), At(1, 1, k), u), v);
        return Scale3 * float.Lerp(Plane(0), Plane(1), Fade(fz));
    }

    private static float Slope(uint hash, float x, float y)
    {
        var h = hash & 7;
        var (u, v) = h < 4 ? (x, 2 * y) : (y, 2 * x);
        return ((h & 1) != 0 ? -u : u) + ((h & 2) != 0 ? -v : v);
    }

    private static float Slope(uint hash, float x, float y, float z)
    {
        var h = hash & 15;
        var u = h < 8 ? x : y;
        var v =
            h < 4 ? y
            : h is 12 or 14 ? x
            : z;
        return ((h & 1) != 0 ? -u : u) + ((h & 2) != 0 ? -v : v);
    }

    private static float Fade(float t) => t * t * t * ((t * ((t * 6) - 15)) + 10);

    private static float Unit(uint bits) => (float)(bits / (double)uint.MaxValue);

    private static uint Seed(uint length) => 0xDEADBEEF + (length << 2) + 13;

    private static uint Hash(int x, int y)
    {
        var s = Seed(2);
        return Final(s + (uint)x, s + (uint)y, s);
    }

    private static uint Hash(int x, int y, int z)
    {
        var s = Seed(3);
        return Final(s + (uint)x, s + (uint)y, s + (uint)z);
    }

    private static uint Hash(int x, int y, int z, int w)
    {
        var s = Seed(4);
        uint a = s + (uint)x,
            b = s + (uint)y,
            c = s + (uint)z;
        a -= c;
        a ^= uint.RotateLeft(c, 4);
        c += b;
        b -= a;
        b ^= uint.RotateLeft(a, 6);
        a += c;
        c -= b;
        c ^= uint.RotateLeft(b, 8);
        b += a;
        a -= c;
        a ^= uint.RotateLeft(c, 16);
        c += b;
        b -= a;
        b ^= uint.RotateLeft(a, 19);
        a += c;
        c -= b;
        c ^= uint.RotateLeft(b, 4);
        b += a;
        return Final(a + (uint)w, b, c);
    }

    private static uint Final(uint a, uint b, uint c)
    {
        c ^= b;
        c -= uint.RotateLeft(b, 14);
        a ^= c;
        a -= uint.RotateLeft(c, 11);
        b ^= a;
        b -= uint.RotateLeft(a, 25);
        c ^= b;
        c -= uint.RotateLeft(b, 16);
        a ^= c;
        a -= uint.RotateLeft(c, 4);
        b ^= a;
        b -= uint.RotateLeft(a, 14);
        c ^= b;
        c -= uint.RotateLeft(b, 24);
        return c;
    }
}
