using System.Numerics;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>Terms that several models share.</summary>
internal static class Parts
{
    /// <summary>Facets by a roughness and how much longer they are one way: MaterialX 1.39, roughness_anisotropy.</summary>
    public static Ggx Facets(float roughness, float anisotropy = 0)
    {
        var alpha = roughness * roughness;
        if (anisotropy <= 0)
            return Width(alpha, alpha);
        var aspect = MathF.Sqrt(1 - Math.Clamp(anisotropy, 0, 0.98f));
        return Width(MathF.Min(alpha / aspect, 1), alpha * aspect);
    }

    public static Ggx Width(float x, float y) => new(Math.Clamp(x, Ggx.Least, 1), Math.Clamp(y, Ggx.Least, 1));

    /// <summary>Reflectance at normal incidence from air.</summary>
    public static float F0(float ior)
    {
        var r = (ior - 1) / (ior + 1);
        return r * r;
    }

    /// <summary>Absorption that leaves <paramref name="colour"/> of white light after <paramref name="depth"/> (Beer's law).</summary>
    public static Vector3 Absorption(Vector3 colour, float depth)
    {
        if (depth <= 0 || !float.IsFinite(depth))
            return Vector3.Zero;
        var c = Vector3.Clamp(colour, new(1e-4f), Vector3.One);
        return new Vector3(MathF.Log(c.X), MathF.Log(c.Y), MathF.Log(c.Z)) / -depth;
    }

    /// <summary>Lobes whose own axes are turned around the normal.</summary>
    /// <param name="turns">Counter-clockwise, 1 is all around.</param>
    public static ILobe Turned(ILobe lobe, float turns) => turns == 0 ? lobe : new TurnedLobe(lobe, turns);

    /// <summary>The inside of a solid that light got into: its interface, and nothing of what lies on its outside.</summary>
    public static Surface Inside(Ggx facets, float ior, Vector3 tint, Vector3 absorption, float opacity = 1)
    {
        var from = new Surface.Builder(Vector3.UnitZ);
        from.Add(Vector3.One, new GlassLobe(facets, 1 / MathF.Max(ior, 1e-3f), Vector3.One, tint));
        return from.Build(opacity: opacity, absorption: absorption);
    }
}
