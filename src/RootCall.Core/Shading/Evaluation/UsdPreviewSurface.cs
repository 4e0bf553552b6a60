using System.Numerics;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Shading.Evaluation;

/// <summary>
/// UsdPreviewSurface 2.6: “Core Nodes”, both workflows and both opacity modes, put together as the node graph of MaterialX's
/// usd_preview_surface.mtlx has it, since the proposal leaves the layering open.
/// </summary>
internal sealed class UsdPreviewSurface(Slots slots) : IShadingModel
{
    private readonly Slot diffuseColour = slots["diffuseColor"],
        emissiveColour = slots["emissiveColor"],
        useSpecular = slots["useSpecularWorkflow"],
        specularColour = slots["specularColor"],
        metallic = slots["metallic"],
        roughness = slots["roughness"],
        clearcoat = slots["clearcoat"],
        clearcoatRoughness = slots["clearcoatRoughness"],
        opacity = slots["opacity"],
        opacityMode = slots["opacityMode"],
        opacityThreshold = slots["opacityThreshold"],
        ior = slots["ior"];

    /// <summary>The word of version 2.6; older files write none.</summary>
    private readonly bool isPresence = slots.Word("opacityMode") == "presence";

    public Surface At(in Inputs inputs, Seen seen)
    {
        var build = new Surface.Builder(seen.View);
        var colour = inputs.Reflectance(diffuseColour);
        var isSpecular = inputs.Is(useSpecular);
        var metal = isSpecular ? 0 : inputs.Share(metallic);
        var index = inputs.Number(ior) is > 0 and var n ? n : 1.5f;
        var facets = Parts.Facets(inputs.Share(roughness));
        var share = inputs.Share(opacity);
        // Above 0 the threshold cuts out; at 0 opacity is how much does not come through.
        var isCutOut = inputs.Number(opacityThreshold) is > 0 and var cut;
        var thins = isPresence || inputs.Is(opacityMode);
        var there =
            isCutOut ? (share >= inputs.Number(opacityThreshold) ? 1 : 0)
            : thins ? share
            : 1;
        var through = isCutOut || thins ? 0 : 1 - share;

        var left = Vector3.One;
        var coated = Reflectance.Schlick(new(Parts.F0(index)), Vector3.One);
        left = build.Cover(
            left,
            new(inputs.Share(clearcoat)),
            FacetLobe.Kept(Parts.Facets(inputs.Share(clearcoatRoughness)), coated, seen.View)
        );
        // Metalness 1 mirrors the colour itself, 0 a grey by the index.
        var edge = Vector3.Lerp(Vector3.One, colour, metal);
        var mirror = isSpecular
            ? Reflectance.Schlick(inputs.Reflectance(specularColour), Vector3.One)
            : Reflectance.Schlick(Vector3.Lerp(edge * Parts.F0(index), edge, metal), edge);
        build.Add(left * metal, FacetLobe.Kept(facets, Reflectance.Artistic(colour, colour), seen.View));
        left = build.Cover(left * (1 - metal), Vector3.One, FacetLobe.Kept(facets, mirror, seen.View));
        build.Add(left * colour * (1 - metal) * (1 - through), LambertLobe.White);
        // What comes through is not bent: a sheet, as the proposal's “transparent” is used.
        build.Add(
            left * through,
            new ThroughLobe(new FacetLobe(new(Ggx.Least), Reflectance.Schlick(Vector3.One, Vector3.One), false, Vector3.One))
        );
        return build.Build(inputs.Colour(emissiveColour), there);
    }
}
