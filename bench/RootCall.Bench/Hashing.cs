using System.Security.Cryptography;
using RootCall.Core.Muster;
using RootCall.Testing;

namespace RootCall.Bench;

/// <summary>Contents by SHA-256: one file on one core, and many on all.</summary>
internal static class Hashing
{
    private const int Files = 8;

    public static void Run(Place place)
    {
        var big = place.Put("big.bin", RandomNumberGenerator.GetBytes(256 << 20));
        Measure.Compare("hashing 256 MiB on one core", () => ContentHash.Of(big), "sha256sum", () => Tool.Run("sha256sum", [big]));
        string[] many = [.. Enumerable.Range(0, Files).Select(i => place.Put($"many/{i}.bin", RandomNumberGenerator.GetBytes(32 << 20)))];
        Measure.Compare(
            $"hashing {Files} files of 32 MiB on all cores",
            () => Parallel.ForEach(many, f => ContentHash.Of(f)),
            "sha256sum",
            () => Tool.Run("sha256sum", many)
        );
    }
}
