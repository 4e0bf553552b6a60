using System.Numerics;

namespace RootCall.Core.Imaging.Colours;

/// <summary>What red, green, blue and white of a space of linear light are, as CIE 1931 xy.</summary>
public sealed record Primaries(Vector2 Red, Vector2 Green, Vector2 Blue, Vector2 White)
{
    /// <summary>ITU-R BT.709-6, 1.4.</summary>
    public static Primaries Rec709 { get; } = new(new(0.64f, 0.33f), new(0.3f, 0.6f), new(0.15f, 0.06f), new(0.3127f, 0.329f));

    /// <summary>AP0: SMPTE ST 2065-1:2012, table 1.</summary>
    public static Primaries Aces { get; } = new(new(0.7347f, 0.2653f), new(0, 1), new(0.0001f, -0.077f), new(0.32168f, 0.33767f));

    /// <summary>AP1, of ACEScg: ACES S-2014-004, 2.</summary>
    public static Primaries AcesCg { get; } = new(new(0.713f, 0.293f), new(0.165f, 0.83f), new(0.128f, 0.044f), Aces.White);

    /// <summary>For row vectors: the white of one becomes that of the other by Bradford's matrix (“ICC.1:2022”, annex E).</summary>
    public Matrix4x4 To(Primaries other) => ToXyz() * Adapted(White, other.White) * Inverse(other.ToXyz());

    /// <summary>SMPTE RP 177.</summary>
    private Matrix4x4 ToXyz()
    {
        var rows = OfRows(Xyz(Red), Xyz(Green), Xyz(Blue));
        return Matrix4x4.CreateScale(Vector3.Transform(Xyz(White), Inverse(rows))) * rows;
    }

    private static Matrix4x4 Adapted(Vector2 from, Vector2 to)
    {
        var cone = Matrix4x4.Transpose(
            OfRows(new(0.8951f, 0.2664f, -0.1614f), new(-0.7502f, 1.7135f, 0.0367f), new(0.0389f, -0.0685f, 1.0296f))
        );
        return cone * Matrix4x4.CreateScale(Vector3.Transform(Xyz(to), cone) / Vector3.Transform(Xyz(from), cone)) * Inverse(cone);
    }

    private static Vector3 Xyz(Vector2 xy) => new(xy.X / xy.Y, 1, (1 - xy.X - xy.Y) / xy.Y);

    private static Matrix4x4 OfRows(Vector3 a, Vector3 b, Vector3 c) =>
        new(a.X, a.Y, a.Z, 0, b.X, b.Y, b.Z, 0, c.X, c.Y, c.Z, 0, 0, 0, 0, 1);

    private static Matrix4x4 Inverse(Matrix4x4 matrix) =>
        Matrix4x4.Invert(matrix, out var inverse) ? inverse : throw new ArgumentException("Its primaries lie on one line.");
}
