using System.Globalization;
using System.Numerics;
using System.Text;
using RootCall.Core.Crossing;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
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

    /// <param name="said">Told which row is done.</param>
    public static string Text(Action<string> said)
    {
        var fidelity = new Fidelity(Studio.Light(), Side, Samples);
        var page = new StringBuilder();
        Vector3[] Seen(ShaderGraph look) => fidelity.Picture(look, new NoImages(), CancellationToken.None)!;
        var kinds = HundredLooks.All.Select(l => l.Kind).Distinct().ToList();
        page.Append(
            CultureInfo.InvariantCulture,
            $"""
            # Crossings

            How far looks move from one shading model to another: {HundredLooks.All.Length} materials, each first said in the model of the
            row, carried to the model of the column by formula, and drawn in both, by each model's own equations, under the studio. Numbers
            are ΔE (CIEDE2000, D65) over a sphere of {Side} pixels: the median of all, and in brackets the worst, by their means. Two
            pictures of one look whose light is picked otherwise differ by about 0.3 here; where a look is half there, by more.

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
                .Select(o => (o.Kind, o.Graph, Picture: Seen(o.Graph)))
                .ToList();
            page.Append(CultureInfo.InvariantCulture, $"| {from} |");
            worst.Append(CultureInfo.InvariantCulture, $"| {from} |");
            var by = kinds.ToDictionary(k => k, _ => 0.0);
            foreach (var to in Crossings.Models)
            {
                var moved = own.Select(o => (o.Kind, fidelity.Between(o.Picture, Seen(Crossings.Of(o.Graph, to)!.Graph)).Mean)).ToList();
                var sorted = moved.Select(m => m.Mean).Order().ToList();
                page.Append(CultureInfo.InvariantCulture, $" {sorted[sorted.Count / 2]:0.0} ({sorted[^1]:0}) |");
                if (IsPhysical(to))
                    foreach (var (kind, mean) in moved)
                        by[kind] = Math.Max(by[kind], mean);
            }

            page.Append('\n');
            foreach (var kind in kinds)
                worst.Append(CultureInfo.InvariantCulture, $" {by[kind]:0.0} |");
            worst.Append('\n');
            said(from);
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
