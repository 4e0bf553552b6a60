using System.Globalization;
using System.Text.RegularExpressions;
using RootCall.Core.Files;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Pixels;
using RootCall.Native;
using RootCall.Testing;

namespace RootCall.Core.Tests.Imaging;

/// <summary>Images opened pixel by pixel hold what another reader of the same file reads.</summary>
public sealed partial class PixelPlaneTests : IDisposable
{
    private readonly Place place = new();
    private readonly ImageDecoder decoder = new(Bounds.Default);

    public void Dispose()
    {
        decoder.Dispose();
        place.Dispose();
    }

    private PixelPlane Opened(string image)
    {
        var path = place.At(Guid.NewGuid().ToString("N"));
        using (var file = File.Create(path))
            PixelPlane.Write(file, image, ImageProbe.File(image).Facts, decoder, default);
        return PixelPlane.Open(path)!;
    }

    /// <summary>Every pixel as <c>oiiotool --dumpdata</c> (OpenImageIO) prints it.</summary>
    [Theory]
    [InlineData("a.png", "uint8", 3, PlaneDepth.Byte)]
    [InlineData("b.png", "uint16", 4, PlaneDepth.Short)]
    [InlineData("c.exr", "half", 4, PlaneDepth.Float)]
    [InlineData("d.tif", "uint8", 1, PlaneDepth.Byte)]
    [InlineData("e.exr", "float", 3, PlaneDepth.Float)]
    public void Each_pixel_is_as_oiiotool_reads_it(string name, string depth, int channels, PlaneDepth kept)
    {
        var image = place.At(name);
        var made = Tool.Run(
            "oiiotool",
            ["--pattern", "noise:type=uniform:min=0.1:max=0.9", "23x17", $"{channels}", "-d", depth, "-o", image]
        );
        Assert.True(made.Status == 0, made.Output + made.Error);
        var dumped = Tool.Run("oiiotool", ["--iconfig", "oiio:UnassociatedAlpha", "1", "--dumpdata", image]).Output;
        using var plane = Opened(image);
        Assert.Equal((23, 17, channels, kept), (plane.Width, plane.Height, plane.Channels, plane.Depth));
        var compared = 0;
        foreach (Match line in Dumped().Matches(dumped))
        {
            int Whole(int group) => int.Parse(line.Groups[group].Value, CultureInfo.InvariantCulture);
            // Of integers the stored numbers are printed first, and what they mean behind them.
            var floats = line.Groups[line.Groups[4].Success ? 4 : 3]
                .Value.Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Take(channels)
                .Select(v => float.Parse(v, CultureInfo.InvariantCulture));
            var mine = plane.Window(Whole(1), Whole(2), 1, 1).Values;
            foreach (var (theirs, ours) in floats.Zip(mine))
                Assert.Equal(theirs, ours, 1e-6f);
            compared++;
        }

        Assert.Equal(23 * 17, compared);
    }

    [GeneratedRegex(@"Pixel \((\d+), (\d+)\): ([^(\n]*)(?:\(([^)]*)\))?")]
    private static partial Regex Dumped();

    [Fact]
    public void A_window_ends_with_the_image_and_steps_over_pixels()
    {
        var image = place.At("ramp.png");
        Tool.Run("oiiotool", ["--pattern", "fill:left=0,0,0:right=1,1,1", "256x8", "3", "-d", "uint8", "-o", image]);
        using var plane = Opened(image);
        var all = plane.Window(0, 0, 256, 8);
        var some = plane.Window(0, 0, 256, 8, step: 4);
        Assert.Equal((64, 2), (some.Width, some.Height));
        Assert.Equal(Enumerable.Range(0, 64).Select(x => all.Values[x * 4 * 3]), Enumerable.Range(0, 64).Select(x => some.Values[x * 3]));
        Assert.Equal((6, 3), (plane.Window(250, 5, 100, 100).Width, plane.Window(250, 5, 100, 100).Height));
        Assert.Equal((1, 1), (plane.Window(9999, -5, 0, 0).Width, plane.Window(9999, 9999, 0, 0).Height));
    }

    [Fact]
    public void What_is_no_opened_image_is_none()
    {
        Assert.Null(PixelPlane.Open(place.Put("empty", string.Empty)));
        Assert.Null(PixelPlane.Open(place.Put("text", "RPL1 but not one of ours at all")));
    }
}
