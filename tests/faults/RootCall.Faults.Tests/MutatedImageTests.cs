using System.Diagnostics;
using RootCall.Core.Files;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Pixels;
using RootCall.Native;
using RootCall.Testing;

namespace RootCall.Faults.Tests;

/// <summary>Images of every format, broken at random with a fixed seed: each is decoded, or told, and nothing hangs.</summary>
public sealed class MutatedImageTests : IDisposable
{
    private const int Seed = 7;
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(10);
    private static readonly ImageDecoder Decoder = new(Bounds.Default);
    private readonly Place place = new();

    [Theory]
    [InlineData("a.png", "uint8", "")]
    [InlineData("b.png", "uint16", "")]
    [InlineData("a.jpg", "uint8", "")]
    [InlineData("a.tga", "uint8", "")]
    [InlineData("a.tif", "uint16", "")]
    [InlineData("b.tif", "float", "--tile 16 16 --compression zip")]
    [InlineData("a.bmp", "uint8", "")]
    [InlineData("a.webp", "uint8", "")]
    [InlineData("a.exr", "half", "--compression piz")]
    [InlineData("b.exr", "float", "--tile 16 16 --compression zip")]
    [InlineData("c.exr", "half", "--compression dwaa")]
    [InlineData("a.hdr", "float", "")]
    public void A_broken_image_is_told_or_decoded(string name, string depth, string more)
    {
        var made = Tool.Run(
            "oiiotool",
            [
                "--pattern",
                "noise",
                "70x50",
                "3",
                .. more.Split(' ', StringSplitOptions.RemoveEmptyEntries),
                "-d",
                depth,
                "-o",
                place.At(name),
            ]
        );
        Assert.True(made.Status == 0, made.Output + made.Error);
        var whole = File.ReadAllBytes(place.At(name));
        var random = new Random(Seed);
        var (decoded, told) = (0, new Dictionary<DecodeFault, int>());
        for (var n = 0; n < Effort.Of(40, 420); n++)
        {
            var broken = place.Put(name, Mutation.Of(whole, random));
            var clock = Stopwatch.StartNew();
            ImageProbe.File(broken);
            try
            {
                Assert.NotEmpty(Decoder.Reduce(broken, 64).Picture);
                decoded++;
            }
            catch (UndecodedException e)
            {
                Assert.InRange(e.Undecoded.Reason.Length, 3, 300);
                told[e.Undecoded.Fault] = told.GetValueOrDefault(e.Undecoded.Fault) + 1;
            }

            Assert.True(clock.Elapsed < Longest, $"{name} {n} took {clock.Elapsed.TotalSeconds:0.0} s");
        }

        // Most of a PNG is under a checksum, so none of its variants may decode.
        Assert.True(told.Count > 0 && (decoded > 0 || name.EndsWith(".png", StringComparison.Ordinal)), $"{decoded} decoded");
    }

    public void Dispose() => place.Dispose();
}
