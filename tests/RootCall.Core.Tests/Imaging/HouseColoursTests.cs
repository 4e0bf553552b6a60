using System.Globalization;
using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Colours;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Shading;
using RootCall.Native;
using RootCall.Testing;

namespace RootCall.Core.Tests.Imaging;

/// <summary>Configs of OpenColorIO: what they call spaces, how images are read and pictures are shown by them.</summary>
public sealed class HouseColoursTests : IDisposable
{
    private readonly Place place = new();
    private readonly ColourEngine engine = new(Bounds.Default);

    public void Dispose()
    {
        engine.Dispose();
        place.Dispose();
    }

    /// <summary>Its working space is ACEScg; a camera's log curve, and a view that is darker by a stop than IEC 61966-2-1.</summary>
    private const string Config = """
        ocio_profile_version: 2
        search_path: luts
        roles:
          scene_linear: ACEScg
          default: ACES2065-1
          aces_interchange: ACES2065-1
        file_rules:
          - !<Rule> {name: Default, colorspace: default}
        displays:
          Monitor:
            - !<View> {name: Plain, colorspace: Screen}
            - !<View> {name: Darker, colorspace: Dark screen}
        active_displays: []
        active_views: []
        colorspaces:
          - !<ColorSpace>
            name: ACES2065-1
            aliases: [aces2065_1]
          - !<ColorSpace>
            name: ACEScg
            to_scene_reference: !<BuiltinTransform> {style: ACEScg_to_ACES2065-1}
          - !<ColorSpace>
            name: Orchard log
            aliases: [orchard_log]
            to_scene_reference: !<GroupTransform>
              children:
                - !<LogTransform> {base: 2, direction: inverse}
                - !<BuiltinTransform> {style: ACEScg_to_ACES2065-1}
          - !<ColorSpace>
            name: Screen
            from_scene_reference: !<GroupTransform>
              children:
                - !<BuiltinTransform> {style: "UTILITY - ACES-AP0_to_CIE-XYZ-D65_BFD"}
                - !<MatrixTransform>
                  matrix: [3.2409699419, -1.5373831776, -0.4986107603, 0, -0.9692436363, 1.8759675015, 0.0415550574, 0,
                           0.0556300797, -0.2039769589, 1.0569715142, 0, 0, 0, 0, 1]
                - !<ExponentWithLinearTransform> {gamma: [2.4, 2.4, 2.4, 1], offset: [0.055, 0.055, 0.055, 0], direction: inverse}
          - !<ColorSpace>
            name: Dark screen
            from_scene_reference: !<GroupTransform>
              children:
                - !<MatrixTransform> {matrix: [0.5, 0, 0, 0, 0, 0.5, 0, 0, 0, 0, 0.5, 0, 0, 0, 0, 1]}
                - !<ColorSpaceTransform> {src: ACES2065-1, dst: Screen}
        """;

    private HouseColours House(string view = "", string? config = null) =>
        new(engine, place.Put("house.ocio", config ?? Config), view, default);

    [Fact]
    public void A_config_is_known_by_its_names_aliases_and_roles_and_its_views()
    {
        var house = House();
        Assert.Equal(["Monitor/Plain", "Monitor/Darker"], house.Config.Views.Select(v => v.ToString()));
        Assert.Equal("Orchard log", house.Known("ORCHARD_LOG"));
        Assert.Equal("ACEScg", house.Known("scene_linear"));
        Assert.Null(house.Known("lin_rec709"));
        Assert.Null(house.Told);
        var none = Assert.Throws<CannotUseException>(() => House("Monitor/Brighter"));
        Assert.Equal("“house.ocio” has no view “Monitor/Brighter”; it has “Monitor/Plain”, “Monitor/Darker”.", none.Message);
    }

    /// <summary>
    /// Linear light with the primaries of Rec. 709 goes to ACES2065-1 here, and from there to the screen by the library: it comes out
    /// as IEC 61966-2-1 says, so both agree on what lies between (SMPTE ST 2065-1, ITU-R BT.709-6).
    /// </summary>
    [Fact]
    public void A_plain_view_is_the_curve_of_the_standard_and_another_one_is_what_it_says()
    {
        Vector3[] linear = [Vector3.One, new(0.18f), new(0.9f, 0.05f, 0.3f), new(0.001f, 0.5f, 0.0f), new(4)];
        float Curve(float v, float times) => (float)SrgbCurve.ToEncoded(Math.Clamp(v * times, 0, 1));
        foreach (var (view, times) in new[] { (string.Empty, 1f), ("Monitor/Darker", 0.5f) })
        {
            var shown = House(view).Shown(linear, default);
            for (var i = 0; i < linear.Length; i++)
            for (var c = 0; c < 3; c++)
                Assert.Equal(Curve(linear[i][c], times), shown[i][c], 2e-3f);
        }
    }

