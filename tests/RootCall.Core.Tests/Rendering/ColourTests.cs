using System.Globalization;
using System.Numerics;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Rendering;

/// <summary>Colours and their differences, beside the tables of the standards.</summary>
public sealed class ColourTests
{
    [Fact]
    public void Differences_are_those_of_the_34_published_pairs()
    {
        var rows = File.ReadLines(Path.Combine(Tool.Home, "tests/RootCall.Core.Tests/Rendering/ciede2000.tsv"))
            .Where(l => l[0] != '#')
            .Select(l => l.Split('\t').Select(n => double.Parse(n, CultureInfo.InvariantCulture)).ToArray())
            .ToList();
        Assert.Equal(34, rows.Count);
        foreach (var r in rows)
        {
            var (a, b) = (new Lab(r[0], r[1], r[2]), new Lab(r[3], r[4], r[5]));
            Assert.Equal(r[6], Ciede2000.Difference(a, b), 4);
            Assert.Equal(r[6], Ciede2000.Difference(b, a), 4);
        }
    }

    /// <summary>IEC 61966-2-1, 5.2: both pieces meet at the break, and the curve is the same both ways.</summary>
    [Theory]
    [InlineData(0, 0)]
    [InlineData(0.04045, 0.0031308)]
    [InlineData(1, 1)]
    public void The_curve_goes_through_its_break_points(double encoded, double linear)
    {
        Assert.Equal(linear, SrgbCurve.ToLinear(encoded), 7);
        Assert.Equal(encoded, SrgbCurve.ToEncoded(linear), 5);
        for (var n = 0; n <= 255; n++)
            Assert.Equal(n / 255.0, SrgbCurve.ToEncoded(SrgbCurve.ToLinear(n / 255.0)), 6);
    }

    [Fact]
    public void White_is_100_without_hue_and_a_middle_grey_is_49()
    {
        var white = Lab.Of(Vector3.One);
        Assert.Equal((100, 0, 0), (Math.Round(white.L, 2), Math.Round(white.A, 1), Math.Round(white.B, 1)));
        // 18 % of the light: L* = 116 * 0.18^(1/3) - 16 (CIE 15:2004).
        Assert.Equal(49.5, Lab.Of(new(0.18f)).L, 1);
    }
}
