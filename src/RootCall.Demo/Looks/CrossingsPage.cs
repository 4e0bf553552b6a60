using System.Globalization;
using System.Numerics;
using System.Text;
using RootCall.Core.Crossing;
using RootCall.Core.Crossing.Fitting;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Scenes;

namespace RootCall.Demo.Looks;

/// <summary>The page that tells how far looks move between all models, measured.</summary>
public static class CrossingsPage
{
    /// <summary>Pixels of a picture's side, and places looked at in each pixel.</summary>
    private const int Side = 20,
        Samples = 16;

    private sealed class NoImages : ITextureSource
    {
        public ITexture? Find(ImageUse use) => null;
    }

    /// <param name="said">Told which of the crossings is done.</param>
    public static string Text(Action<string> said)
    {
        var fidelity = new Fidelity(Studio.Light(), Side, Samples);
        var page = new StringBuilder();
        var kinds = HundredLooks.All.Select(l => l.Kind).Distinct().ToList();
        page.Append(
            CultureInfo.InvariantCulture,
            $"""
            # Crossings

            How far looks move from one shading model to another: {HundredLooks.All.Length} materials, each first said in the model of the
            row, carried to the model of the column by formula, and drawn in both, by each model's own equations, under the studio. Numbers
            are ΔE (CIEDE2000, D65) over a sphere of {Side} pixels: the median of all, and in brackets the worst, by their means. Two
            pictures of one look whose light is picked otherwise differ by about 0.3 here; where a look is half there, by more.

            Behind the arrow stands the same with the best fit in place of the formula wherever it wins by {BestFit.LeastGain} or more: the
            numbers that the other model can say, moved by a direct search until spheres in the studio and under a small lamp are nearest.

            Where the worst is large, the other model lacks what the look is made of, and its rows say what is lost. Principled and the
            highlights of MTL and COLLADA mirror no surroundings, or give off no light; no formula can help there.

            | from \ to |{string.Concat(Crossings.Models.Select(m => $" {m} |"))}
            |---|{string.Concat(Crossings.Models.Select(_ => "---|"))}

            """
        );
        var worst = new StringBuilder();
        foreach (var from in Crossings.Models)
        {
            var own = HundredLooks
                .All.Select(l => (l.Kind, Crossings.Of(l.Graph, from)!.Graph))
                .Select(o => (o.Kind, o.Graph, Picture: Seen(fidelity, o.Graph)))
                .ToList();
            page.Append(CultureInfo.InvariantCulture, $"| {from} |");
            worst.Append(CultureInfo.InvariantCulture, $"| {from} |");
            var by = kinds.ToDictionary(k => k, _ => 0.0);
            foreach (var to in Crossings.Models)
            {
                var moved = own.AsParallel().AsOrdered().Select(o => (o.Kind, Moved: Moved(fidelity, o.Graph, o.Picture, to))).ToList();
                page.Append(
                    CultureInfo.InvariantCulture,
                    $" {Spread(moved.Select(m => m.Moved.Formula))} → {Spread(moved.Select(m => m.Moved.Fit))} |"
                );
                if (IsPhysical(to))
                    foreach (var (kind, (mean, _)) in moved)
                        by[kind] = Math.Max(by[kind], mean);
                said($"{from} {to}");
            }

            page.Append('\n');
            foreach (var kind in kinds)
                worst.Append(CultureInfo.InvariantCulture, $" {by[kind]:0.0} |");
            worst.Append('\n');
        }

        page.Append(
            CultureInfo.InvariantCulture,
            $"""

            ## By kind

            The worst of each kind, to glTF's metallic-roughness, OpenPBR and Standard Surface alone: the models that can say nearly all
            of it.

            | from |{string.Concat(kinds.Select(k => $" {k} |"))}
            |---|{string.Concat(kinds.Select(_ => "---|"))}
            {worst}
            ## Formulas

            Each is applied to numbers in doubles, and is a few nodes of MaterialX's standard library where something varies.


            """
        );
        foreach (var how in HundredLooks.All.SelectMany(l => Rows(l.Graph)).Distinct().Order(StringComparer.Ordinal))
            page.Append(CultureInfo.InvariantCulture, $"- {how}\n");
        return page.ToString();
    }

    /// <summary>Mean ΔE by formula, and with the best fit where it wins.</summary>
    private static (double Formula, double Fit) Moved(Fidelity fidelity, ShaderGraph look, Vector3[] picture, string to)
    {
        double Apart(ShaderGraph of) => fidelity.Between(picture, fidelity.Picture(of, new NoImages(), CancellationToken.None)!).Mean;
        var crossed = Crossings.Of(look, to)!;
        var formula = Apart(crossed.Graph);
        if (crossed.From == to || formula < Fidelity.LeastAsked)
            return (formula, formula);
        var set = BestFit.Of(look, crossed, Lights, new NoImages(), CancellationToken.None);
        var fit = set.IsEmpty ? formula : Apart(crossed.With(set).Graph);
        return (formula, BestFit.Wins(fit, formula) ? fit : formula);
    }

    private static Vector3[] Seen(Fidelity fidelity, ShaderGraph look) => fidelity.Picture(look, new NoImages(), CancellationToken.None)!;

    private static string Spread(IEnumerable<double> moved)
    {
        var sorted = moved.Order().ToList();
        return string.Create(CultureInfo.InvariantCulture, $"{sorted[sorted.Count / 2]:0.0} ({sorted[^1]:0})");
    }

    private static EnvironmentMap[] Lights => [SwatchLight.Studio.Map(), SwatchLight.Lamp.Map()];

    private static bool IsPhysical(string model) => model is "gltf-metallic-roughness" or "open-pbr" or "standard-surface";

    private static IEnumerable<string> Rows(ShaderGraph look) =>
        from model in Crossings.Models
        let own = Crossings.Of(look, model)!.Graph
        from to in Crossings.Models
        from row in Crossings.Of(own, to)!.Mappings
        where row.Kind != MappingKind.Lost && row.Detail.Length > 0
        from how in row.Detail.Split("; ")
        select how;
}
