using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>Directions picked as often as a matte surface sends light there.</summary>
public static class Cosine
{
    public static float Density(Vector3 light) => MathF.Max(0, light.Z) / MathF.PI;

    /// <param name="u">Two numbers from 0 to 1, 1 left out.</param>
    public static Vector3 Sample(Vector2 u)
    {
        var r = MathF.Sqrt(u.X);
        var (sine, cosine) = MathF.SinCos(2 * MathF.PI * u.Y);
        return new(r * cosine, r * sine, MathF.Sqrt(MathF.Max(0, 1 - u.X)));
    }
}

/// <summary>A lobe over the upper half that is wide enough for <see cref="Cosine"/> to pick its directions.</summary>
public abstract class WideLobe : ILobe
{
    public Vector3 Evaluate(Vector3 view, Vector3 light) => view.Z <= 0 || light.Z <= 0 ? Vector3.Zero : Value(view, light);

    public float Density(Vector3 view, Vector3 light) => view.Z <= 0 ? 0 : Cosine.Density(light);

    public Vector3? Sample(Vector3 view, Vector2 u) => view.Z <= 0 ? null : Cosine.Sample(u);

    /// <summary>Both directions lie above the surface.</summary>
    protected abstract Vector3 Value(Vector3 view, Vector3 light);
}
