using System.Globalization;
using RootCall.Core.Files;
using RootCall.Core.Imaging;
using RootCall.Native;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>The image library behind its shim: every format and depth becomes a small PNG, and what does not decode says why.</summary>
public sealed class ThumbnailTests : IDisposable
{
    private readonly Place place = new();
    private readonly OpenImageIoThumbnails thumbnails = new(Bounds.Default);

    [Theory]
    [InlineData("a.png", "uint8", 3)]
    [InlineData("a.png", "uint16", 4)]
    [InlineData("a.png", "uint8", 1)]
    [InlineData("a.jpg", "uint8", 3)]
    [InlineData("a.tga", "uint8", 4)]
    [InlineData("a.tif", "uint16", 3)]
    [InlineData("a.tif", "float", 3)]
    [InlineData("a.bmp", "uint8", 3)]
    [InlineData("a.webp", "uint8", 3)]
    [InlineData("a.exr", "half", 4)]
    [InlineData("a.exr", "float", 1)]
    [InlineData("a.hdr", "float", 3)]
    public void Each_format_becomes_a_picture_that_keeps_its_shape(string name, string depth, int channels)
    {
        var facts = Make(Constant(name, depth, channels, "400x100", 0.5f), 128);
        Assert.Equal((ImageFormat.Png, 128, 32, 8), (facts.Format, facts.Width, facts.Height, facts.BitDepth));
        Assert.Equal(channels == 4, facts.HasAlpha);
    }

    [Theory]
    [InlineData("a.exr", "half", 0.5f, 0.735f)] // IEC 61966-2-1: 1.055 * 0.5^(1/2.4) - 0.055
    [InlineData("a.hdr", "float", 0.5f, 0.735f)]
    [InlineData("a.exr", "float", 40f, 1f)]
    [InlineData("a.png", "uint8", 0.5f, 0.5f)]
    [InlineData("a.png", "uint16", 0.25f, 0.25f)]
    public void Linear_light_is_encoded_for_the_display_and_stored_values_are_shown_as_stored(
        string name,
        string depth,
        float value,
        float shown
    )
    {
        Make(Constant(name, depth, 3, "64x64", value), 32);
        var mean = Tool.Run("oiiotool", ["--stats", place.At("out.png")])
            .Output.Split('\n')
            .First(l => l.Contains("Stats Avg", StringComparison.Ordinal));
        var red = float.Parse(mean.Split(':')[1].Split(' ', StringSplitOptions.RemoveEmptyEntries)[0], CultureInfo.InvariantCulture) / 255;
        Assert.Equal(shown, red, 0.012f);
    }

    [Fact]
    public void A_small_image_is_not_blown_up() => Assert.Equal(8, Make(Constant("a.png", "uint8", 3, "8x8", 1), 256).Width);

    [Fact]
    public void What_does_not_decode_says_why_in_one_line()
    {
        void Fails(string path, OpenImageIoThumbnails? by = null)
        {
            var said = Assert.Throws<CannotUseException>(() => (by ?? thumbnails).Make(path, place.At("out.png"), 64)).Message;
            Assert.InRange(said.Length, 5, 400);
            Assert.DoesNotContain('\0', said);
        }

        Fails(place.At("none.png"));
        Fails(place.Put("text.png", "not a picture"));
        Fails(place.Put("cut.png", Pictures.Png(64, 64, 9)[..60]));
        Fails(Constant("big.png", "uint8", 3, "100x100", 1), new(Bounds.Default with { ImagePixels = 9_999 }));
    }

    [Fact]
    public void A_link_shares_the_contents()
    {
        var path = place.Put("a.bin", "contents");
        HardLink.Create(path, place.At("b.bin"));
        File.AppendAllText(path, ", and more");
        Assert.Equal("contents, and more", File.ReadAllText(place.At("b.bin")));
    }

    public void Dispose() => place.Dispose();

    private string Constant(string name, string depth, int channels, string size, float value)
    {
        var colour = string.Join(',', Enumerable.Repeat(value.ToString(CultureInfo.InvariantCulture), channels));
        var made = Tool.Run(
            "oiiotool",
            [
                "--pattern",
                "constant:color=" + colour,
                size,
                channels.ToString(CultureInfo.InvariantCulture),
                "-d",
                depth,
                "-o",
                place.At(name),
            ]
        );
        Assert.True(made.Status == 0, made.Output + made.Error);
        return place.At(name);
    }

    private ImageFacts Make(string path, int side)
    {
        thumbnails.Make(path, place.At("out.png"), side);
        var probe = ImageProbe.File(place.At("out.png"));
        Assert.Null(probe.Damage);
        return probe.Facts!;
    }
}
