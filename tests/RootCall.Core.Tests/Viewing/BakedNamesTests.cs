using RootCall.Core.Muster;
using RootCall.Core.Viewing;

namespace RootCall.Core.Tests.Viewing;

/// <summary>Baked images are called as the house calls its textures, as far as a name can be made of a material and a role.</summary>
public sealed class BakedNamesTests
{
    [Theory]
    [InlineData(null, "Fern Leaf_base_color.png")]
    [InlineData("^[a-z0-9_]+\\.png$", "fern_leaf_base_color.png")]
    [InlineData("^[a-z-]+\\.(png|exr)$", "fern-leaf-base-color.png")]
    [InlineData("^(Tin|Fern)[A-Za-z]+\\.png$", "FernLeafbasecolor.png")]
    [InlineData("^tx_[a-z_]+_albedo\\.png$", "tx_fern_leaf_albedo.png")]
    [InlineData("^[A-Z_]+_BC\\.", "FERN_LEAF_BC.png")]
    [InlineData("^OR-[0-9]{4}_", "Fern Leaf_base_color.png")]
    [InlineData("^((a|aa)+)+$", "Fern Leaf_base_color.png")]
    public void A_name_fits_the_pattern_where_one_can_be_made(string? pattern, string expected)
    {
        var names = new BakedNames(pattern, NameDictionary.Standard);
        Assert.Equal(expected, names.Of("Fern Leaf", "base_color", _ => true));
        // One that is there is never taken; the next fits the pattern too, or has no pattern to fit.
        HashSet<string> taken = [expected];
        var next = names.Of("Fern Leaf", "base_color", taken.Add);
        Assert.NotEqual(expected, next);
    }
}
