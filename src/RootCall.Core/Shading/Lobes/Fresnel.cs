using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>Share of light that an interface reflects, 0 to 1.</summary>
public static class Fresnel
{
    /// <summary>At normal incidence between air and a dielectric: ((n - 1) / (n + 1))².</summary>
    public static double NormalIncidence(double ior) => Math.Pow((ior - 1) / (ior + 1), 2);

    /// <summary>The approximation of glTF 2.0, appendix B.2.2: f0 + (f90 - f0)(1 - cos)⁵ with f90 = 1.</summary>
    /// <param name="f0">At normal incidence.</param>
    /// <param name="cosine">Of the angle to the normal of the facet, 0 to 1.</param>
    public static Vector3 Schlick(Vector3 f0, float cosine) => f0 + ((Vector3.One - f0) * Rim(cosine));

    /// <summary>How far Schlick's approximation has come on its way to grazing incidence: (1 - cos)⁵.</summary>
    public static float Rim(float cosine)
    {
        var m = Math.Clamp(1 - cosine, 0, 1);
        var m2 = m * m;
        return m2 * m2 * m;
    }

    /// <summary>
    /// Unpolarised light on a dielectric (Fresnel's equations, as in “Physically Based Rendering”, 4th edition, 9.3.5).
    /// </summary>
    /// <param name="cosine">Of the angle of incidence, 0 to 1.</param>
    /// <param name="ior">Index of refraction on the far side by the near side.</param>
    /// <returns>1 beyond the critical angle.</returns>
    public static T Dielectric<T>(T cosine, T ior)
        where T : IFloatingPointIeee754<T>
    {
        var sine2 = (T.One - (cosine * cosine)) / (ior * ior);
        if (sine2 >= T.One)
            return T.One;
        var through = T.Sqrt(T.One - sine2);
        var parallel = ((ior * cosine) - through) / ((ior * cosine) + through);
        var across = (cosine - (ior * through)) / (cosine + (ior * through));
        return ((parallel * parallel) + (across * across)) / T.CreateChecked(2);
    }

    /// <summary>Unpolarised light from air on a metal of complex index n + ik.</summary>
    /// <param name="cosine">Of the angle of incidence, 0 to 1.</param>
    public static T Conductor<T>(T cosine, T n, T k)
        where T : IFloatingPointIeee754<T>
    {
        var two = T.CreateChecked(2);
        T cos2 = cosine * cosine,
            sin2 = T.One - cos2,
            n2 = n * n,
            k2 = k * k;
        // The square of the complex sine below the surface, split into its parts.
        var t = n2 - k2 - sin2;
        var size = T.Sqrt((t * t) + (two * two * n2 * k2));
        var a = T.Sqrt(T.Max(T.Zero, (size + t) / two));
        T u = size + cos2,
            v = two * a * cosine;
        var across = (u - v) / (u + v);
        T w = (cos2 * size) + (sin2 * sin2),
            x = v * sin2;
        return (across + (across * (w - x) / (w + x))) / two;
    }
}
