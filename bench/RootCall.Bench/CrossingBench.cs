using System.Diagnostics;
using RootCall.Core.Crossing;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Scenes;
using RootCall.Demo.Looks;

namespace RootCall.Bench;

/// <summary>Materials carried to another shading model, without pictures, beside drawing one of them.</summary>
internal static class CrossingBench
{
    private const int Materials = 500;

    private sealed class NoImages : ITextureSource
    {
        public ITexture? Find(ImageUse use) => null;
    }

    public static void Run()
    {
        var looks = Enumerable
            .Range(0, Materials)
            .Select(i => HundredLooks.All[i % HundredLooks.All.Length].Graph)
            .Select(g => Crossings.Of(g, "gltf-metallic-roughness")!.Graph)
            .ToList();
        var clock = Stopwatch.StartNew();
        new Fidelity(Studio.Light(), 96, 6).Picture(looks[0], new NoImages(), default);
        clock.Restart();
        new Fidelity(Studio.Light(), 96, 6).Picture(looks[0], new NoImages(), default);
        var drawn = clock.Elapsed;
        foreach (var model in Crossings.Models)
        {
            clock.Restart();
            foreach (var look in looks)
                Crossings.Of(look, model);
            Console.WriteLine(
                $"{Materials} materials to {model}: {clock.Elapsed.TotalMilliseconds:0} ms (bar 2,000), "
                    + $"{clock.Elapsed / drawn:0.00} of drawing one swatch of 96 px"
            );
        }
    }
}
