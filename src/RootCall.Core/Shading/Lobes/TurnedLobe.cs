using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>A lobe whose axes are turned around the normal.</summary>
/// <param name="turns">Counter-clockwise as seen from outside; 1 is all around.</param>
public sealed class TurnedLobe(ILobe lobe, float turns) : ILobe
{
    private readonly (float Sine, float Cosine) angle = MathF.SinCos(2 * MathF.PI * turns);

    public Vector3 Evaluate(Vector3 view, Vector3 light) => lobe.Evaluate(In(view), In(light));

    public float Density(Vector3 view, Vector3 light) => lobe.Density(In(view), In(light));

    public Vector3? Sample(Vector3 view, Vector2 u) =>
        lobe.Sample(In(view), u) is { } light
            ? new Vector3((angle.Cosine * light.X) - (angle.Sine * light.Y), (angle.Sine * light.X) + (angle.Cosine * light.Y), light.Z)
            : null;

    private Vector3 In(Vector3 d) => new((angle.Cosine * d.X) + (angle.Sine * d.Y), (angle.Cosine * d.Y) - (angle.Sine * d.X), d.Z);
}
