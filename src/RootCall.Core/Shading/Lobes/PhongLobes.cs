using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>
/// The highlight of MTL (illum 2: (N·H)^Ns) and of COLLADA's blinn, as their equations have it: of a light that makes a white matte
/// surface 1, the peak is 1, whatever the exponent, and the light's own cosine does not count.
/// </summary>
/// <param name="exponent">0 or more.</param>
public sealed class HalfHighlightLobe(float exponent) : ILobe
{
    public Vector3 Evaluate(Vector3 view, Vector3 light)
    {
        if (view.Z <= 0 || light.Z <= 0)
            return Vector3.Zero;
        var cosine = Vector3.Normalize(view + light).Z;
        // The equations multiply no cosine; what is summed up does.
        return new(MathF.Pow(cosine, exponent) / (MathF.PI * MathF.Max(light.Z, 1e-3f)));
    }

    public float Density(Vector3 view, Vector3 light)
    {
        if (view.Z <= 0 || light.Z <= 0)
            return 0;
        var half = Vector3.Normalize(view + light);
        var cosine = Vector3.Dot(view, half);
        return (exponent + 1) * MathF.Pow(half.Z, exponent) / (2 * MathF.PI * 4 * MathF.Max(cosine, 1e-6f));
    }

    public Vector3? Sample(Vector3 view, Vector2 u)
    {
        var half = Around(u, exponent);
        var light = (2 * Vector3.Dot(view, half) * half) - view;
        return view.Z > 0 && light.Z > 0 ? light : null;
    }

    internal static Vector3 Around(Vector2 u, float exponent)
    {
        var z = MathF.Pow(1 - u.X, 1 / (exponent + 1));
        var r = MathF.Sqrt(MathF.Max(0, 1 - (z * z)));
        var (sine, cosine) = MathF.SinCos(2 * MathF.PI * u.Y);
        return new(r * cosine, r * sine, z);
    }
}

/// <summary>The highlight of COLLADA's phong: (R·V)^shininess, R the mirrored light. As above it is no physical lobe.</summary>
public sealed class MirrorHighlightLobe(float exponent) : ILobe
{
    private static Vector3 Mirrored(Vector3 view) => new(-view.X, -view.Y, view.Z);

    public Vector3 Evaluate(Vector3 view, Vector3 light)
    {
        if (view.Z <= 0 || light.Z <= 0)
            return Vector3.Zero;
        var cosine = MathF.Max(0, Vector3.Dot(Mirrored(view), light));
        return new(MathF.Pow(cosine, exponent) / (MathF.PI * MathF.Max(light.Z, 1e-3f)));
    }

    public float Density(Vector3 view, Vector3 light)
    {
        if (view.Z <= 0 || light.Z <= 0)
            return 0;
        var cosine = MathF.Max(0, Vector3.Dot(Mirrored(view), light));
        return (exponent + 1) * MathF.Pow(cosine, exponent) / (2 * MathF.PI);
    }

    public Vector3? Sample(Vector3 view, Vector2 u)
    {
        if (view.Z <= 0)
            return null;
        var axis = Mirrored(view);
        var across = Vector3.Normalize(MathF.Abs(axis.Z) < 0.9f ? Vector3.Cross(axis, Vector3.UnitZ) : Vector3.Cross(axis, Vector3.UnitX));
        var around = HalfHighlightLobe.Around(u, exponent);
        var light = (around.X * across) + (around.Y * Vector3.Cross(axis, across)) + (around.Z * axis);
        return light.Z > 0 ? light : null;
    }
}
