using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>Share of light that a facet mirrors, by the angle to its normal; one of the ways that models say it.</summary>
public readonly record struct Reflectance
{
    private enum Kind
    {
        Schlick,
        Dielectric,
        Conductor,
        Film,
    }

    private Reflectance(Kind kind, Vector3 first, Vector3 second, Vector3 bend = default, ThinFilm film = default) =>
        (this.kind, this.first, this.second, this.bend, this.film) = (kind, first, second, bend, film);

    private readonly Kind kind;
    private readonly Vector3 first;
    private readonly Vector3 second;
    private readonly Vector3 bend;
    private readonly ThinFilm film;

    /// <param name="f0">At normal incidence.</param>
    /// <param name="f90">At grazing incidence.</param>
    public static Reflectance Schlick(Vector3 f0, Vector3 f90) => new(Kind.Schlick, f0, f90);

    /// <summary>
    /// A metal whose reflectance at 82° is a share of what Schlick's curve gives there (OpenPBR 1.1, “Metal”: F82-tint).
    /// </summary>
    public static Reflectance Metal(Vector3 f0, Vector3 tint82)
    {
        const float At = 1 / 7f,
            Rest = 1 - At;
        var there = Fresnel.Schlick(f0, At);
        var weight = At * MathF.Pow(Rest, 6);
        return new(Kind.Schlick, f0, Vector3.One, there * (Vector3.One - tint82) / weight);
    }

    /// <summary>An interface to a dielectric.</summary>
    /// <param name="ior">Of the far side by the near side.</param>
    public static Reflectance Dielectric(float ior) => new(Kind.Dielectric, new(ior), Vector3.Zero);

    /// <summary>A metal of complex index n + ik, for each primary.</summary>
    public static Reflectance Conductor(Vector3 n, Vector3 k) => new(Kind.Conductor, n, k);

    /// <summary>
    /// A metal by what it mirrors at normal incidence and towards the edge (“Artist Friendly Metallic Fresnel”, JCGT 3(4), 2014), as
    /// MaterialX's artistic_ior has it.
    /// </summary>
    public static Reflectance Artistic(Vector3 reflectivity, Vector3 edge)
    {
        var r = Vector3.Clamp(reflectivity, Vector3.Zero, new(0.99f));
        var root = Vector3.SquareRoot(r);
        var low = (Vector3.One - r) / (Vector3.One + r);
        var high = (Vector3.One + root) / (Vector3.One - root);
        var n = Vector3.Lerp(high, low, edge);
        var (up, down) = (n + Vector3.One, n - Vector3.One);
        var k2 = ((up * up * r) - (down * down)) / (Vector3.One - r);
        return Conductor(n, Vector3.SquareRoot(Vector3.Max(Vector3.Zero, k2)));
    }

    /// <summary>A film over what mirrors <paramref name="under"/> at normal incidence.</summary>
    public static Reflectance Film(ThinFilm film, Vector3 under) => new(Kind.Film, under, Vector3.Zero, default, film);

    /// <summary>What Schlick's curve leaves: the part that is not mirrored.</summary>
    public Reflectance Rest => Schlick(Vector3.One - first, Vector3.One - second);

    /// <param name="cosine">Of the angle to the facet's normal, 0 to 1.</param>
    public Vector3 At(float cosine)
    {
        var c = Math.Clamp(cosine, 0, 1);
        switch (kind)
        {
            case Kind.Dielectric:
                return new(Fresnel.Dielectric(c, first.X));
            case Kind.Conductor:
                return new(
                    Fresnel.Conductor(c, first.X, second.X),
                    Fresnel.Conductor(c, first.Y, second.Y),
                    Fresnel.Conductor(c, first.Z, second.Z)
                );
            case Kind.Film:
                return film.Reflectance(c, first);
            default:
                var rim = Fresnel.Rim(c);
                return Vector3.Max(Vector3.Zero, first + ((second - first) * rim) - (bend * (c * rim * (1 - c))));
        }
    }

    /// <summary>
    /// What facets of a width send back under light from all around: from tables for Schlick's curve and for dielectrics; metals are taken
    /// as the Schlick curve with the same ends.
    /// </summary>
    public Vector3 Albedo(float cosine, float alpha)
    {
        if (kind == Kind.Dielectric && first.X >= 1)
            return new(FacetAlbedo.OfDielectric(cosine, alpha, (first.X - 1) / (first.X + 1)));
        var (start, rest) = FacetAlbedo.Of(cosine, alpha);
        return kind switch
        {
            Kind.Schlick => Vector3.Max(Vector3.Zero, (first * start) + (second * rest)),
            Kind.Film => At(cosine) * (start + rest),
            _ => (At(1) * start) + new Vector3(rest),
        };
    }
}
