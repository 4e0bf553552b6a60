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
    public static Vector3 Schlick(Vector3 f0, float cosine)
    {
        var m = Math.Clamp(1 - cosine, 0, 1);
        var m2 = m * m;
        return f0 + ((Vector3.One - f0) * (m2 * m2 * m));
    }

    /// <summary>
    /// Unpolarised light on a dielectric (Fresnel's equations, as in “Physically Based Rendering”, 4th edition, 9.3.5).
    /// </summary>
    /// <param name="cosine">Of the angle of incidence, 0 to 1.</param>
    /// <param name="ior">Index of refraction on the far side by the near side.</param>
    /// <returns>1 beyond the critical angle.</returns>
    public static double Dielectric(double cosine, double ior)
    {
        var sine2 = (1 - (cosine * cosine)) / (ior * ior);
        if (sine2 >= 1)
            return 1;
        var through = Math.Sqrt(1 - sine2);
        var parallel = ((ior * cosine) - through) / ((ior * cosine) + through);
        var across = (cosine - (ior * through)) / (cosine + (ior * through));
        return ((parallel * parallel) + (across * across)) / 2;
    }

    /// <summary>Unpolarised light from air on a metal of complex index n + ik.</summary>
    /// <param name="cosine">Of the angle of incidence, 0 to 1.</param>
    public static double Conductor(double cosine, double n, double k)
    {
        var index = new Complex(n, k);
        var sine2 = 1 - (cosine * cosine);
        var through = Complex.Sqrt(1 - (sine2 / (index * index)));
        var parallel = ((index * cosine) - through) / ((index * cosine) + through);
        var across = (cosine - (index * through)) / (cosine + (index * through));
        return ((parallel.Magnitude * parallel.Magnitude) + (across.Magnitude * across.Magnitude)) / 2;
    }
}
