using System.Collections.Immutable;

namespace RootCall.Core.Scenes;

/// <summary>4x4 matrices in double precision, row-major for row vectors: the last row holds the translation.</summary>
internal static class Transforms
{
    public static double[] Identity => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

    /// <summary>First <paramref name="a"/>, then <paramref name="b"/>.</summary>
    public static double[] Multiply(ReadOnlySpan<double> a, ReadOnlySpan<double> b)
    {
        var m = new double[16];
        for (var r = 0; r < 4; r++)
        for (var c = 0; c < 4; c++)
        for (var k = 0; k < 4; k++)
            m[(r * 4) + c] += a[(r * 4) + k] * b[(k * 4) + c];
        return m;
    }

    public static double[] Translation(double x, double y, double z) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1];

    /// <summary>Turns a space whose up is X or Z so that it is Y.</summary>
    public static double[] Upright(string? up) =>
        up switch
        {
            "Z" => Rotation(1, 0, 0, -90),
            "X" => Rotation(0, 0, 1, 90),
            _ => Identity,
        };

    public static double[] Scaling(double x, double y, double z) => [x, 0, 0, 0, 0, y, 0, 0, 0, 0, z, 0, 0, 0, 0, 1];

    /// <summary>Counter-clockwise around an axis, in degrees.</summary>
    public static double[] Rotation(double x, double y, double z, double degrees)
    {
        var length = Math.Sqrt((x * x) + (y * y) + (z * z));
        if (length == 0)
            return Identity;
        var half = degrees * Math.PI / 360;
        var s = Math.Sin(half) / length;
        return Quaternion(x * s, y * s, z * s, Math.Cos(half));
    }

    public static double[] Quaternion(double x, double y, double z, double w) =>
        [
            1 - (2 * ((y * y) + (z * z))),
            2 * ((x * y) + (z * w)),
            2 * ((x * z) - (y * w)),
            0,
            2 * ((x * y) - (z * w)),
            1 - (2 * ((x * x) + (z * z))),
            2 * ((y * z) + (x * w)),
            0,
            2 * ((x * z) + (y * w)),
            2 * ((y * z) - (x * w)),
            1 - (2 * ((x * x) + (y * y))),
            0,
            0,
            0,
            0,
            1,
        ];

    /// <summary>Rotations around the axes in the order of the letters, the first applied first.</summary>
    public static double[] Euler(string order, double x, double y, double z)
    {
        var m = Identity;
        foreach (var axis in order)
            m = Multiply(
                m,
                axis switch
                {
                    'X' => Rotation(1, 0, 0, x),
                    'Y' => Rotation(0, 1, 0, y),
                    _ => Rotation(0, 0, 1, z),
                }
            );
        return m;
    }

    /// <summary>Where each node is, in the scene's space.</summary>
    public static double[][] Worlds(Scene scene)
    {
        var world = new double[scene.Nodes.Length][];
        for (var i = 0; i < world.Length; i++)
        {
            var node = scene.Nodes[i];
            var own = node.Transform.IsEmpty ? Transforms.Identity : [.. node.Transform];
            // Parents stand before their children.
            world[i] = node.Parent >= 0 && node.Parent < i ? Transforms.Multiply(own, world[node.Parent]) : own;
        }

        return world;
    }

    /// <summary>Empty for the identity, so that unmoved nodes take no room.</summary>
    public static ImmutableArray<double> Pack(double[] m) => m.AsSpan().SequenceEqual(Identity) ? [] : [.. m];

    /// <summary>Of the upper three rows and columns: how much larger a volume becomes; below 0 it is mirrored.</summary>
    public static double Determinant(ReadOnlySpan<double> m) =>
        (m[0] * ((m[5] * m[10]) - (m[6] * m[9]))) - (m[1] * ((m[4] * m[10]) - (m[6] * m[8]))) + (m[2] * ((m[4] * m[9]) - (m[5] * m[8])));

    public static (double X, double Y, double Z) Apply(ReadOnlySpan<double> m, double x, double y, double z) =>
        (
            (x * m[0]) + (y * m[4]) + (z * m[8]) + m[12],
            (x * m[1]) + (y * m[5]) + (z * m[9]) + m[13],
            (x * m[2]) + (y * m[6]) + (z * m[10]) + m[14]
        );
}
