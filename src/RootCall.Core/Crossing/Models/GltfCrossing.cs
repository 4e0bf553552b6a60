using RootCall.Core.Shading;
using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>glTF's metallic-roughness model with its ratified extensions, and MaterialX's surface of the same inputs.</summary>
internal sealed class GltfCrossing(GltfNames names) : ICrossedModel
{
    public string Id => names.Model;

    private const string Lossless = "F0 as specular colour under an index of 1,000 (KHR_materials_ior, KHR_materials_specular)";

    public Look Read(Source from, Sums sums)
    {
        var look = new Look { IsUnlit = names.HasMore && from.Word("unlit") == "true" };
        var colour = from[names["baseColor"]];
        (look[BaseColour], look[Metalness]) = (colour, from[names["metallic"]]);
        (look[IndexOfRefraction], look[Specular], look[SpecularColour]) = (
            from[names["ior"]],
            from[names["specular"]],
            from[names["specularColor"]]
        );
        GltfAlphas.Read(from, look, names);
        look[Emission] = sums.Multiply(from[names["emissive"]], from[names["emissiveStrength"]]);
        Facets(from, look, sums);
        if (!from[names["clearcoat"]].Is(0))
        {
            (look[Coat], look[CoatRoughness]) = (from[names["clearcoat"]], from[names["clearcoatRoughness"]]);
            look[CoatIndexOfRefraction] = Carried.Of(1.5);
        }

        if (!from[names["sheenColor"]].Is(0))
            // Alpha is the square of the roughness here, and the roughness itself in the other models.
            (look[SheenColour], look[SheenRoughness]) = (from[names["sheenColor"]], sums.Power(from[names["sheenRoughness"]], 2));
        if (!from[names["transmission"]].Is(0))
        {
            var isSolid = from.IsSaid(names["thickness"]) && !from[names["thickness"]].Is(0);
            look[Transmission] = from[names["transmission"]];
            look[ThinWalled] = Carried.Of(isSolid ? 0 : 1);
            (look[TransmissionColour], look[TransmissionDepth]) = isSolid
                ? (from[names["attenuationColor"]], from[names["attenuationDistance"], 0])
                : (colour, Carried.Of(0));
            if (isSolid)
                look[TransmissionTint] = colour;
        }

        if (!from[names["iridescence"]].Is(0))
        {
            (look[Iridescence], look[IridescenceIndexOfRefraction]) = (from[names["iridescence"]], from[names["iridescenceIor"]]);
            look[IridescenceThickness] = from[names["iridescenceThicknessMaximum"]];
        }

        if (names.HasMore && !from[names["diffuseTransmission"]].Is(0))
            (look[DiffuseTransmission], look[DiffuseTransmissionColour]) = (
                from[names["diffuseTransmission"]],
                from[names["diffuseTransmissionColor"]]
            );
        return look;
    }

    /// <summary>KHR_materials_anisotropy: the roughness along the direction grows towards 1.</summary>
    private void Facets(Source from, Look look, Sums sums)
    {
        var roughness = from[names["roughness"]];
        var strength = from[names["anisotropyStrength"]];
        look[Roughness] = roughness;
        if (strength.Is(0))
            return;
        var across = sums.Power(roughness, 2);
        var along = sums.Mix(across, Carried.Of(1), sums.Power(strength, 2));
        look[Roughness] = sums.Power(sums.Multiply(across, along), 0.25);
        look[Anisotropy] = sums.Invert(sums.Divide(across, along));
        look[AnisotropyRotation] = sums.Divide(from[names["anisotropyRotation"]], Carried.Of(2 * Math.PI));
    }

