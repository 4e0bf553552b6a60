using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>glTF's specular-glossiness model (archived).</summary>
internal sealed class GltfSpecularCrossing : ICrossedModel
{
    public string Id => "gltf-specular-glossiness";

    private const string Inverse = "roughness = 1 − glossiness";

    public Look Read(Source from, Sums sums)
    {
        var look = new Look { Mirrored = from["specular"], IsUnlit = from.Word("unlit") == "true" };
        look[BaseColour] = from["diffuse"];
        look[Roughness] = sums.Invert(from["glossiness"]).Same(Inverse);
        look[Emission] = from["emissive"];
        GltfAlphas.Read(from, look, GltfNames.SpecularGlossiness);
        return look;
    }

    public void Write(Look look, Target to, Sums sums)
    {
        if (look.IsUnlit)
            to.Say("unlit", Shading.InputType.Boolean, "true");
        var (diffuse, specular) = Formulas.Split(look, sums);
        to.Set("diffuse", diffuse);
        to.Set("specular", specular);
        to.Set("glossiness", sums.Invert(look.Take(Roughness, 1)).Same(Inverse));
        to.Set("emissive", look.Take(Emission, 0, 0, 0));
        if (look.Find(Transmission) is not null)
            look = look.With(look.Mirrored, (Opacity, Highlights.Opacity(look, sums)));
        GltfAlphas.Write(look, to, GltfNames.SpecularGlossiness);
    }
}
