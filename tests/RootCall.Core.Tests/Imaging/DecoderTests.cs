using System.Diagnostics;
using System.Globalization;
using RootCall.Core.Files;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Native;
using RootCall.Testing;

namespace RootCall.Core.Tests.Imaging;

/// <summary>
/// Images behind their wall: every format and depth becomes a small PNG, and what does not decode says why and costs no more.
/// </summary>
public sealed class DecoderTests : IDisposable
{
    private readonly Place place = new();

    // One for all: starting a child takes longer than most of what is tried.
    private static readonly ImageDecoder decoder = new(Bounds.Default);

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
        void Fails(DecodeFault fault, string path, ImageDecoder? by = null)
        {
            var said = Assert.Throws<UndecodedException>(() => (by ?? decoder).Reduce(path, 64)).Undecoded;
            Assert.Equal(fault, said.Fault);
            Assert.InRange(said.Reason.Length, 5, 300);
            Assert.DoesNotContain('\0', said.Reason);
            Assert.DoesNotContain(place.Folder, said.Reason, StringComparison.Ordinal);
        }

        Fails(DecodeFault.NoFile, place.At("none.png"));
        Fails(DecodeFault.NoFile, place.Folder);
        Fails(DecodeFault.Unsupported, place.Put("text.png", "not a picture"));
        Fails(DecodeFault.Damaged, place.Put("cut.png", File.ReadAllBytes(Noise("a.png", "64x64"))[..1500]));
        using var small = new ImageDecoder(Bounds.Default with { ImageBytes = 29_999 });
        Fails(DecodeFault.TooLarge, Constant("big.png", "uint8", 3, "100x100", 1), small);
        Assert.Equal(0, Tool.Run("mkfifo", [place.At("pipe.png")]).Status);
        Fails(DecodeFault.NoFile, place.At("pipe.png"));
        // None of that ended it.
        Assert.Equal(8, Make(Constant("b.png", "uint8", 3, "8x8", 1), 64).Width);
    }

    [Fact]
    public void An_image_of_half_a_gigapixel_takes_little_memory_and_one_that_takes_too_much_is_refused()
    {
        // 22,000 x 22,000 pixels in 2 MB, where not a tenth of their 484 MB is given: read by rows.
        using var poor = new ImageDecoder(Bounds.Default with { ImageMemory = 40 << 20 });
        Assert.Equal(128 / 255f, poor.Reduce(Vast("vast.png", 22_000), 128).Sample.Values[0], 0.001f);
        // Of a layered file only what is shown is kept, and what it holds in all counts.
        using var small = new ImageDecoder(Bounds.Default with { ImageBytes = 100L << 20 });
        var deep = Constant("deep.exr", "half", 200, "600x600", 0.5f);
        Assert.Equal(DecodeFault.TooLarge, Assert.Throws<UndecodedException>(() => small.Reduce(deep, 64)).Undecoded.Fault);
        Assert.Equal(0.5f, decoder.Reduce(deep, 64).Sample.Values[0]);
        // A format that is read whole, where it may not be.
        var whole = Constant("whole.tga", "uint8", 4, "3000x3000", 0.5f);
        Assert.Equal(DecodeFault.TooLarge, Assert.Throws<UndecodedException>(() => poor.Reduce(whole, 64)).Undecoded.Fault);
    }

    [Fact]
    public void What_takes_too_long_is_ended_and_so_is_what_is_cancelled()
    {
        var vast = Vast("vast.png", 12_000);
        using var hasty = new ImageDecoder(Bounds.Default with { ImageSeconds = 0 });
        var fault = Record.Exception(() => hasty.Reduce(vast, 64));
        Assert.True(fault is UndecodedException { Undecoded.Fault: DecodeFault.TooLong }, fault?.Message);
        using var stop = new CancellationTokenSource(TimeSpan.FromMilliseconds(50));
        Assert.ThrowsAny<OperationCanceledException>(() => decoder.Reduce(vast, 64, stop.Token));
        Assert.Equal(8, Make(Constant("b.png", "uint8", 3, "8x8", 1), 64).Width);
    }

    [Fact]
    public void A_decoder_that_is_killed_is_replaced()
    {
        var image = Constant("b.png", "uint8", 3, "8x8", 1);
        decoder.Reduce(image, 64);
        var vast = Vast("vast.png", 12_000);
        var decoding = Task.Run(() => Record.Exception(() => decoder.Reduce(vast, 64)));
        while (!decoding.IsCompleted)
        {
            foreach (var child in Decoders.Of(Environment.ProcessId).Where(c => Reads(c, vast)))
                child.Kill();
            Thread.Sleep(5);
        }

        Assert.Equal(DecodeFault.EndedDecoder, Assert.IsType<UndecodedException>(decoding.Result).Undecoded.Fault);
        Assert.Equal(1, decoder.Reduce(image, 64).Sample.Values[0]);
    }

    [Fact]
    public void All_channels_come_at_full_depth_row_by_row()
    {
        // A ramp in 16 bits, and half floats in seven channels beside it.
        var made = Tool.Run(
            "oiiotool",
            ["--pattern", "fill:left=0,0.25,1:right=1,0.75,0", "700x1100", "3", "-d", "uint16", "-o", place.At("ramp.png")]
        );
        Assert.True(made.Status == 0, made.Output + made.Error);
        var (rows, last) = (0, 0f);
        decoder.Read(place.At("ramp.png"), strip =>
        {
            Assert.Equal((700, 1100, 3, rows), (strip.Width, strip.Height, strip.Channels, strip.First));
            for (var x = 0; x < 700; x++)
                Assert.Equal((x + 0.5f) / 700, strip.Values[x * 3], 0.001f);
            last = strip.Values[^3];
            rows += strip.Count;
        });
        Assert.Equal(1100, rows);
        // What breaks off on the way is told by its name, as what cannot be opened is.
        var cut = place.Put("cut.png", File.ReadAllBytes(place.At("ramp.png"))[..^2_000]);
        var e = Assert.Throws<UndecodedException>(() => decoder.Read(cut, _ => { }));
        Assert.Equal(DecodeFault.Damaged, e.Undecoded.Fault);
        Assert.DoesNotContain(place.Folder, e.Undecoded.Reason, StringComparison.Ordinal);
        // To the last of 16 bits: 65,535 steps.
        Assert.Equal(Math.Round(last * 65_535), last * 65_535, 0.01);
        var seven = 0;
        decoder.Read(Constant("seven.exr", "half", 7, "20x30", 3.5f), strip => seven += strip.Values.Count(3.5f));
        Assert.Equal(7 * 20 * 30, seven);
    }

    [Fact]
    public void One_decode_gives_picture_look_and_statistics_and_a_copy_of_the_file_costs_none()
    {
        var counting = new Counting(decoder);
        var pictures = new Kept();
        var facts = new FileFacts(counting, pictures);
        var (a, b) = (Noise("a.png", "64x64"), place.At("b.png"));
        File.Copy(a, b);
        var (stampA, stampB) = (FileFacts.Stamp(a)!.Value, FileFacts.Stamp(b)!.Value);
        facts.Hash(a, stampA);
        facts.Hash(b, stampB);
        Parallel.For(0, 8, _ => Assert.NotNull(facts.Look(a, stampA)));
        Assert.NotNull(facts.Pixels(a, stampA));
        Assert.Equal(facts.Look(a, stampA), facts.Look(b, stampB));
        Assert.Equal((1, 2), (counting.Decodes, pictures.Count));
        // Written over it is another image.
        File.WriteAllBytes(a, Pictures.Png(9, 9, 9));
        Assert.NotEqual(facts.Look(b, stampB), facts.Look(a, FileFacts.Stamp(a)!.Value));
        Assert.Equal(2, counting.Decodes);
        // What decoding finds broken is damaged from then on, and is not tried again.
        var cut = place.Put("cut.png", File.ReadAllBytes(Noise("whole.png", "64x64"))[..^900]);
        facts.Look(cut, FileFacts.Stamp(cut)!.Value);
        facts.Look(cut, FileFacts.Stamp(cut)!.Value);
        Assert.Equal(3, counting.Decodes);
    }

    [Fact]
    public void A_link_shares_the_contents()
    {
        var path = place.Put("a.bin", "contents");
        new HardLink().Create(path, place.At("b.bin"));
        File.AppendAllText(path, ", and more");
        Assert.Equal("contents, and more", File.ReadAllText(place.At("b.bin")));
    }

    public void Dispose() => place.Dispose();

    private static bool Reads(Process process, string path)
    {
        try
        {
            return Directory.GetFiles($"/proc/{process.Id}/fd").Any(f => new FileInfo(f).LinkTarget == path);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return false; // It has just ended.
        }
    }

    private string Vast(string name, int side) => place.Put(name, Pictures.Png(side, side, 128));

    private string Noise(string name, string size)
    {
        var made = Tool.Run("oiiotool", ["--pattern", "noise", size, "3", "-d", "uint8", "-o", place.At(name)]);
        Assert.True(made.Status == 0, made.Output + made.Error);
        return place.At(name);
    }

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
        File.WriteAllBytes(place.At("out.png"), decoder.Reduce(path, side).Picture);
        var probe = ImageProbe.File(place.At("out.png"));
        Assert.Null(probe.Damage);
        return probe.Facts!;
    }

    private sealed class Counting(IImageDecoder decoder) : IImageDecoder
    {
        private int decodes;

        public int Decodes => decodes;

        public ReducedImage Reduce(string path, int side, CancellationToken stop = default)
        {
            Interlocked.Increment(ref decodes);
            return decoder.Reduce(path, side, stop);
        }

        public void Read(string path, Action<PixelRows> take, CancellationToken stop = default) => decoder.Read(path, take, stop);
    }

    private sealed class Kept : Dictionary<FileState, byte[]>, IPictureStore
    {
        public void Put(FileState file, byte[] png) => this[file] = png;

        public void Share(FileState known, FileState file) => this[file] = this[known];
    }
}
