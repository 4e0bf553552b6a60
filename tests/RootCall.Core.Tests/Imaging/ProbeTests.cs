using System.Globalization;
using System.Text;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Codecs;
using RootCall.Testing;

namespace RootCall.Core.Tests.Imaging;

/// <summary>Header facts beside what OpenImageIO's own tools say of files that they wrote; damage by cutting and renaming.</summary>
public sealed class ProbeTests : IDisposable
{
    private readonly Place place = new();

    public static TheoryData<string, string[]> Written =>
        new()
        {
            { "rgb.png", ["-d", "uint8"] },
            { "deep.png", ["-d", "uint16"] },
            { "photo.jpg", ["-d", "uint8"] },
            { "flat.tga", ["-d", "uint8", "--compression", "none"] },
            { "runs.tga", ["-d", "uint8", "--compression", "rle"] },
            { "strips.tif", ["-d", "uint8", "--compression", "lzw"] },
            { "deep.tif", ["-d", "uint16", "--compression", "none"] },
            { "float.tif", ["-d", "float", "--compression", "zip"] },
            { "tiles.tif", ["-d", "half", "--tile", "32", "32"] },
            { "flat.bmp", ["-d", "uint8"] },
            { "lossy.webp", ["-d", "uint8"] },
            { "half.exr", ["-d", "half", "--compression", "zip"] },
            { "float.exr", ["-d", "float", "--compression", "piz"] },
            { "tiles.exr", ["-d", "half", "--tile", "32", "32"] },
            { "light.hdr", ["-d", "float"] },
        };

    [Theory]
    [MemberData(nameof(Written))]
    public void Facts_agree_with_another_library_and_every_cut_is_damage(string name, string[] options)
    {
        var path = Make(name, "70x45", 3, options);
        var said = Info(path);
        var probe = ImageProbe.File(path);
        Assert.Null(probe.Damage);
        Assert.Equal((said.Width, said.Height, said.Channels), (probe.Facts!.Width, probe.Facts.Height, probe.Facts.Channels));
        Assert.Equal((said.Bits, said.IsFloat), (probe.Facts.BitDepth, probe.Facts.IsFloat));
        Assert.Equal(ImageCodecs.Promised(name), probe.Facts.Format);

        var bytes = File.ReadAllBytes(path);
        // Behind a TGA's pixels stands a part that may be absent, so its last bytes are no proof.
        foreach (var part in name.EndsWith(".tga", StringComparison.Ordinal) ? new[] { 0.7, 0.3, 0.02 } : [0.98, 0.7, 0.3, 0.05])
        {
            var cut = ImageProbe.File(place.Put("cut-" + name, bytes[..(int)(bytes.Length * part)]));
            Assert.True(cut.Damage is not null, $"{name} cut to {part} passed as whole");
        }
    }

    [Fact]
    public void No_cut_and_no_changed_byte_makes_a_probe_throw()
    {
        var random = new Random(20);
        foreach (var (name, options) in Written.Select(w => ((string)w[0], (string[])w[1])))
        {
            var bytes = File.ReadAllBytes(Make(name, "20x12", 4, options));
            for (var n = 0; n < 60; n++)
            {
                var broken = bytes[..random.Next(bytes.Length + 1)];
                for (var k = 0; k < 3 && broken.Length > 0; k++)
                    broken[random.Next(Math.Min(broken.Length, 200))] = (byte)random.Next(256);
                ImageProbe.Stream(new MemoryStream(broken), name);
            }
        }
    }

    [Theory]
    [InlineData("a.png", true)]
    [InlineData("a.tga", true)]
    [InlineData("a.tif", true)]
    [InlineData("a.exr", true)]
    [InlineData("a.jpg", false)]
    public void An_alpha_is_told(string name, bool alpha)
    {
        var facts = ImageProbe.File(Make(name, "8x8", 4, ["-d", name.EndsWith("exr", StringComparison.Ordinal) ? "half" : "uint8"])).Facts!;
        Assert.Equal((alpha, alpha ? 4 : 3), (facts.HasAlpha, facts.Channels));
    }

    [Fact]
    public void Colour_tags_follow_the_precedence_of_the_PNG_specification()
    {
        // PNG, third edition, 4.3: cICP before iCCP before sRGB before gAMA.
        byte[] gamma = [0, 0, 0xB1, 0x8F]; // 45455, the example of the specification for 1/2.2
        string? Tag(params (string, byte[])[] chunks) =>
            ImageProbe.Stream(new MemoryStream(Pictures.Png(2, 2, 0, chunks)), "x.png").Facts!.Colour;
        Assert.Null(Tag());
        Assert.Equal("gamma 2.2", Tag(("gAMA", gamma)));
        Assert.Equal("sRGB", Tag(("sRGB", [0])));
        Assert.Equal("ICC profile", Tag(("sRGB", [0]), ("iCCP", [1, 2, 3])));
        Assert.Equal("cICP", Tag(("cICP", [1, 13, 0, 1]), ("iCCP", [1, 2, 3])));
    }

