using System.Numerics;

namespace RootCall.Core.Rendering.Textures;

/// <summary>From one set of primaries to another.</summary>
internal static class Colours
{
    /// <summary>
    /// AP1 to Rec. 709, both linear, with the white of D60 adapted to D65 (ACES, TB-2014-004 and S-2014-004: the product of its matrices
    /// with Bradford's adaptation).
    /// </summary>
    public static Vector4 FromAcesCg(Vector4 v) =>
        new(
            (1.70505f * v.X) - (0.62179f * v.Y) - (0.08326f * v.Z),
            (-0.13026f * v.X) + (1.14080f * v.Y) - (0.01055f * v.Z),
            (-0.02400f * v.X) - (0.12897f * v.Y) + (1.15297f * v.Z),
            v.W
        );
}
