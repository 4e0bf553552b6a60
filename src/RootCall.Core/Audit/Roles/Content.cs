using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Roles;

/// <summary>What kind of numbers a role's pixels are.</summary>
public enum Content
{
    /// <summary>Anything may stand there.</summary>
    Any,

    /// <summary>Colours as a person sees them.</summary>
    Colour,

    /// <summary>Directions in tangent space.</summary>
    Vector,

    /// <summary>One number that no picture stands in for: roughness, metalness.</summary>
    Number,

    /// <summary>One number that is 0 or 1 nearly everywhere.</summary>
    Metalness,

    /// <summary>One number, for which a picture's brightness often serves: relief, opacity, highlights (common practice).</summary>
    LooseNumber,

    /// <summary>Numbers of several roles.</summary>
    Packed,

    /// <summary>Light from all around.</summary>
    Light,
}

public static class Contents
{
    public static Content Of(Role? role) =>
        role switch
        {
            Role.BaseColour
            or Role.Emission
            or Role.SheenColour
            or Role.SubsurfaceColour
            or Role.CoatColour
            or Role.TransmissionColour
            or Role.DiffuseTransmissionColour => Content.Colour,
            Role.Normal or Role.CoatNormal => Content.Vector,
            Role.Roughness or Role.DiffuseRoughness or Role.CoatRoughness or Role.SheenRoughness or Role.Glossiness or Role.Occlusion =>
                Content.Number,
            Role.Metalness => Content.Metalness,
            Role.Packed or Role.MetallicRoughness => Content.Packed,
            Role.Environment or Role.Reflection => Content.Light,
            null or Role.Specular or Role.SpecularColour or Role.Ambient => Content.Any,
            _ => Content.LooseNumber,
        };

    /// <summary>What an image's values say for a content, in bits; 0 when they say nothing or are not known.</summary>
    /// <param name="oneOfSeveral">One channel of it is read: then each may hold something else.</param>
    public static int Weigh(PixelStats? pixels, Content content, bool oneOfSeveral = false)
    {
        if (pixels is null || content == Content.Any || pixels.IsFlat)
            return 0;
        if (pixels.LooksLikeNormals || pixels.LooksLikeTwoChannelNormals)
            return content == Content.Vector ? RoleWeights.PixelsDecide : -RoleWeights.PixelsDecide;
        if (content == Content.Vector)
            return pixels.IsGrey || pixels is { Channels.Length: >= 3, UnitLength: < 0.3 } ? -RoleWeights.PixelsDecide : 0;
        if (pixels.IsGrey)
            return content switch
            {
                Content.Metalness => RoleWeights.PixelsGrey + (IsHalfway(pixels) ? RoleWeights.PixelsHalfway : 0),
                Content.Number or Content.LooseNumber => RoleWeights.PixelsGrey,
                Content.Packed => -RoleWeights.PixelsDecide,
                _ => 0,
            };
        // Of one channel that varies alone, the others say nothing.
        var apart = pixels.Alike is null or < 0.5;
        if (content == Content.Packed)
            return apart ? RoleWeights.PixelsApart
                : pixels is { Colourful: > 0.25, Alike: > 0.9 } ? -RoleWeights.PixelsDecide
                : 0;
        if (pixels.Colourful is not > 0.25)
            return 0;
        return content switch
        {
            Content.Colour => RoleWeights.PixelsColourful,
            Content.Number or Content.Metalness when !(oneOfSeveral && apart) => -RoleWeights.PixelsDecide,
            _ => 0,
        };
    }

    /// <summary>Four fifths of the first channel lie between a tenth and nine tenths.</summary>
    private static bool IsHalfway(PixelStats pixels)
    {
        var bins = pixels.Channels[0].Histogram;
        int end = bins.Length / 10,
            between = bins.Skip(end).SkipLast(end).Sum();
        return between > bins.Sum() * 0.8;
    }
}
