namespace RootCall.Core.Crossing;

/// <summary>What a look is made of, in terms that all models share. Units as <see cref="Look"/> says.</summary>
internal enum LookPart
{
    BaseColour,
    DiffuseRoughness,
    Metalness,
    Roughness,
    Anisotropy,
    AnisotropyRotation,
    IndexOfRefraction,

    /// <summary>Weighs what is mirrored at normal incidence.</summary>
    Specular,
    SpecularColour,
    Coat,
    CoatColour,
    CoatRoughness,
    CoatIndexOfRefraction,
    CoatNormal,
    SheenColour,

    /// <summary>Alpha of the fibres' distribution.</summary>
    SheenRoughness,
    Transmission,
    TransmissionColour,

    /// <summary>After so long a way white light has the colour; 0 where the surface tints it.</summary>
    TransmissionDepth,

    /// <summary>What gets into a solid is tinted at its surface, besides what its inside swallows.</summary>
    TransmissionTint,
    TransmissionScatter,
    Dispersion,
    ThinWalled,

    /// <summary>What comes through is neither bent nor roughened.</summary>
    StraightThrough,
    DiffuseTransmission,
    DiffuseTransmissionColour,
    Subsurface,
    SubsurfaceColour,
    SubsurfaceRadius,
    Iridescence,
    IridescenceThickness,
    IridescenceIndexOfRefraction,

    /// <summary>Radiance, where 1 is white paper in the studio.</summary>
    Emission,
    Opacity,

    /// <summary>It is cut out below this; without one it is blended.</summary>
    OpacityThreshold,

    /// <summary>A vector in tangent space as maps store it, each part from 0 to 1.</summary>
    NormalMap,
    NormalStrength,

    /// <summary>A vector in the space of the scene.</summary>
    Normal,
    Bump,
    Displacement,
    Occlusion,
}
