using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>Standard Surface 1.0.1.</summary>
internal sealed class StandardCrossing : ICrossedModel
{
    public string Id => "standard-surface";

    private static readonly Layers.Coat Coating = new("coat", "coat_roughness", "coat_IOR", "coat_color");

    private static readonly Layers.Sheen Fibres = new("sheen", "sheen_color", "sheen_roughness");

    public Look Read(Source from, Sums sums)
    {
        var look = new Look();
        look[BaseColour] = sums.Multiply(from["base_color"], from["base"]);
        (look[DiffuseRoughness], look[Metalness], look[Roughness]) = (
            from["diffuse_roughness"],
            from["metalness"],
            from["specular_roughness"]
        );
        (look[IndexOfRefraction], look[Specular], look[SpecularColour]) = (from["specular_IOR"], from["specular"], from["specular_color"]);
        if (!from["specular_anisotropy"].Is(0))
            (look[Anisotropy], look[AnisotropyRotation]) = (from["specular_anisotropy"], from["specular_rotation"]);
        Layers.Read(look, from, Coating);
        Layers.Read(look, from, sums, Fibres);
        if (!from["transmission"].Is(0))
            Glass.Read(
                look,
                from["transmission"],
                from["transmission_color"],
                from["transmission_depth"],
                from["transmission_scatter"],
                from["transmission_dispersion"]
            );
        if (!from["subsurface"].Is(0))
        {
            (look[Subsurface], look[SubsurfaceColour]) = (from["subsurface"], from["subsurface_color"]);
            look[SubsurfaceRadius] = sums.Multiply(from["subsurface_radius"], from["subsurface_scale"]);
        }

        if (from.IsSaid("thin_walled"))
        {
            look[ThinWalled] = from["thin_walled", 0];
            if (look.Peek(ThinWalled, 0).Is(1))
                Walls.Read(look, sums, 1);
        }
        if (!from["thin_film_thickness"].Is(0))
            (look[Iridescence], look[IridescenceThickness], look[IridescenceIndexOfRefraction]) = (
                Carried.Of(1),
                from["thin_film_thickness"],
                from["thin_film_IOR"]
            );
        if (!from["emission"].Is(0))
            look[Emission] = sums.Multiply(from["emission_color"], from["emission"]);
        // opacity_luminance of the graph: the weights of MaterialX's luminance (ACEScg).
        if (from["opacity"] is var opacity && !opacity.Is(1))
            look[Opacity] = sums.Sum(opacity, 0.2722287, 0.6740818, 0.0536895);
        return look;
    }

    public void Write(Look look, Target to, Sums sums)
    {
        look = Walls.Below(Tinted.Of(look, sums), sums, 1);
        to.Set("base", Carried.Of(1));
        to.Set("base_color", look.Take(BaseColour, 0.8, 0.8, 0.8));
        to.Set("diffuse_roughness", look.Take(DiffuseRoughness, 0));
        to.Set("metalness", look.Take(Metalness, 0));
        to.Set("specular", look.Take(Specular, 1));
        to.Set("specular_color", look.Take(SpecularColour, 1, 1, 1));
        to.Set("specular_IOR", look.Take(IndexOfRefraction, 1.5));
        to.Set("specular_roughness", look.Take(Roughness, 0.2));
        to.Set("specular_anisotropy", look.Take(Anisotropy, 0));
        to.Set("specular_rotation", look.Take(AnisotropyRotation, 0));
        Layers.Write(look, to, Coating);
        Layers.Write(look, to, Fibres);
        Glass.Write(
            look,
            to,
            "transmission",
            "transmission_color",
            "transmission_depth",
            "transmission_scatter",
            "transmission_dispersion",
            "thin_walled"
        );
        if (look.Find(Subsurface) is { } below)
        {
            to.Set("subsurface", below);
            to.Set("subsurface_color", look.Take(SubsurfaceColour, 1, 1, 1));
            to.Set("subsurface_radius", look.Take(SubsurfaceRadius, 1, 1, 1));
        }

        if (look.Find(Iridescence) is { } film)
        {
            to.Set(
                "thin_film_thickness",
                film.Is(1)
                    ? look.Take(IridescenceThickness, 400)
                    : sums.Multiply(look.Take(IridescenceThickness, 400), film).Near("a film has no weight here: it is as much thinner")
            );
            to.Set("thin_film_IOR", look.Take(IridescenceIndexOfRefraction, 1.5));
        }

        if (look.Find(Emission) is { } light && !light.Is(0))
        {
            to.Set("emission", Carried.Of(1));
            to.Set("emission_color", light);
        }

        to.Set("opacity", Cut.Out(look, sums));
    }
}
