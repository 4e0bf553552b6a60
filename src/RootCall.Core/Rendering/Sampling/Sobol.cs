using System.Numerics;

namespace RootCall.Core.Rendering.Sampling;

/// <summary>
/// Points of the first two dimensions of Sobol's sequence, of which every power of two from the start is spread evenly over all
/// rectangles of one area (a (0,2)-sequence); shuffled and scrambled anew for each use by a hash, so that uses do not line up
/// (“Practical Hash-based Owen Scrambling”, JCGT 9(4), 2020).
/// </summary>
public static class Sobol
{
    /// <param name="index">Number of the sample, from 0.</param>
    /// <param name="seed">The use: a pixel and what the numbers are for.</param>
    /// <returns>Two numbers from 0 to 1, 1 left out.</returns>
    public static Vector2 Point(uint index, uint seed)
    {
        var i = Scramble(index, seed);
        return new(Unit(Scramble(Reverse(i), Hash(seed, 1))), Unit(Scramble(Second(i), Hash(seed, 2))));
    }

    /// <summary>Mixes a number into another one; every bit depends on every bit.</summary>
    public static uint Hash(uint seed, uint value)
    {
        var x = seed ^ (value * 0x9E3779B9u);
        x = (x ^ (x >> 16)) * 0x7FEB352Du;
        x = (x ^ (x >> 15)) * 0x846CA68Bu;
        return x ^ (x >> 16);
    }

    /// <summary>
    /// The generator matrix of the second dimension: Pascal's triangle, odd or even. A coefficient is odd where the bits of one number are
    /// among those of the other (Lucas), so five steps add up all of them.
    /// </summary>
    private static uint Second(uint index)
    {
        var x = index;
        x ^= (x & 0xAAAAAAAAu) >> 1;
        x ^= (x & 0xCCCCCCCCu) >> 2;
        x ^= (x & 0xF0F0F0F0u) >> 4;
        x ^= (x & 0xFF00FF00u) >> 8;
        x ^= (x & 0xFFFF0000u) >> 16;
        return Reverse(x);
    }

    /// <summary>Each bit is flipped by a hash of the bits above it: what was spread evenly stays so.</summary>
    private static uint Scramble(uint x, uint seed)
    {
        x = Reverse(x) + seed;
        x ^= x * 0x6C50B47Cu;
        x ^= x * 0xB82F1E52u;
        x ^= x * 0xC7AFE638u;
        x ^= x * 0x8D22F6E6u;
        return Reverse(x);
    }

    private static uint Reverse(uint x)
    {
        x = ((x >> 1) & 0x55555555u) | ((x & 0x55555555u) << 1);
        x = ((x >> 2) & 0x33333333u) | ((x & 0x33333333u) << 2);
        x = ((x >> 4) & 0x0F0F0F0Fu) | ((x & 0x0F0F0F0Fu) << 4);
        return System.Buffers.Binary.BinaryPrimitives.ReverseEndianness(x);
    }

    /// <summary>The upper 24 bits: a float holds no more below 1.</summary>
    private static float Unit(uint bits) => (bits >> 8) * (1f / (1 << 24));
}
