using RootCall.Core.Audit;
using RootCall.Core.Crossing;
using RootCall.Core.Crossing.Fitting;
using RootCall.Core.Edits;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Scenes;
using RootCall.Demo.Looks;

namespace RootCall.Core.Tests.Crossing;

/// <summary>Numbers that come nearer than the formulas, and where they are kept.</summary>
public sealed class FitTests
{
    private sealed class None : ITextureSource
    {
        public ITexture? Find(ImageUse use) => null;
    }

    [Fact]
    public void A_direct_search_finds_what_is_least_within_the_cube_or_at_its_side()
    {
        // A curved valley whose floor is nearly flat, as the literature tests searches by; its least value is 0 at (0.5, 0.25).
        double Valley(double[] x) => (100 * Math.Pow(x[1] - (x[0] * x[0]), 2)) + Math.Pow(0.5 - x[0], 2);
        var (at, value) = DirectSearch.Least(Valley, [0.9, 0.1], 0.25, 1e-4, 20_000);
        Assert.InRange(value, 0, 1e-4);
        Assert.InRange(at[0], 0.48, 0.52);
        var asked = 0;
        var (corner, _) = DirectSearch.Least(
            x =>
            {
                asked++;
                Assert.All(x, n => Assert.InRange(n, 0, 1));
                return x[0] - x[1];
            },
            [0.5, 0.5],
            0.3,
            0.01,
            500
        );
        Assert.Equal([0, 1], corner);
        Assert.InRange(asked, 1, 500);
    }

    [Fact]
    public void A_fit_comes_nearer_says_the_same_twice_and_leaves_what_an_image_says()
    {
        var fidelity = new Fidelity(SwatchLight.Studio.Map(), 24, 16);
        double Apart(ShaderGraph from, ShaderGraph to) => fidelity.Between(from, to, new None(), CancellationToken.None)!.Mean;
        // The cloth that the formulas move farthest.
        var (standard, crossed) = HundredLooks
            .All.Where(l => l.Kind == "cloth")
            .Select(l => Crossings.Of(l.Graph, "standard-surface")!.Graph)
            .Select(l => (l, Crossings.Of(l, "gltf-metallic-roughness")!))
            .MaxBy(c => Apart(c.l, c.Item2.Graph));
        EnvironmentMap[] lights = [SwatchLight.Studio.Map()];
        var set = BestFit.Of(standard, crossed, lights, new None(), CancellationToken.None);
        Assert.True(BestFit.Wins(Apart(standard, crossed.With(set).Graph), Apart(standard, crossed.Graph)));
        var again = BestFit.Of(standard, crossed, lights, new None(), CancellationToken.None);
        Assert.Equal(set.Select(s => $"{s.Input}={s.Value}"), again.Select(s => $"{s.Input}={s.Value}"));

        var surface = crossed.Graph.SurfaceNode!;
        var fed = surface.Input("baseColor")! with { From = new Connection("image", "out"), Value = null };
        var image = new ShaderNode("image", "image", []) { Image = new(new(ReferenceKind.Image, "s.gltf", "weave.png")) };
        var woven = crossed with
        {
            Graph = crossed.Graph with
            {
                Nodes =
                [
                    .. crossed.Graph.Nodes.Replace(
                        surface,
                        surface with
                        {
                            Inputs = surface.Inputs.Replace(surface.Input("baseColor")!, fed),
                        }
                    ),
                    image,
                ],
            },
        };
        Assert.DoesNotContain(BestFit.Of(standard, woven, lights, new None(), CancellationToken.None), s => s.Input == "baseColor");
    }

    [Fact]
    public void What_is_said_of_a_crossing_is_recorded_in_a_recipe_and_found_again()
    {
        SetInput Sheen(double n) => new("Ps", ShaderValue.Of(n));
        var edits = new[] { "apron_linen", "apron_wool" }.Select(m => (Edit)new CrossMaterial(m, "mtl-pbr", m + "_x", [Sheen(0.25)]));
        var entry = LedgerEntry.ByHand("Carry 2 materials", [.. edits], DateTimeOffset.UnixEpoch);
        var read = Recipe.Read(Recipe.Record("Aprons", [entry]).Write(), "aprons.json");
        Assert.Equal(Sheen(0.25), Assert.Single(read.Crossed("mtl-pbr", "apron_felt")));
        Assert.Equal("In Wavefront MTL with physically based statements: Ps to 0.25", Assert.Single(read.Steps).Describe());
        Assert.Empty(read.Crossed("mtl-pbr", "kettle"));
        Assert.Empty(read.Crossed("open-pbr", "apron_felt"));
    }
}
