using static RootCall.Core.Crossing.LookPart;

namespace RootCall.Core.Crossing.Models;

/// <summary>FBX's lambert and phong; materials are carried from it only, since nothing is written as FBX.</summary>
internal sealed class FbxCrossing : ICrossedModel
{
    public string Id => "fbx-phong";

    /// <summary>What a material shows that writes no colour (common practice).</summary>
    private const double Unsaid = 0.8;

    public Look Read(Source from, Sums sums)
    {
        Carried Weighed(string colour, string factor, double otherwise) =>
            sums.Multiply(from[colour, otherwise, otherwise, otherwise], from[factor, 1]);
        var diffuse = Weighed("DiffuseColor", "DiffuseFactor", Unsaid);
        var specular = Weighed("SpecularColor", "SpecularFactor", 0);
        var sharp = from[from.IsSaid("ShininessExponent") ? "ShininessExponent" : "Shininess", 0];
        from.IsSaid("Shininess");
        var look = Highlights.Read(sums, diffuse, specular, sums.Multiply(sharp, Carried.Of(4)).Near(Highlights.Mirror));
        look[Emission] = Weighed("EmissiveColor", "EmissiveFactor", 0);
        var isSeenThrough = from.IsSaid("TransparencyFactor") & from.IsSaid("TransparentColor");
        var opacity =
            from.IsSaid("Opacity") ? from["Opacity", 1]
            : isSeenThrough ? sums.Invert(sums.Multiply(sums.Largest(from["TransparentColor", 0, 0, 0]), from["TransparencyFactor", 0]))
            : Carried.Of(1);
        if (!opacity.Is(1))
            look[Opacity] = opacity;
        return look;
    }

    public void Write(Look look, Target to, Sums sums) => throw new NotSupportedException("Nothing is written as FBX.");
}
