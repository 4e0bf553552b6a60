using System.Numerics;
using RootCall.Core.Bench;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Viewing;

namespace RootCall.Core.Tests.Bench;

/// <summary>Looks in numbers, and the order in which neighbours look alike.</summary>
public sealed class LikenessTests
{
    private static Swatch Flat(Vector3 colour) => new(24, [.. Enumerable.Repeat(colour, 24 * 24)], []);

    /// <summary>Of two plain colours it is the ΔE of CIE 15:2004, 8.2.1: the length between both in CIELAB.</summary>
    [Theory]
    [InlineData(0.2f, 0.2f, 0.2f, 0.3f, 0.2f, 0.1f)]
    [InlineData(1f, 0f, 0f, 0f, 0f, 1f)]
    [InlineData(0.5f, 0.5f, 0.5f, 0.5f, 0.5f, 0.5f)]
    public void The_distance_of_plain_colours_is_their_delta_E(float r, float g, float b, float r2, float g2, float b2)
    {
        var (one, other) = (new Vector3(r, g, b), new Vector3(r2, g2, b2));
        var (x, y) = (Lab.Of(one), Lab.Of(other));
        var expected = Math.Sqrt(Math.Pow(x.L - y.L, 2) + Math.Pow(x.A - y.A, 2) + Math.Pow(x.B - y.B, 2));
        var (first, second) = (LookFeatures.Of(Flat(one)), LookFeatures.Of(Flat(other)));
        Assert.Equal(expected, first.Distance(second), 0.01);
        Assert.Equal(expected, LookFeatures.Read(first.Write())!.Distance(second), 0.01);
    }

    [Fact]
    public void What_is_no_look_in_numbers_is_told_by_null()
    {
        Assert.Null(LookFeatures.Read([]));
        Assert.Null(LookFeatures.Read([1, 2, 3]));
        Assert.Null(LookFeatures.Read(BitConverter.GetBytes(float.NaN)));
    }

    /// <summary>Reds, greens and greys in any order stand together; what is like none of them is told.</summary>
    [Fact]
    public void Neighbours_look_alike_and_a_stranger_stands_out()
    {
        Vector3[] colours =
        [
            .. Enumerable.Range(0, 8).Select(i => new Vector3(0.5f + (i * 0.01f), 0.05f, 0.05f)),
            .. Enumerable.Range(0, 8).Select(i => new Vector3(0.05f, 0.3f + (i * 0.01f), 0.05f)),
            .. Enumerable.Range(0, 8).Select(i => new Vector3(0.2f + (i * 0.01f))),
            new Vector3(0.9f, 0.1f, 0.9f),
        ];
        var mixed = Enumerable.Range(0, colours.Length).OrderBy(i => i * 7919 % 101).ToArray();
        var order = LikenessOrder.Of([.. mixed.Select(i => LookFeatures.Of(Flat(colours[i])))]);
        Assert.Equal(Enumerable.Range(0, colours.Length), order.Order.Order());
        var families = order.Order.Select(i => Math.Min(3, mixed[i] / 8)).ToList();
        var changes = families.Zip(families.Skip(1)).Count(p => p.First != p.Second);
        Assert.InRange(changes, 3, 4);
        Assert.Equal([24], order.Strangers.Select(i => mixed[i]));
    }

    [Fact]
    public void Nothing_and_one_have_an_order_too()
    {
        Assert.Empty(LikenessOrder.Of([]).Order);
        Assert.Equal(0, Assert.Single(LikenessOrder.Of([LookFeatures.Of(Flat(Vector3.One))]).Order));
    }

    [Fact]
    public void A_family_is_the_first_word_that_tells_something()
    {
        Assert.Equal(
            ["tin", "tin", "moss", "oak", "oak"],
            MaterialFamily.Of(["mat_tinLeaf", "mat_tin_curl", "mat_moss", "mat_OakBark", "mat_oak2"])
        );
        Assert.Equal(["brass", "brass"], MaterialFamily.Of(["brass_a", "brass_b"]));
        Assert.Equal(["苔", "---"], MaterialFamily.Of(["苔", "---"]));
    }

    // MaterialX 1.39: the names of node definitions in its standard library.
    [Theory]
    [InlineData("ND_multiply_color3FA", "multiply")]
    [InlineData("ND_separate3_color3", "channel")]
    [InlineData("normalmap", "normal map")]
    [InlineData("UsdUVTexture", "image")]
    [InlineData("UsdPrimvarReader_float2", "coordinates")]
    [InlineData("UsdTransform2d", "placement")]
    [InlineData("ND_colorcorrect_color3", "colour correction")]
    [InlineData("orchard_enamel", "orchard enamel")]
    public void A_node_is_called_by_what_it_does(string type, string word) => Assert.Equal(word, NodeWord.Of(type));
}
