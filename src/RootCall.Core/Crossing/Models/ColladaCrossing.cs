using RootCall.Core.Shading;
using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>COLLADA's common profile: constant, lambert, phong, blinn.</summary>
internal sealed class ColladaCrossing : ICrossedModel
{
    public string Id => "collada-common";

    public Look Read(Source from, Sums sums)
    {
        var lighting = from.Word("lighting")?.ToLowerInvariant();
        var colour = lighting == "constant" ? Carried.Of(0, 0, 0) : from["diffuse", 0, 0, 0];
        var exponent = from["shininess", 0];
        if (lighting is not "blinn")
            exponent = sums.Multiply(exponent, Carried.Of(4)).Near(Highlights.Mirror);
        var highlight = lighting is "lambert" or "constant" ? Carried.Of(0, 0, 0) : from["specular", 0, 0, 0];
        var look = Highlights.Read(sums, colour, highlight, exponent);
        look[Emission] = from["emission", 0, 0, 0];
        if (!from.IsSaid("transparent"))
            return look;
        // “Determining Transparency (Opacity)”.
        var amount = from["transparency", 1];
        var shown = from.Word("opaque") is "RGB_ZERO" or "A_ZERO"
            ? sums.Invert(sums.Multiply(sums.Sum(from["transparent", 0, 0, 0], 0.212671, 0.715160, 0.072169), amount))
            : amount;
        if (!shown.Is(1))
            look[Opacity] = shown;
        return look;
    }

    public void Write(Look look, Target to, Sums sums)
    {
        var (diffuse, mirrored) = Highlights.Of(look, sums);
        to.Say("lighting", InputType.Text, mirrored.Is(0) ? "lambert" : "blinn");
        to.Set("diffuse", diffuse);
        if (!mirrored.Is(0))
        {
            var (exponent, colour) = Formulas.ToHighlight(sums, look.Take(Roughness, 1), mirrored);
            to.Set("specular", colour);
            to.Set("shininess", exponent);
        }

        to.Set("emission", look.Take(Emission, 0, 0, 0));
        var opacity = Highlights.Opacity(look, sums);
        if (opacity.Is(1))
            return;
        to.Set("transparent", Carried.Of(1, 1, 1));
        to.Set("transparency", opacity);
    }
}
