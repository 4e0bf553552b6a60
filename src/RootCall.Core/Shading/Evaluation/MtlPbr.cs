using System.Numerics;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>
/// MTL with the physically based statements: Kd, Pm and Pr as base colour, metalness and roughness, Ps as sheen, Pc as coat (common
/// practice; no specification gives equations: those of glTF 2.0, B.3 and its extensions are used).
/// </summary>
internal sealed class MtlPbr(Slots slots) : IShadingModel
{
    private readonly Slot colour = slots["Kd"],
        emissive = slots["Ke"],
        dissolve = slots["d"],
        transparency = slots["Tr"],
        roughness = slots["Pr"],
        metallic = slots["Pm"],
        sheen = slots["Ps"],
        coat = slots["Pc"],
        coatRoughness = slots["Pcr"],
        anisotropy = slots["aniso"],
        rotation = slots["anisor"],
        roughnessFirst = slots["map_rma"],
        occlusionFirst = slots["map_orm"];

    private readonly bool saysColour = slots.IsSaid("Kd"),
        saysRoughness = slots.IsSaid("Pr"),
        hasRoughnessFirst = slots.IsSaid("map_rma"),
        hasOcclusionFirst = slots.IsSaid("map_orm");

    public Surface At(in Inputs inputs, Seen seen)
    {
        var build = new Surface.Builder(seen.View);
        var rough = saysRoughness ? inputs.Share(roughness) : 1;
        var metal = inputs.Share(metallic);
        if (hasRoughnessFirst)
            (rough, metal) = (inputs.Reflectance(roughnessFirst).X, inputs.Reflectance(roughnessFirst).Y);
        else if (hasOcclusionFirst)
            (rough, metal) = (inputs.Reflectance(occlusionFirst).Y, inputs.Reflectance(occlusionFirst).Z);
        var hue = saysColour ? inputs.Reflectance(colour) : MtlPhong.Unsaid;
        var left = Vector3.One;
        if (inputs.Share(coat) is > 0 and var over)
        {
            var width = Parts.Facets(inputs.Share(coatRoughness));
            build.Add(new(over), new FacetLobe(width, Reflectance.Schlick(new(0.04f), Vector3.One), false, Vector3.One));
            left *= 1 - (over * Fresnel.Schlick(new(0.04f), seen.View.Z).X);
        }

        if (inputs.Share(sheen) is > 0 and var fibres)
            left = build.Cover(left, new(fibres), new SheenLobe(0.25f, true));
        var mirror = Reflectance.Schlick(Vector3.Lerp(new(0.04f), hue, metal), Vector3.One);
        var facets = Parts.Facets(rough, MathF.Abs(inputs.Number(anisotropy)));
        build.Add(left, Parts.Turned(new FacetLobe(facets, mirror, false, Vector3.One), inputs.Number(rotation)));
        build.Add(left * hue * (1 - metal), new UnderFacetsLobe(mirror));
        return build.Build(inputs.Colour(emissive), inputs.Share(dissolve) * (1 - inputs.Share(transparency)));
    }
}
