using RootCall.Core.Shading;
using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>glTF's metallic-roughness model with its ratified extensions.</summary>
internal sealed class GltfCrossing : ICrossedModel
{
    public string Id => "gltf-metallic-roughness";

    private const string Lossless = "F0 as specular colour under an index of 1,000 (KHR_materials_ior, KHR_materials_specular)";

    public Look Read(Source from, Sums sums)
    {
        var look = new Look { IsUnlit = from.Word("unlit") == "true" };
        var colour = from["baseColor"];
        (look[BaseColour], look[Metalness]) = (colour, from["metallic"]);
        (look[IndexOfRefraction], look[Specular], look[SpecularColour]) = (from["ior"], from["specular"], from["specularColor"]);
        GltfAlphas.Read(from, look);
        look[Emission] = sums.Multiply(from["emissive"], from["emissiveStrength"]);
        Facets(from, look, sums);
        if (!from["clearcoat"].Is(0))
        {
            (look[Coat], look[CoatRoughness]) = (from["clearcoat"], from["clearcoatRoughness"]);
            look[CoatIndexOfRefraction] = Carried.Of(1.5);
        }

        if (!from["sheenColor"].Is(0))
            // Alpha is the square of the roughness here, and the roughness itself in the other models.
            (look[SheenColour], look[SheenRoughness]) = (from["sheenColor"], sums.Power(from["sheenRoughness"], 2));
        if (!from["transmission"].Is(0))
        {
            var isSolid = from.IsSaid("thickness") && !from["thickness"].Is(0);
            look[Transmission] = from["transmission"];
            look[ThinWalled] = Carried.Of(isSolid ? 0 : 1);
            (look[TransmissionColour], look[TransmissionDepth]) = isSolid
                ? (from["attenuationColor"], from["attenuationDistance", 0])
                : (colour, Carried.Of(0));
            if (isSolid)
                look[TransmissionTint] = colour;
        }

        if (!from["iridescence"].Is(0))
        {
            (look[Iridescence], look[IridescenceIndexOfRefraction]) = (from["iridescence"], from["iridescenceIor"]);
            look[IridescenceThickness] = from["iridescenceThicknessMaximum"];
        }

        if (!from["diffuseTransmission"].Is(0))
            (look[DiffuseTransmission], look[DiffuseTransmissionColour]) = (from["diffuseTransmission"], from["diffuseTransmissionColor"]);
        return look;
    }

    /// <summary>KHR_materials_anisotropy: the roughness along the direction grows towards 1.</summary>
    private static void Facets(Source from, Look look, Sums sums)
    {
        var roughness = from["roughness"];
        var strength = from["anisotropyStrength"];
        look[Roughness] = roughness;
        if (strength.Is(0))
            return;
        var across = sums.Power(roughness, 2);
        var along = sums.Mix(across, Carried.Of(1), sums.Power(strength, 2));
        look[Roughness] = sums.Power(sums.Multiply(across, along), 0.25);
        look[Anisotropy] = sums.Invert(sums.Divide(across, along));
        look[AnisotropyRotation] = sums.Divide(from["anisotropyRotation"], Carried.Of(2 * Math.PI));
    }

