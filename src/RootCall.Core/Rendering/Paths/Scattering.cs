using System.Numerics;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Sampling;
using RootCall.Core.Shading.Evaluation;

namespace RootCall.Core.Rendering.Paths;

/// <summary>What happens to a path where it meets a surface, whatever shape that has.</summary>
internal static class Scattering
{
    /// <summary>Bounces that are followed; after the fourth one goes on by chance (Russian roulette).</summary>
    public const int MostBounces = 12;

    private const int SureBounces = 4;

    /// <summary>Brighter paths count as this: one lucky path would stand as a dot in the picture.</summary>
    public const float MostRadiance = 40;

    /// <summary>Linear grey behind what is shown: 18 %, on which colour is judged.</summary>
    public static readonly Vector3 Field = new(0.18f);

    /// <summary>What light from a direction goes to the viewer.</summary>
    /// <param name="light">That was picked.</param>
    /// <param name="view">In the frame of the surface.</param>
    /// <param name="outward">Of the form, not bent by a map.</param>
    /// <returns>What of it would go to the viewer if nothing stood between; null for none.</returns>
    public static Vector3? Lit(in LightSample light, Surface surface, Frame frame, Vector3 view, Vector3 outward, bool isInside)
    {
        var local = frame.ToLocal(light.Direction);
        // A bent normal may say above what the form says is below: no light comes from there.
        if (Vector3.Dot(light.Direction, outward) > 0 != (local.Z > 0 != isInside) || !(light.Density > 0))
            return null;
        var value = surface.Evaluate(view, local) * light.Light * (MathF.Abs(local.Z) / light.Density);
        if (value == Vector3.Zero)
            return null;
        return light.IsFound ? value * Balance.Share(light.Density, surface.Density(view, local)) : value;
    }

    /// <summary>Where a path goes on to.</summary>
    /// <param name="Weight">What share of the light from there goes to the viewer, by how likely it was picked.</param>
    public readonly record struct Turn(Vector3 Direction, Vector3 Weight, float Density, bool Leaves);

    /// <summary>Picks where a path goes on to; null when it ends.</summary>
    public static Turn? Next(Surface surface, Frame frame, Vector3 view, Vector3 outward, bool isInside, Vector2 u)
    {
        if (surface.Sample(view, u) is not { } picked)
            return null;
        var density = surface.Density(view, picked);
        var world = frame.ToWorld(picked);
        var leaves = Vector3.Dot(world, outward) > 0;
        if (!(density > 0) || leaves != (picked.Z > 0 != isInside))
            return null;
        return new(world, surface.Evaluate(view, picked) * (MathF.Abs(picked.Z) / density), density, leaves);
    }

    /// <summary>Whether a path goes on after so many bounces; what does counts for those that do not.</summary>
    public static bool Survives(ref Vector3 weight, int bounce, Vector2 u)
    {
        if (bounce < SureBounces)
            return true;
        var going = Math.Clamp(MathF.Max(weight.X, MathF.Max(weight.Y, weight.Z)), 0.05f, 1);
        if (u.X >= going)
            return false;
        weight /= going;
        return true;
    }

    /// <summary>What is left of light after so long a way (Beer's law).</summary>
    public static Vector3 Passed(Vector3 absorption, float length)
    {
        if (absorption == Vector3.Zero)
            return Vector3.One;
        var d = absorption * -length;
        return new(MathF.Exp(d.X), MathF.Exp(d.Y), MathF.Exp(d.Z));
    }

    /// <summary>A path's light as it counts in a picture.</summary>
    /// <param name="most">What a brighter path counts as.</param>
    public static Vector3 Counted(Vector3 sum, float most = MostRadiance) =>
        float.IsFinite(sum.X + sum.Y + sum.Z) ? Vector3.Min(sum, new(most)) : Vector3.Zero;
}
