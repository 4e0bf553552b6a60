using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Testing;

namespace RootCall.Core.Tests.Muster;

public sealed class WrittenPathTests
{
    [Theory]
    [InlineData("tex/a.png", PathOrigin.Relative, "tex", "a.png")]
    [InlineData("./tex/../a.png", PathOrigin.Relative, "tex/..", "a.png")]
    [InlineData(@"tex\sub\a.png", PathOrigin.Relative, "tex/sub", "a.png")]
    [InlineData("a.png", PathOrigin.Relative, ".", "a.png")]
    [InlineData("/mnt/vault/a.png", PathOrigin.Absolute, "/mnt/vault", "a.png")]
    [InlineData("file:///mnt/vault/a%20b.png", PathOrigin.Absolute, "/mnt/vault", "a b.png")]
    [InlineData(@"D:\jobs\2231\a.png", PathOrigin.Foreign, "D:/jobs/2231", "a.png")]
    [InlineData("d:/a.png", PathOrigin.Foreign, "d:", "a.png")]
    [InlineData("file:///D:/tex/a.png", PathOrigin.Foreign, "D:/tex", "a.png")]
    [InlineData(@"\\stow04\lib\metals\a.png", PathOrigin.Foreign, "//stow04/lib/metals", "a.png")]
    [InlineData("https://textures.example/x/a.png", PathOrigin.Remote, "https://textures.example/x", "a.png")]
    public void A_written_path_is_taken_apart(string written, PathOrigin origin, string folder, string name)
    {
        var path = WrittenPath.Parse(written);
        Assert.Equal((origin, folder, name), (path.Origin, path.Folder, path.FileName));
    }

    [Theory]
    [InlineData("tex/a.png", "/s/tex/a.png")]
    [InlineData(@"tex\a.png", "/s/tex/a.png")]
    [InlineData("../a.png", "/a.png")]
    [InlineData("/x/a.png", "/x/a.png")]
    [InlineData(@"D:\a.png", null)]
    [InlineData("http://h/a.png", null)]
    [InlineData("nul\0.png", null)]
    public void It_points_to_a_place_on_this_system_or_to_none(string written, string? place) =>
        Assert.Equal(place, WrittenPath.Parse(written).Locate("/s"));

    [Fact]
    public void A_backslash_may_be_part_of_a_name_here()
    {
        using var place = new Place();
        var odd = place.Put(@"tex\a.png", [1]);
        Assert.Equal(odd, WrittenPath.Parse(@"tex\a.png").Locate(place.Folder));
    }

    [Theory]
    [InlineData("C:/Users/guest/Downloads/a.png", true)]
    [InlineData("/home/g/Desktop/set/a.png", true)]
    [InlineData("/var/tmp/a.png", true)]
    [InlineData("tex/desktop.png", false)]
    [InlineData("templates/a.png", false)]
    public void Transient_places_are_known_by_their_folders(string written, bool transient) =>
        Assert.Equal(transient, WrittenPath.Parse(written).IsTransient);

    [Theory]
    [InlineData("plain_name.png", "plain_name.png")]
    [InlineData("what?.png", "what_.png")]
    [InlineData("trailing. ", "trailing")]
    [InlineData("con.png", "con_.png")]
    [InlineData("cafe\u0301.png", "caf\u00e9.png")]
    [InlineData("a%b.png", "a_b.png")]
    [InlineData("...", "_")]
    public void Portable_names_are_the_nearest_that_every_system_takes(string name, string portable)
    {
        Assert.Equal(portable, PortableName.Make(name));
        Assert.Equal(name == portable, PortableName.IsPortable(name));
        Assert.True(PortableName.IsPortable(PortableName.Make(name)));
    }

    [Fact]
    public void Long_names_are_cut_by_bytes_and_keep_their_ending()
    {
        var made = PortableName.Make(new string('é', 300) + ".png");
        Assert.EndsWith("é.png", made, StringComparison.Ordinal);
        Assert.InRange(System.Text.Encoding.UTF8.GetByteCount(made), 250, 255);
    }

    [Theory]
    [InlineData("oak_basecolor_2k.png", "oak_albedo_4k.tif", true)]
    [InlineData("oak_rough_v003.exr", "oak-roughness.exr", true)]
    [InlineData("oak_nrm_2048x2048.png", "oak.normal.png", true)]
    [InlineData("oak_ao_low.png", "oak_occlusion_proxy.png", true)]
    [InlineData("oak_basecolor.png", "oak_roughness.png", false)]
    [InlineData("oak_01.png", "oak_02.png", false)]
    [InlineData("half_timber.png", "timber.png", false)]
    public void Names_of_the_same_map_share_a_core(string a, string b, bool same) =>
        Assert.Equal(same, FileName.Of(a).Core == FileName.Of(b).Core);
}
