using System.Numerics;
using RootCall.Core.Rendering.Sampling;

namespace RootCall.Core.Rendering.Paths;

/// <summary>What the numbers of a path are for, at each bounce.</summary>
internal enum PathUse : uint
{
    Pixel,
    Lobe,
    Light,
    Presence,
    Chance,
    Lamp,
    Count,
}

/// <summary>Numbers that a path is followed by: the same for one pixel and sample, whoever asks.</summary>
internal static class PathNumbers
{
    public static Vector2 Of(uint sample, uint seed, PathUse use, int bounce) =>
        Sobol.Point(sample, Sobol.Hash(seed, (uint)use + ((uint)bounce * (uint)PathUse.Count)));

    public static uint SeedOf(int pixel) => Sobol.Hash((uint)pixel, 0);
}
