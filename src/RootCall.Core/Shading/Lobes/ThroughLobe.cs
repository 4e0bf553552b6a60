using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>
/// What another lobe would send back, sent through a thin wall instead: as seen in the mirror of the surface
/// (KHR_materials_transmission, “Transmission BTDF”).
/// </summary>
public sealed class ThroughLobe(ILobe mirrored) : ILobe
{
    private static Vector3 Turned(Vector3 direction) => direction with { Z = -direction.Z };

    public Vector3 Evaluate(Vector3 view, Vector3 light) => light.Z >= 0 ? Vector3.Zero : mirrored.Evaluate(view, Turned(light));

    public float Density(Vector3 view, Vector3 light) => light.Z >= 0 ? 0 : mirrored.Density(view, Turned(light));

    public Vector3? Sample(Vector3 view, Vector2 u) => mirrored.Sample(view, u) is { } light ? Turned(light) : null;
}