    [Fact]
    public void A_file_is_what_its_first_bytes_say_not_what_it_is_called()
    {
        var jpeg = File.ReadAllBytes(Make("a.jpg", "16x16", 3, ["-d", "uint8"]));
        var probe = ImageProbe.File(place.Put("b.png", jpeg));
        Assert.Equal(ImageFormat.Jpeg, probe.Facts!.Format);
        Assert.Equal("is a JPEG, not the PNG its name says", probe.Damage);
        Assert.Equal("the file is empty", ImageProbe.File(place.Put("c.png", [])).Damage);
        Assert.Contains("is no PNG", ImageProbe.File(place.Put("d.png", "<html>not found</html>")).Damage, StringComparison.Ordinal);
        Assert.Contains(
            "is no TGA",
            ImageProbe.File(place.Put("e.tga", "<html>not found, and more text</html>")).Damage,
            StringComparison.Ordinal
        );
        Assert.Equal(new ProbeResult(null, null), ImageProbe.File(place.Put("f.svg", "<svg/>")));
        Assert.Contains("cannot be opened", ImageProbe.File(place.At("none.png")).Damage, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("DXT1", 0u, 8 * 4 * 8, 3, null)]
    [InlineData("DXT5", 0u, 16 * 4 * 8, 4, null)]
    [InlineData("DX10", 99u, 16 * 4 * 8, 4, "sRGB")]
    [InlineData("DX10", 83u, 16 * 4 * 8, 2, null)]
    public void DDS_lengths_follow_from_its_blocks(string code, uint dxgi, int data, int channels, string? colour)
    {
        // "Programming guide for DDS": a 4 by 4 block takes 8 bytes in BC1 and BC4, 16 in BC2, BC3, BC5, BC7.
        var bytes = Dds(32, 16, code, dxgi, data);
        var whole = ImageProbe.Stream(new MemoryStream(bytes), "a.dds");
        Assert.Equal(new ImageFacts(ImageFormat.Dds, 32, 16, channels, 8, HasAlpha: channels == 4, Colour: colour), whole.Facts);
        Assert.Null(whole.Damage);
        Assert.NotNull(ImageProbe.Stream(new MemoryStream(bytes[..^1]), "a.dds").Damage);
    }

    [Fact]
    public void KTX2_is_read_from_its_level_index_and_data_format_descriptor()
    {
        // KTX 2.0, 3: identifier, 9 numbers, index of descriptor, key values and supercompression, then levels.
        using var file = new MemoryStream();
        using var w = new BinaryWriter(file);
        w.Write([0xAB, (byte)'K', (byte)'T', (byte)'X', (byte)' ', (byte)'2', (byte)'0', 0xBB, 0x0D, 0x0A, 0x1A, 0x0A]);
        foreach (var n in new[] { 43, 1, 64, 32, 0, 0, 1, 1, 0 })
            w.Write(n); // VK_FORMAT_R8G8B8A8_SRGB
        w.Write(104); // descriptor offset
        w.Write(4 + 24 + (4 * 16));
        w.Write(new byte[8 + 16]);
        w.Write(200L);
        w.Write(64L * 32 * 4);
        w.Write(64L * 32 * 4);
        w.Write(4 + 24 + (4 * 16));
        w.Write(0);
        w.Write((ushort)2);
        w.Write((ushort)(24 + (4 * 16)));
        w.Write([(byte)1, (byte)1, (byte)2, (byte)0]); // RGBSDA, BT.709, sRGB
        w.Write(new byte[4 + 8]);
        foreach (byte channel in new byte[] { 0, 1, 2, 15 })
        {
            w.Write((ushort)0);
            w.Write((byte)7);
            w.Write(channel);
            w.Write(new byte[12]);
        }

        w.Write(new byte[200 - (int)file.Length + (64 * 32 * 4)]);
        var probe = ImageProbe.Stream(file, "a.ktx2");
        Assert.Equal(new ImageFacts(ImageFormat.Ktx2, 64, 32, 4, 8, HasAlpha: true, Colour: "sRGB"), probe.Facts);
        Assert.Null(probe.Damage);
        file.SetLength(file.Length - 1);
        Assert.Contains("level 0", ImageProbe.Stream(file, "a.ktx2").Damage, StringComparison.Ordinal);
    }

    public void Dispose() => place.Dispose();

    private string Make(string name, string size, int channels, string[] options)
    {
        var path = place.At(name);
        var made = Tool.Run(
            "oiiotool",
            ["--pattern", "noise:seed=3", size, channels.ToString(CultureInfo.InvariantCulture), .. options, "-o", path]
        );
        Assert.True(made.Status == 0, made.Output + made.Error);
        return path;
    }

    /// <summary>"path : 70 x 45, 3 channel, uint8 png" from OpenImageIO's iinfo.</summary>
    private static (int Width, int Height, int Channels, int Bits, bool IsFloat) Info(string path)
    {
        var words = Tool.Run("iinfo", [path]).Output.Split(" : ")[1].Split([' ', ','], StringSplitOptions.RemoveEmptyEntries);
        int Number(int i) => int.Parse(words[i], CultureInfo.InvariantCulture);
        return words[5] switch
        {
            "half" => (Number(0), Number(2), Number(3), 16, true),
            "float" => (Number(0), Number(2), Number(3), 32, true),
            var type => (Number(0), Number(2), Number(3), int.Parse(type[4..], CultureInfo.InvariantCulture), false),
        };
    }

    private static byte[] Dds(int width, int height, string code, uint dxgi, int data)
    {
        using var file = new MemoryStream();
        using var w = new BinaryWriter(file);
        w.Write("DDS "u8);
        foreach (var n in new[] { 124, 0x1007, height, width, 0, 0, 1 })
            w.Write(n);
        w.Write(new byte[44]);
        w.Write(32);
        w.Write(4);
        w.Write(Encoding.ASCII.GetBytes(code));
        w.Write(new byte[20 + 20]);
        if (code == "DX10")
            foreach (var n in new[] { dxgi, 3u, 0u, 1u, 0u })
                w.Write(n);
        w.Write(new byte[data]);
        return file.ToArray();
    }
}