    public void Write(Look look, Target to, Sums sums)
    {
        if (look.IsUnlit)
            to.Say("unlit", InputType.Boolean, "true");
        var colour = look.Take(BaseColour, 1, 1, 1);
        if (look.Mirrored is { } mirrored)
        {
            to.Set("ior", Carried.Of(1000));
            to.Set("specularColor", mirrored.Same(Lossless));
            to.Set("metallic", Carried.Of(0));
        }
        else
        {
            to.Set("ior", look.Take(IndexOfRefraction, 1.5));
            to.Set("specular", look.Take(Specular, 1));
            to.Set("specularColor", look.Take(SpecularColour, 1, 1, 1));
            to.Set("metallic", look.Take(Metalness, 0));
        }

        GltfAlphas.Write(look, to);
        Shine(look, to, sums);
        Facets(look, to, sums);
        if (look.Find(Coat) is { } coat)
        {
            to.Set("clearcoat", coat);
            to.Set("clearcoatRoughness", look.Take(CoatRoughness, 0));
            if (look.Take(CoatIndexOfRefraction, 1.5) is { } index && !index.Is(1.5))
                to.Lose(index.From, "the coat's index is always 1.5");
        }

        if (look.Find(SheenColour) is { } sheen)
        {
            to.Set("sheenColor", sheen);
            to.Set("sheenRoughness", sums.Root(look.Take(SheenRoughness, 0)));
        }

        if (look.Find(Transmission) is { } glass)
        {
            to.Set("transmission", glass);
            colour = Through(look, to, sums, colour, glass);
        }

        if (look.Find(Iridescence) is { } film)
        {
            to.Set("iridescence", film);
            to.Set("iridescenceIor", look.Take(IridescenceIndexOfRefraction, 1.3));
            to.Set("iridescenceThicknessMaximum", look.Take(IridescenceThickness, 400));
        }

        if (look.Find(DiffuseTransmission) is { } behind)
        {
            to.Set("diffuseTransmission", behind);
            to.Set("diffuseTransmissionColor", look.Take(DiffuseTransmissionColour, 1, 1, 1));
        }

        if (look.Find(Subsurface) is { } below)
            colour = sums.Mix(colour, look.Take(SubsurfaceColour, 1, 1, 1), below).Near("light below the surface as matte");
        to.Set("baseColor", colour);
    }

    private static void Shine(Look look, Target to, Sums sums)
    {
        var light = look.Take(Emission, 0, 0, 0);
        // A colour is 1 at most; what is brighter is a strength (KHR_materials_emissive_strength).
        if (light.IsNumber && light.Numbers.Max() is > 1 and var most)
        {
            to.Set("emissive", sums.Divide(light, Carried.Of(most)));
            to.Set("emissiveStrength", light with { Numbers = [most], Type = InputType.Float });
        }
        else
            to.Set("emissive", light);
    }

    private static void Facets(Look look, Target to, Sums sums)
    {
        var roughness = look.Take(Roughness, 1);
        if (look.Find(Anisotropy) is { } anisotropy)
        {
            var ratio = sums.Max(sums.Invert(anisotropy), 0.02);
            var mean = sums.Power(roughness, 2);
            var across = sums.Multiply(mean, sums.Root(ratio));
            var along = sums.Divide(mean, sums.Root(ratio));
            to.Set("roughness", sums.Root(across));
            to.Set("anisotropyStrength", sums.Root(sums.Clamp(sums.Divide(sums.Subtract(along, across), sums.Invert(across)), 0, 1)));
            to.Set("anisotropyRotation", sums.Multiply(look.Take(AnisotropyRotation, 0), Carried.Of(2 * Math.PI)));
        }
        else
            to.Set("roughness", roughness);
    }

    /// <summary>Thin glass is tinted by the base colour, and so is what gets into a solid.</summary>
    private static Carried Through(Look look, Target to, Sums sums, Carried colour, Carried glass)
    {
        var hue = look.Take(TransmissionColour, 1, 1, 1);
        var depth = look.Take(TransmissionDepth, 0);
        var isWall = look.Take(ThinWalled, 0).Is(1);
        if (!isWall)
        {
            to.Set("thickness", Carried.Of(1).Same("a solid: a thickness above 0 bends light (KHR_materials_volume)"));
            if (!depth.Is(0))
            {
                to.Set("attenuationColor", hue);
                to.Set("attenuationDistance", depth);
                hue = look.Take(TransmissionTint, 1, 1, 1);
            }
        }

        if (glass.Is(1))
            return hue;
        return sums.Mix(colour, hue, glass).Near("one colour for what is matte and what comes through, by their shares");
    }
}