    public void Write(Look look, Target to, Sums sums)
    {
        if (look.IsUnlit)
            to.Say("unlit", InputType.Boolean, "true");
        var colour = look.Take(BaseColour, 1, 1, 1);
        if (look.Mirrored is { } mirrored)
        {
            to.Set(names["ior"], Carried.Of(1000));
            to.Set(names["specularColor"], mirrored.Same(Lossless));
            to.Set(names["metallic"], Carried.Of(0));
        }
        else
        {
            to.Set(names["ior"], look.Take(IndexOfRefraction, 1.5));
            to.Set(names["specular"], look.Take(Specular, 1));
            to.Set(names["specularColor"], look.Take(SpecularColour, 1, 1, 1));
            to.Set(names["metallic"], look.Take(Metalness, 0));
        }

        GltfAlphas.Write(look, to, names);
        Shine(look, to, sums);
        Facets(look, to, sums);
        if (look.Find(Coat) is { } coat)
        {
            to.Set(names["clearcoat"], coat);
            to.Set(names["clearcoatRoughness"], look.Take(CoatRoughness, 0));
            if (look.Take(CoatIndexOfRefraction, 1.5) is { } index && !index.Is(1.5))
                to.Lose(index.From, "the coat's index is always 1.5");
        }

        if (look.Find(SheenColour) is { } sheen)
        {
            to.Set(names["sheenColor"], sheen);
            to.Set(names["sheenRoughness"], sums.Root(look.Take(SheenRoughness, 0)));
        }

        if (look.Find(Transmission) is { } glass)
        {
            to.Set(names["transmission"], glass);
            colour = Through(look, to, sums, colour, glass);
        }

        if (look.Find(Iridescence) is { } film)
        {
            to.Set(names["iridescence"], film);
            to.Set(names["iridescenceIor"], look.Take(IridescenceIndexOfRefraction, 1.3));
            to.Set(names["iridescenceThicknessMaximum"], look.Take(IridescenceThickness, 400));
        }

        if (names.HasMore && look.Find(DiffuseTransmission) is { } behind)
        {
            to.Set(names["diffuseTransmission"], behind);
            to.Set(names["diffuseTransmissionColor"], look.Take(DiffuseTransmissionColour, 1, 1, 1));
        }

        colour = Flesh.In(colour, look, sums);
        to.Set(names["baseColor"], colour);
    }

    private void Shine(Look look, Target to, Sums sums)
    {
        var light = look.Take(Emission, 0, 0, 0);
        // A colour is 1 at most; what is brighter is a strength (KHR_materials_emissive_strength).
        if (light.IsNumber && light.Numbers.Max() is > 1 and var most)
        {
            to.Set(names["emissive"], sums.Divide(light, Carried.Of(most)));
            to.Set(names["emissiveStrength"], light with { Numbers = [most], Type = InputType.Float });
        }
        else
            to.Set(names["emissive"], light);
    }

    private void Facets(Look look, Target to, Sums sums)
    {
        var roughness = look.Take(Roughness, 1);
        if (look.Find(Anisotropy) is { } anisotropy)
        {
            var ratio = sums.Max(sums.Invert(anisotropy), 0.02);
            var mean = sums.Power(roughness, 2);
            var across = sums.Multiply(mean, sums.Root(ratio));
            var along = sums.Divide(mean, sums.Root(ratio));
            to.Set(names["roughness"], sums.Root(across));
            to.Set(
                names["anisotropyStrength"],
                sums.Root(sums.Clamp(sums.Divide(sums.Subtract(along, across), sums.Invert(across)), 0, 1))
            );
            to.Set(names["anisotropyRotation"], sums.Multiply(look.Take(AnisotropyRotation, 0), Carried.Of(2 * Math.PI)));
        }
        else
            to.Set(names["roughness"], roughness);
    }

    /// <summary>Thin glass is tinted by the base colour, and so is what gets into a solid.</summary>
    private Carried Through(Look look, Target to, Sums sums, Carried colour, Carried glass)
    {
        var hue = look.Take(TransmissionColour, 1, 1, 1);
        var depth = look.Take(TransmissionDepth, 0);
        var isWall = look.Take(ThinWalled, 0).Is(1);
        if (!isWall)
        {
            to.Set(names["thickness"], Carried.Of(1).Same("a solid: a thickness above 0 bends light (KHR_materials_volume)"));
            if (!depth.Is(0))
            {
                to.Set(names["attenuationColor"], hue);
                to.Set(names["attenuationDistance"], depth);
                hue = look.Take(TransmissionTint, 1, 1, 1);
            }
        }

        if (glass.Is(1))
            return hue;
        return sums.Mix(colour, hue, glass).Near("one colour for what is matte and what comes through, by their shares");
    }
}
