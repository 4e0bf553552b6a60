using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Testing;

namespace RootCall.Core.Tests.Files;

/// <summary>Paths and names as they come, also those that nobody should write.</summary>
public sealed class PathTests : IDisposable
{
    private readonly Place place = new();

    public void Dispose() => place.Dispose();

    [Theory]
    [InlineData("D:/jobs/tex", "D:/jobs/tex/a/b.png", "/lib/a/b.png")]
    // Windows knows no case (Win32 "Naming files, paths, and namespaces").
    [InlineData("D:/jobs/tex", "d:\\JOBS\\Tex\\a.png", "/lib/a.png")]
    [InlineData("D:/jobs/tex", "D:/jobs/textures/a.png", null)]
    [InlineData("D:/jobs/tex", "D:/jobs/tex", null)]
    [InlineData("D:/jobs/tex", "tex/a.png", null)]
    [InlineData(".", "tex/a.png", "/lib/tex/a.png")]
    [InlineData(".", "./a.png", "/lib/a.png")]
    [InlineData(".", "/tex/a.png", null)]
    [InlineData("//stow/lib", "\\\\stow\\lib\\metals\\a.png", "/lib/metals/a.png")]
    [InlineData("D:/jobs", "D:/jobs/../a.png", "/a.png")]
    public void A_rewrite_takes_what_stands_under_its_start_and_nothing_else(string from, string written, string? path) =>
        Assert.Equal(path, new PathRewrite(from, "/lib").Rewrite(WrittenPath.Parse(written)));

    [Theory]
    [InlineData("*", "", true)]
    [InlineData("**", "", true)]
    [InlineData("", "", true)]
    [InlineData("a", "", false)]
    [InlineData("tin_*", "TIN_lid", true)]
    [InlineData("tin_*", "tin", false)]
    [InlineData("*_rough*", "oak_roughness", true)]
    [InlineData("a?c", "abc", false)]
    [InlineData("a?c", "a?c", true)]
    [InlineData("a\\b", "a\\b", true)]
    [InlineData("*.*", "ab", false)]
    [InlineData("[ab]", "a", false)]
    public void A_star_stands_for_anything_and_no_other_sign_does(string pattern, string text, bool fits) =>
        Assert.Equal(fits, Wildcard.Fits(pattern, text));

    [Fact]
    public void A_pattern_of_many_stars_ends_soon() =>
        Assert.False(Wildcard.Fits(string.Concat(Enumerable.Repeat("*a", 200)) + "b", new('a', 400)));

    [Theory]
    [InlineData("")]
    [InlineData("\0")]
    [InlineData("a\0b.png")]
    [InlineData("../../../../etc/passwd")]
    [InlineData("/proc/self/root/etc/passwd")]
    [InlineData("~/x")]
    public void A_scope_lets_nothing_in_that_is_no_path_of_its_own(string path) =>
        Assert.Null(new RootScope([place.At("inside")]).Enter(path));

    /// <summary>Half a surrogate pair is no character (Unicode 16, 3.9), and a path may still be written with one.</summary>
    [Theory]
    [InlineData(0xD800)]
    [InlineData(0xDC00)]
    [InlineData(0xDFFF)]
    public void Half_a_character_ends_nothing(int half)
    {
        // Put together here: what a test is given travels as UTF-8.
        var written = $"a{(char)half}b/tin_{(char)half}_normal.png";
        var path = WrittenPath.Parse(written);
        Assert.False(path.IsPortable);
        var made = PortableName.Make(path.FileName);
        Assert.True(PortableName.IsPortable(made), made);
        _ = FileName.Of(path.FileName);
        var obj = place.Put("s.obj", "mtllib s.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl m\nf 1 2 3\n");
        place.Put("s.mtl", [.. Encoding.UTF8.GetBytes("newmtl m\nmap_Kd tin"), 0xED, 0xA0, 0x80, .. "_normal.png\n"u8]);
        Assert.Equal(2, Look.Muster(obj, place.Folder).References.Length);
        var gltf = place.Put("s.gltf", Look.Gltf("PATH").Replace("PATH", $"\\u{half:x4}.png", StringComparison.Ordinal));
        _ = Look.Muster(gltf, place.Folder);
        var carried = File.ReadAllText(gltf).Replace("\"uri\": \"", "\"uri\": \"data:image/png;base64,AAAA", StringComparison.Ordinal);
        _ = Look.Muster(place.Put("c.gltf", carried), place.Folder);
    }
}