    /// <summary>ACEScg to Rec. 709, as published matrices say, and a curve of which the inverse is known.</summary>
    [Fact]
    public void Spaces_that_only_their_names_tell_become_linear_light()
    {
        float[] rgb = [0.4f, 0.3f, 0.2f, -1, -2, -3];
        var house = House();
        house.ToLinear("ACEScg", rgb.AsSpan(0, 3), default);
        house.ToLinear("Orchard log", rgb.AsSpan(3), default);
        void Is(Vector3 acesCg, ReadOnlySpan<float> linear)
        {
            // ACES, TB-2014-004 and S-2014-004: the product of its matrices with Bradford's adaptation.
            float[] wanted =
            [
                Vector3.Dot(new(1.70505f, -0.62179f, -0.08326f), acesCg),
                Vector3.Dot(new(-0.13026f, 1.14080f, -0.01055f), acesCg),
                Vector3.Dot(new(-0.02400f, -0.12897f, 1.15297f), acesCg),
            ];
            for (var c = 0; c < 3; c++)
                Assert.Equal(wanted[c], linear[c], 2e-3f);
        }

        Is(new(0.4f, 0.3f, 0.2f), rgb);
        Is(new(0.5f, 0.25f, 0.125f), rgb.AsSpan(3));
    }

    /// <summary>The same image read here and converted by the library's own program.</summary>
    [Fact]
    public void An_image_in_a_space_of_the_house_is_read_by_its_config()
    {
        var house = House();
        Tool.Run(
            "oiiotool",
            ["--pattern", "fill:topleft=0.1,0.5,0.9:bottomright=0.9,0.2,0.4", "64x64", "3", "-d", "float", "-o", place.At("a.exr")]
        );
        var colours = new[] { "--colorconfig", house.Config.Path, place.At("a.exr"), "--colorconvert", "Orchard log", "ACES2065-1" };
        Assert.Equal(0, Tool.Run("oiiotool", [.. colours, "-d", "float", "-o", place.At("b.exr")]).Status);
        var told = Tool.Run("oiiotool", ["--stats", place.At("b.exr")]);
        using var decoder = new ImageDecoder(Bounds.Default);
        var cache = new TextureCache(decoder, 1 << 20, 64, house);
        var key = new TextureCache.Key(place.At("a.exr"), string.Empty, 0, default, ColourSpace.Srgb, "Orchard log");
        var pixels = cache.Of(key, place.At("a.exr"), default)!.Largest.Pixels.ToArray();
        var mean = pixels.Aggregate(Vector4.Zero, (s, p) => s + p) / pixels.Length;
        var wanted = told
            .Output.Split('\n')
            .First(l => l.Contains("Stats Avg", StringComparison.Ordinal))
            .Split(':')[1]
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Take(3)
            .Select(n => float.Parse(n, CultureInfo.InvariantCulture))
            .ToArray();
        var back = Vector3.Transform(mean.AsVector3(), Primaries.Rec709.To(Primaries.Aces));
        for (var c = 0; c < 3; c++)
            Assert.Equal(wanted[c], back[c], 1e-3f);
        Assert.Equal(1, mean.W);
    }

    [Theory]
    [InlineData("not a config", "“house.ocio” is no config that can be read")]
    [InlineData("ocio_profile_version: 2\nroles: {}\ndisplays: {}\ncolorspaces: []\n", "“house.ocio” ")]
    public void What_is_no_config_is_told_and_pictures_are_made_without_it(string config, string why)
    {
        var chosen = ChosenColours.Of(new(place.Put("house.ocio", config), string.Empty), () => engine);
        Assert.Null(chosen.House);
        Assert.StartsWith(why, chosen.Told, StringComparison.Ordinal);
        Assert.EndsWith("Pictures are made without a colour config.", chosen.Told, StringComparison.Ordinal);
        Assert.Contains(
            "not there",
            ChosenColours.Of(new(place.At("gone.ocio"), string.Empty), () => engine).Told,
            StringComparison.Ordinal
        );
        // The engine answers on.
        Assert.NotNull(House().Known("ACEScg"));
    }
}
