using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Codecs;
using RootCall.Testing;

namespace RootCall.Core.Tests.Imaging;

/// <summary>The demo's own files, seen by the probes and by another library.</summary>
public sealed class DemoPictureTests(DemoPlace demo) : IClassFixture<DemoPlace>
{
    [Fact]
    public void Every_picture_of_the_clean_twins_and_the_library_is_whole_and_reads_elsewhere_too()
    {
        var pictures = new[] { "clean", "library" }
            .SelectMany(f => Directory.GetFiles(demo.At(f), "*", SearchOption.AllDirectories))
            .Where(f => ImageCodecs.Promised(f) is not null)
            .ToList();
        Assert.True(pictures.Count > 40);
        var said = Tool.Run("iinfo", pictures).Output.Split('\n', StringSplitOptions.RemoveEmptyEntries);
        Assert.Equal(pictures.Count, said.Length);
        foreach (var (path, line) in pictures.Zip(said))
        {
            var probe = ImageProbe.File(path);
            Assert.True(probe.Damage is null, $"{path}: {probe.Damage}");
            Assert.Contains(
                $"{probe.Facts!.Width, 4} x {probe.Facts.Height, 4}, {probe.Facts.Channels} channel",
                line,
                StringComparison.Ordinal
            );
        }
    }

    [Theory]
    [InlineData("library/tin-orchard/tex/tin_leaf_basecolor.png", 512, true)]
    [InlineData("library/skies/dusk_04.hdr", 1024, false)]
    [InlineData("library/tin-orchard/tex/signs/enamel_sign_07_basecolor.png", 1024, false)]
    public void Materials_look_like_something(string path, int width, bool cutOut)
    {
        var facts = ImageProbe.File(demo.At(path)).Facts!;
        Assert.Equal((width, cutOut), (facts.Width, facts.HasAlpha));
        // Not one flat colour: each channel spreads.
        var spread = Tool.Run("oiiotool", ["--stats", demo.At(path)])
            .Output.Split('\n')
            .First(l => l.Contains("Stats StdDev", StringComparison.Ordinal));
        Assert.All(spread.Split(':')[1].Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(3), s =>
            Assert.True(double.Parse(s, System.Globalization.CultureInfo.InvariantCulture) > 0.01)
        );
    }
}
