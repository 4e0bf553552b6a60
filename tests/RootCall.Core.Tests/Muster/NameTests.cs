using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Shading;

namespace RootCall.Core.Tests.Muster;

/// <summary>Names taken apart, and the dictionary that says by which words.</summary>
public sealed class NameTests
{
    [Theory]
    [InlineData("oak_bark_basecolor_2k.png", "oakbark", "base colour", "2k", null, null, null)]
    [InlineData("OakBark_BaseColor_4096x4096_v012.exr", "oakbark", "base colour", "4096x4096", 12, null, null)]
    [InlineData("oak base color low.tif", "oak", "base colour", "low", null, null, null)]
    [InlineData("brushed_metal_normal.png", "brushedmetal", "normal", null, null, null, null)]
    [InlineData("oak_nrm.1012.exr", "oak", "normal", null, null, "1012", null)]
    [InlineData("oak_u2_v3_rough.exr", "oak", "roughness", null, null, "u2_v3", null)]
    [InlineData("oak_ao.<UDIM>.exr", "oak", "occlusion", null, null, "<udim>", null)]
    [InlineData("smoke.0007.exr", "smoke", null, null, null, null, "0007")]
    [InlineData("smoke.####.exr", "smoke", null, null, null, null, "####")]
    [InlineData("smoke_%04d.exr", "smoke", null, null, null, null, "%04d")]
    [InlineData("tile_1024.png", "tile", null, "1024", null, null, null)]
    [InlineData("tile.1024.png", "tile", null, null, null, "1024", null)]
    [InlineData("metallic_roughness.png", "", "metallic roughness", null, null, null, null)]
    [InlineData("Base_Color_2k.png", "", "base colour", "2k", null, null, null)]
    [InlineData("normal.png", "", "normal", null, null, null, null)]
    [InlineData("half_timber.png", "halftimber", null, null, null, null, null)]
    [InlineData("oak_01.png", "oak01", null, null, null, null, null)]
    public void A_name_says_what_it_is(
        string name,
        string body,
        string? role,
        string? resolution,
        int? version,
        string? tile,
        string? frame
    )
    {
        var read = FileName.Of(name);
        Assert.Equal(
            (body, role, resolution, version, tile, frame),
            (read.Body, read.Role?.Word(), read.Resolution, read.Version, read.Tile, read.Frame)
        );
        Assert.True(IsIndexedAsRead(name));
    }

    [Theory]
    [InlineData("lamp_red_normal.png", "red", null)]
    [InlineData("lamp_skin2_normal.png", null, "skin2")]
    [InlineData("lamp_variantB.png", null, "variantb")]
    [InlineData("red_lamp.png", null, null)]
    [InlineData("lamp_altar.png", null, null)]
    public void Colours_and_skins_tell_variants_apart(string name, string? colour, string? skin) =>
        Assert.Equal(
            (colour, skin),
            (
                FileName.Of(name).Colour,
                FileName.Of(name).Skin is "b"
                    ? "variantb"
                    : FileName.Of(name).Skin switch
                    {
                        "variant" => "variantb",
                        var s => s,
                    }
            )
        );

    [Fact]
    public void Names_that_nobody_writes_are_read_too()
    {
        foreach (
            var name in new[]
            {
                string.Empty,
                ".",
                "...",
                "_",
                new string('a', 4000),
                string.Join('_', Enumerable.Repeat("x", 300)) + ".png",
                "\ud800.png",
                "é".Normalize(System.Text.NormalizationForm.FormD) + "_nrm.png",
            }
        )
            Assert.True(IsIndexedAsRead(name), name);
    }

    [Fact]
    public void A_house_has_words_of_its_own()
    {
        var words = NameDictionary.Standard.Words;
        var names = NameDictionary.Of(
            words with
            {
                Roles = words.Roles.SetItem("normal", [.. words.Roles["normal"], "bumpy"]),
                Sizes = [.. words.Sizes, "hero"],
            }
        );
        var read = FileName.Of("oak_bumpy_hero.png", names);
        Assert.Equal((Role.Normal, "hero"), (read.Role, read.Resolution));
        Assert.Null(FileName.Of("oak_bumpy.png").Role);
        Assert.Equal(names.ToJson(), NameDictionary.Parse(names.ToJson()).ToJson());
    }

    [Fact]
    public void A_kept_dictionary_with_a_role_that_is_none_still_knows_the_others()
    {
        var kept = NameDictionary.Kept("""{ "roles": { "wear": ["worn"], "normal": ["nrm"] }, "sizes": [], "colours": [], "skins": [] }""");
        Assert.Equal((Role.Normal, null), (FileName.Of("oak_nrm.png", kept).Role, FileName.Of("oak_worn.png", kept).Role));
        Assert.Contains("wear", kept.ToJson(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("{", "line 1")]
    [InlineData("""{ "roles": {}, "sizes": [], "colours": [] }""", "skins")]
    [InlineData("""{ "roles": { "wear": ["wear"] }, "sizes": [], "colours": [], "skins": [] }""", "“wear” is no role")]
    [InlineData("""{ "roles": { "normal": ["Nrm"] }, "sizes": [], "colours": [], "skins": [] }""", "no single word")]
    [InlineData("""{ "roles": { "normal": ["nrm"], "bump": ["nrm"] }, "sizes": [], "colours": [], "skins": [] }""", "under normal")]
    public void A_dictionary_that_is_wrong_says_where(string json, string says) =>
        Assert.Contains(says, Assert.Throws<CannotUseException>(() => NameDictionary.Parse(json)).Message, StringComparison.Ordinal);

    /// <summary>An index hashes names without taking them apart into strings; both must say the same.</summary>
    private static bool IsIndexedAsRead(string name)
    {
        var index = new TreeIndex("/x", [new("/x", default, [name], [1], [1], [])], [], default);
        return index.Alike(FileName.Of(name), NameDictionary.Standard).Any()
            && index.Family(FileName.Of(name), NameDictionary.Standard).Any()
            && index.Named(name).Any();
    }
}
