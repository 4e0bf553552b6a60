using System.Text.Json;
using RootCall.Core.Shading;

namespace RootCall.Core.Tests.Shading;

/// <summary>The words that files, JSON and people use for roles, channels, spaces and types.</summary>
public sealed class WordTests
{
    [Fact]
    public void Every_role_and_every_choice_of_channels_has_a_word_of_its_own_that_reads_back()
    {
        var roles = Enum.GetValues<Role>();
        Assert.Equal(roles.Length, roles.Select(r => r.Word()).Distinct().Count());
        Assert.All(roles, r => Assert.Equal(r, Roles.Of(r.Word())));
        Assert.Null(Roles.Of("haze"));
        var channels = Enum.GetValues<Channels>();
        Assert.Equal(channels.Length, channels.Select(c => c.Word()).Distinct().Count());
        Assert.All(channels, c => Assert.Equal(c, ChannelWords.Of(c.Word())));
        Assert.All(channels, c => Assert.Equal(c, JsonSerializer.Deserialize<Channels>(JsonSerializer.Serialize(c))));
        Assert.Null(ChannelWords.Of("q"));
        Assert.Throws<JsonException>(() => JsonSerializer.Deserialize<Channels>("\"q\""));
    }

    [Fact]
    public void A_node_that_picks_a_channel_counts_from_red()
    {
        Assert.Equal(
            [Channels.R, Channels.G, Channels.B, Channels.A, null, null, null],
            new double[] { 0, 1, 2, 3, 4, -1, 0.5 }.Select(ChannelWords.At)
        );
        Assert.All(Enumerable.Range(0, 4), i => Assert.Equal(i, ChannelWords.At(i)!.Value.Place()));
        Assert.All([Channels.Rgb, Channels.Rgba, Channels.Rg, Channels.Luminance, Channels.Depth], c => Assert.Null(c.Place()));
        Assert.Equal([true, false, true], new[] { Channels.A, Channels.Rgba, Channels.Luminance }.Select(c => c.IsOne()));
    }

    [Theory]
    [InlineData("srgb_texture", ColourSpace.Srgb)] // MaterialX 1.39, "Color Spaces in MaterialX"
    [InlineData("lin_rec709", ColourSpace.Linear)]
    [InlineData("sRGB", ColourSpace.Srgb)] // UsdPreviewSurface Proposal 2.6, sourceColorSpace
    [InlineData("raw", ColourSpace.Data)]
    [InlineData("auto", ColourSpace.Auto)]
    [InlineData("", ColourSpace.Unsaid)]
    [InlineData("mauve", ColourSpace.Other)]
    public void A_declared_space_is_the_one_that_the_standard_means(string declared, ColourSpace space) =>
        Assert.Equal(space, ColourSpaces.Of(declared));

    [Fact]
    public void A_type_keeps_the_word_of_its_file_and_knows_its_numbers()
    {
        var odd = InputType.Of("geomname");
        Assert.Equal(("geomname", 0, false), (odd.Word, odd.Numbers, odd.TakesImage));
        Assert.False(default(InputType).IsSaid);
        Assert.Equal(default, InputType.Of(string.Empty));
        Assert.Equal("\"vector3\"", JsonSerializer.Serialize(InputType.Vector3));
        Assert.Equal(InputType.Color4, JsonSerializer.Deserialize<InputType>("\"color4\""));
        Assert.Equal(
            [InputType.Float, InputType.Vector2, InputType.Color3, InputType.Color4],
            Enumerable.Range(1, 4).Select(InputType.OfNumbers)
        );
        Assert.False(InputType.Integer.TakesImage);
    }

    /// <summary>
    /// Defaults come from the published specification of each model; those of MaterialX are checked against its library in
    /// ModelTests.
    /// </summary>
    [Fact]
    public void Types_have_as_many_numbers_as_the_defaults_of_the_models()
    {
        var checkedInputs = 0;
        foreach (var model in ShadingModels.All)
        foreach (var input in model.Inputs.Where(i => i.Default.Length > 0 && i.Type != InputType.Boolean))
        {
            Assert.True(input.Type.Numbers == input.Default.Length, $"{model.Id}.{input.Name} is a {input.Type.Word}");
            checkedInputs++;
        }

        Assert.True(checkedInputs > 150, $"only {checkedInputs} inputs have a default");
    }
}
