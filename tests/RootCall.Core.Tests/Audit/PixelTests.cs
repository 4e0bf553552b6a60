using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Shading;
using RootCall.Native;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit;

/// <summary>Statistics of images, from a sample of their pixels.</summary>
public sealed class PixelTests(DemoPlace demo) : IClassFixture<DemoPlace>
{
    private PixelStats Of(string image)
    {
        using var decoder = new ImageDecoder(Bounds.Default);
        return PixelStats.Of(decoder.Reduce(demo.At(image), 64).Sample);
    }

    [Fact]
    public void Normals_colours_and_stencils_are_told_apart()
    {
        var normal = Of("clean/lean_to/textures/bark_normal.png");
        Assert.True(normal.LooksLikeNormals);
        Assert.False(Of("clean/lean_to/textures/bark_basecolor.png").LooksLikeNormals);
        Assert.Equal(1, Of("clean/lean_to/textures/bark_roughness.png").Grey);
        Assert.True(Of("clean/lean_to/textures/fern_opacity.png").Channel(Channels.R)!.IsTwoValued);
        var leaf = Of("clean/brass_gardener/textures/tin_leaf_basecolor.png");
        Assert.Equal((0, 1), (leaf.Channel(Channels.A)!.Min, leaf.Channel(Channels.A)!.Max));
        Assert.Null(normal.Channel(Channels.A));
    }

    [Fact]
    public void Numbers_are_those_of_the_values()
    {
        // 0, 0.25, 0.5, 0.75 and one that is no number.
        var stats = PixelStats.Of(new(5, 1, 1, [0, 0.25f, 0.5f, 0.75f, float.NaN])).Channels[0];
        Assert.Equal((0, 0.375, 0.75), (stats.Min, stats.Mean, stats.Max));
        Assert.Equal(Math.Sqrt(5.0 / 64), stats.Deviation, 6);
        Assert.Equal(4, stats.Histogram.Sum());
        var flat = PixelStats.Of(new(2, 1, 3, [0.5f, 0.5f, 1, 0.5f, 0.5f, 1]));
        Assert.Equal((0, 1), (flat.Grey, flat.UnitLength));
        Assert.True(flat.Channels[0].IsConstant);
    }
}
