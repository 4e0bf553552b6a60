using System.CommandLine;
using System.Diagnostics;
using RootCall.Cli.Output;
using RootCall.Core.Files;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Viewing;

namespace RootCall.Cli.Verbs;

/// <summary><c>render</c>: a swatch of a material, as a PNG.</summary>
internal static class RenderVerb
{
    private const int MostSide = 2048,
        MostSamples = 65_536,
        Fine = 128;

    /// <summary>Textures that one call keeps.</summary>
    private const long Bound = 1L << 30;

    public static Command Command()
    {
        var (scene, roots, format, written) = (
            SharedOptions.Scene(),
            SharedOptions.Roots(),
            SharedOptions.Format(),
            SharedOptions.Out("The PNG to write.")
        );
        var material = new Option<string>("--material") { Description = "The material to show, by its name or id.", Required = true };
        var light = new Option<SwatchLight>("--light") { Description = "studio or dusk.", DefaultValueFactory = _ => SwatchLight.Studio };
        var side = new Option<int>("--size")
        {
            Description = $"Pixels of the square picture, up to {MostSide}.",
            DefaultValueFactory = _ => 256,
        };
        var samples = new Option<int>("--samples") { Description = "Samples for each pixel.", DefaultValueFactory = _ => Fine };
        var command = new Command("render", "Draws a material on a sphere.")
        {
            scene,
            roots,
            material,
            light,
            side,
            samples,
            written,
            format,
        };
        command.SetAction(call =>
        {
            var (size, count) = (call.GetValue(side), call.GetValue(samples));
            if (size is < 8 or > MostSide)
                throw new CannotUseException($"A picture has 8 to {MostSide} pixels a side, not {size}.");
            if (count is < 1 or > MostSamples)
                throw new CannotUseException($"A pixel takes 1 to {MostSamples} samples, not {count}.");
            var clock = Stopwatch.StartNew();
            using var opened = OpenedScene.Open(call.GetValue(scene)!, call.GetValue(roots)!);
            var name = call.GetValue(material)!;
            var found = opened.Report.Scene.Called(name) ?? throw new CannotUseException($"The scene has no material “{name}”.");
            using var moment = Folders.Temporary();
            var cache = new TextureCache(opened.Decoder, Bound, Math.Max(512, size * 2));
            var order = SwatchOrder.Of(found, opened.Report, call.GetValue(light), size);
            var made = Swatch.Of(
                order,
                cache,
                moment.Path,
                (count + SphereSwatch.Paths - 1) / SphereSwatch.Paths,
                Environment.ProcessorCount,
                Timeout.InfiniteTimeSpan,
                CancellationToken.None
            ) ?? throw new CannotUseException($"“{name}” has no surface whose shading model is evaluated here.");
            var path = Path.GetFullPath(call.GetValue(written)!);
            WholeOrNothing.File(path, to => to.Write(made.Png()));
            if (call.GetValue(format) == "json")
                Print.Json(new(path, size, size, clock.ElapsedMilliseconds, made.Told), OutputContext.Default.RenderJson);
            else
            {
                Console.WriteLine($"{path}: {size} x {size} px, {clock.ElapsedMilliseconds} ms");
                foreach (var sentence in made.Told)
                    Console.WriteLine(sentence);
            }

            return made.Told.IsEmpty ? 0 : 1;
        });
        return command;
    }
}
