using System.Numerics;

namespace RootCall.Core.Rendering;

/// <summary>
/// Axes of a surface, of which the third is its normal (“Building an Orthonormal Basis, Revisited”, JCGT 6(1), 2017).
/// </summary>
public readonly record struct Frame(Vector3 Tangent, Vector3 Bitangent, Vector3 Normal)
{
    /// <param name="normal">Of length 1.</param>
    public static Frame Around(Vector3 normal)
    {
        var sign = MathF.CopySign(1, normal.Z);
        var a = -1 / (sign + normal.Z);
        var b = normal.X * normal.Y * a;
        return new(
            new(1 + (sign * normal.X * normal.X * a), sign * b, -sign * normal.X),
            new(b, sign + (normal.Y * normal.Y * a), -normal.Y),
            normal
        );
    }

    public Vector3 ToLocal(Vector3 world) => new(Vector3.Dot(world, Tangent), Vector3.Dot(world, Bitangent), Vector3.Dot(world, Normal));

    public Vector3 ToWorld(Vector3 local) => (local.X * Tangent) + (local.Y * Bitangent) + (local.Z * Normal);
}
