using RootCall.Core.Crossing;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Scenes;
using RootCall.Demo.Looks;

namespace RootCall.Core.Tests.Crossing;

public sealed class AllByAllTests
{
    private sealed class NoImages : ITextureSource
    {
        public ITexture? Find(ImageUse use) => null;
    }

    [Fact]
    public void Print()
    {
        var fidelity = new Fidelity(Studio.Light(), 24, 3);
        var looks = HundredLooks.All;
        Console.WriteLine($"{looks.Length}");
        foreach (var from in Crossings.Models)
        {
            var own = looks.Select(l => (l.Kind, Graph: Crossings.Of(l.Graph, from)!.Graph)).ToList();
            foreach (var to in Crossings.Models)
            {
                var all = own.Select(o =>
                        (o.Kind, D: fidelity.Between(o.Graph, Crossings.Of(o.Graph, to)!.Graph, new NoImages(), default)!)
                    )
                    .ToList();
                var by = string.Join(" ", all.GroupBy(a => a.Kind).Select(g => $"{g.Key}:{g.Max(x => x.D.Mean):0.0}"));
                var sorted = all.Select(a => a.D.Mean).Order().ToList();
                Console.WriteLine($"{from, -26}{to, -26} median {sorted[sorted.Count / 2]:0.00} worst {sorted[^1]:0.0}  {by}");
            }
        }
    }
}
