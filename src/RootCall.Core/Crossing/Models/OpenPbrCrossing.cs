using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>OpenPBR Surface 1.1.</summary>
internal sealed class OpenPbrCrossing : ICrossedModel
{
    public string Id => "open-pbr";

    private const double NitsOfWhite = 1000,
        NanometresOfMicrometre = 1000;

    private static readonly Layers.Coat Coating = new("coat_weight", "coat_roughness", "coat_ior", "coat_color");

    private static readonly Layers.Sheen Fibres = new("fuzz_weight", "fuzz_color", "fuzz_roughness");

    public Look Read(Source from, Sums sums)
    {
        var look = new Look();
        look[BaseColour] = sums.Multiply(from["base_color"], from["base_weight"]);
        (look[DiffuseRoughness], look[Metalness]) = (from["base_diffuse_roughness"], from["base_metalness"]);
        (look[IndexOfRefraction], look[Specular], look[SpecularColour]) = (
            from["specular_ior"],
            from["specular_weight"],
            from["specular_color"]
        );
        look[Roughness] = from["specular_roughness"];
        // The weight lessens what metals mirror, too (“Metal”).
        if (look.Peek(Metalness, 0) is var metal && !metal.Is(0) && !from["specular_weight"].Is(1))
            look[BaseColour] = sums.Multiply(look.Peek(BaseColour), sums.Mix(Carried.Of(1), sums.Min(from["specular_weight"], 1), metal));
        if (from["specular_roughness_anisotropy"] is var anisotropy && !anisotropy.Is(0))
        {
            look[Anisotropy] = anisotropy;
            look[Roughness] = sums.Multiply(from["specular_roughness"], Wider(sums, anisotropy));
        }

        Layers.Read(look, from, Coating);
        Layers.Read(look, from, sums, Fibres);
        if (!from["transmission_weight"].Is(0))
            Glass.Read(
                look,
                from["transmission_weight"],
                from["transmission_color"],
                from["transmission_depth"],
                from["transmission_scatter"],
                from["transmission_dispersion_scale"]
            );
        if (!from["subsurface_weight"].Is(0))
        {
            (look[Subsurface], look[SubsurfaceColour]) = (from["subsurface_weight"], from["subsurface_color"]);
            look[SubsurfaceRadius] = sums.Multiply(sums.Wide(from["subsurface_radius_scale"]), from["subsurface_radius"]);
        }

        if (!from["coat_weight"].Is(0))
            CoatedOver.Read(look, sums, from["coat_darkening"]);
        if (from.IsSaid("geometry_thin_walled"))
        {
            look[ThinWalled] = from["geometry_thin_walled", 0];
            if (look.Peek(ThinWalled, 0).Is(1))
                Walls.Read(look, sums, 0.5);
        }
        if (!from["thin_film_weight"].Is(0))
        {
            (look[Iridescence], look[IridescenceIndexOfRefraction]) = (from["thin_film_weight"], from["thin_film_ior"]);
            look[IridescenceThickness] = sums.Multiply(from["thin_film_thickness"], Carried.Of(NanometresOfMicrometre));
        }

        if (!from["emission_luminance"].Is(0))
            look[Emission] = sums.Multiply(from["emission_color"], sums.Divide(from["emission_luminance"], Carried.Of(NitsOfWhite)));
        if (from["geometry_opacity"] is var opacity && !opacity.Is(1))
            look[Opacity] = opacity;
        return look;
    }

    /// <summary>
    /// How much the mean of both widths is smaller than the roughness says (“Microfacet model”): ⁴√(2 (1 − a)/(1 + (1 − a)²)).
    /// </summary>
    private static Carried Wider(Sums sums, Carried anisotropy)
    {
        var narrow = sums.Invert(anisotropy);
        return sums.Power(sums.Divide(sums.Multiply(narrow, Carried.Of(2)), sums.Add(sums.Multiply(narrow, narrow), Carried.Of(1))), 0.25);
    }

    public void Write(Look look, Target to, Sums sums)
    {
        look = Walls.Below(Tinted.Of(look, sums), sums, 0.5);
        if (look.Find(Coat) is not null)
            look = CoatedOver.Below(look, sums);
        to.Set("base_color", look.Take(BaseColour, 0.8, 0.8, 0.8));
        to.Set("base_diffuse_roughness", look.Take(DiffuseRoughness, 0));
        var (metal, weight, index) = (look.Take(Metalness, 0), look.Take(Specular, 1), look.Take(IndexOfRefraction, 1.5));
        if (!metal.Is(0) && !weight.Is(1))
            (weight, index) = (
                Carried.Of(1),
                Formulas
                    .Ior(sums, sums.Multiply(Formulas.F0(sums, index), weight))
                    .Same("the index, since a weight would lessen metals, too")
            );
        to.Set("base_metalness", metal);
        to.Set("specular_weight", weight);
        to.Set("specular_color", look.Take(SpecularColour, 1, 1, 1));
        to.Set("specular_ior", index);
        var roughness = look.Take(Roughness, 0.3);
        if (look.Find(Anisotropy) is { } anisotropy)
        {
            to.Set("specular_roughness_anisotropy", anisotropy);
            roughness = sums.Divide(roughness, sums.Max(Wider(sums, anisotropy), 0.05));
        }

        to.Set("specular_roughness", roughness);
        Layers.Write(look, to, Coating);
        // No other model makes darker what lies below a coat.
        if (look.Find(Coat) is not null)
            to.Set("coat_darkening", Carried.Of(0));
        Layers.Write(look, to, Fibres);
        Glass.Write(
            look,
            to,
            "transmission_weight",
            "transmission_color",
            "transmission_depth",
            "transmission_scatter",
            "transmission_dispersion_scale",
            "geometry_thin_walled"
        );
        if (look.Find(Subsurface) is { } below)
        {
            to.Set("subsurface_weight", below);
            to.Set("subsurface_color", look.Take(SubsurfaceColour, 1, 1, 1));
            to.Set("subsurface_radius", Carried.Of(1));
            to.Set("subsurface_radius_scale", look.Take(SubsurfaceRadius, 1, 1, 1));
        }

        if (look.Find(Iridescence) is { } film)
        {
            to.Set("thin_film_weight", film);
            to.Set("thin_film_ior", look.Take(IridescenceIndexOfRefraction, 1.4));
            to.Set("thin_film_thickness", sums.Divide(look.Take(IridescenceThickness, 400), Carried.Of(NanometresOfMicrometre)));
        }

        if (look.Find(Emission) is { } light && !light.Is(0))
        {
            to.Set("emission_luminance", Carried.Of(NitsOfWhite));
            to.Set("emission_color", light);
        }

        to.Set("geometry_opacity", Cut.Out(look, sums));
    }
}
