using System.CommandLine;
using System.Diagnostics;
using System.Globalization;
using System.Numerics;
using System.Runtime.InteropServices;
using RootCall.Cli.Output;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Colours;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Shapes;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Viewing;
using RootCall.Native;

namespace RootCall.Cli.Verbs;

/// <summary><c>render</c>: a frame of the scene; or a swatch of one of its materials.</summary>
internal static class RenderVerb
{
    private const int MostSide = 4096,
        MostSamples = 65_536,
        Fine = 128;

    /// <summary>Cells around that a light from a file has.</summary>
    private const int LightSide = 512;

    /// <summary>What is asked for.</summary>
    private sealed record Wish(int Width, int Height, int Samples, SwatchShape Shape, EnvironmentMap Light)
    {
        public bool HasOwnLights { get; init; }
    }

    public static Command Command()
    {
        var (scene, roots, format, written) = (
            SharedOptions.Scene(),
            SharedOptions.Roots(),
            SharedOptions.Format(),
            SharedOptions.Out("The picture to write: .png as a display shows it; .exr or .hdr with its linear values.")
        );
        var material = new Option<string?>("--material") { Description = "A material to show, by its name or id, in place of the scene." };
        var shape = new Option<SwatchShape>("--shape") { Description = "What a material is shown on: sphere, slab or drape." };
        var light = new Option<string>("--light")
        {
            Description = "studio, dusk, scene for the scene's own lights, or an image file in longitude and latitude.",
            DefaultValueFactory = _ => "studio",
        };
        var camera = new Option<string?>("--camera")
        {
            Description = "A camera of the scene; without it the first, or one that frames it.",
        };
        var sky = new Option<bool>("--sky") { Description = "Behind the scene, show the light itself in place of the grey field." };
        var ocio = new Option<string?>("--ocio")
        {
            Description = "A config of OpenColorIO, by which images are read and pictures are shown.",
        };
        var view = new Option<string?>("--view") { Description = "One of its views, as display/view; without it the config's own choice." };
        var size = new Option<string?>("--size") { Description = $"Pixels, WxH or one number for a square, up to {MostSide}." };
        var samples = new Option<int>("--samples") { Description = "Samples for each pixel.", DefaultValueFactory = _ => Fine };
        var command = new Command("render", "Draws the scene, or a material of it.")
        {
            scene,
            roots,
            material,
            shape,
            light,
            camera,
            sky,
            ocio,
            view,
            size,
            samples,
            written,
            format,
        };
        command.SetAction(call =>
        {
            var name = call.GetValue(material);
            var (width, height) = Size(call.GetValue(size) ?? (name is null ? "960x540" : "256"));
            if (name is not null && width != height)
                throw new CannotUseException($"A material's picture is square, not {width} x {height}.");
            var count = call.GetValue(samples);
            if (count is < 1 or > MostSamples)
                throw new CannotUseException($"A pixel takes 1 to {MostSamples} samples, not {count}.");
            var path = Path.GetFullPath(call.GetValue(written)!);
            var kind = Path.GetExtension(path).ToLowerInvariant() switch
            {
                ".png" => PictureKind.Png,
                ".exr" => PictureKind.Exr,
                ".hdr" => PictureKind.Hdr,
                var other => throw new CannotUseException($"A picture is written as .png, .exr or .hdr, not as “{other}”."),
            };
            var clock = Stopwatch.StartNew();
            using var opened = OpenedScene.Open(call.GetValue(scene)!, call.GetValue(roots)!);
            using var works = new FrameWorks(opened.Decoder, call.GetValue(ocio), call.GetValue(view));
            var lit = call.GetValue(light)!;
            var isOwn = lit.Equals(nameof(FrameLighting.Scene), StringComparison.OrdinalIgnoreCase);
            if (isOwn && name is not null)
                throw new CannotUseException("A material is shown under studio, dusk or an image file, not under the scene's own lights.");
            var wish = new Wish(width, height, count, call.GetValue(shape), Light(isOwn ? "studio" : lit, opened.Decoder))
            {
                HasOwnLights = isOwn,
            };
            var (bytes, told) = name is null
                ? Scene(opened, wish, call.GetValue(camera), call.GetValue(sky), works.Tools, kind)
                : Material(opened, name, wish, works.Tools, kind);
            if (works.Tools.House?.Told is { } guessed)
                told = [.. told, guessed];
            WholeOrNothing.File(path, to => to.Write(bytes));
            if (call.GetValue(format) == "json")
                Print.Json(new(path, width, height, clock.ElapsedMilliseconds, told), OutputContext.Default.RenderJson);
            else
            {
                Console.WriteLine($"{path}: {width} x {height} px, {clock.ElapsedMilliseconds} ms");
                foreach (var sentence in told)
                    Console.WriteLine(sentence);
            }

            return told.Count == 0 ? 0 : 1;
        });
        return command;
    }

    private static (byte[] Bytes, IReadOnlyList<string> Told) Scene(
        OpenedScene opened,
        Wish wish,
        string? camera,
        bool sky,
        FrameTools tools,
        PictureKind kind
    )
    {
        var made = TestFrame.Of(
            new(opened.Report, opened.Session.Edited.Basis, opened.Session.Edited.Reading),
            View(wish) with
            {
                Camera = camera,
                ShowsLight = sky,
            },
            tools,
            CancellationToken.None
        );
        return (Encoded(opened.Decoder, kind, made.Width, made.Height, made.Pixels.AsSpan(), tools.House), made.Told);
    }

    private static (byte[] Bytes, IReadOnlyList<string> Told) Material(
        OpenedScene opened,
        string name,
        Wish wish,
        FrameTools tools,
        PictureKind kind
    )
    {
        var found = opened.Report.Scene.Called(name) ?? throw new CannotUseException($"The scene has no material “{name}”.");
        var cache = new TextureCache(opened.Decoder, FrameWorks.TextureBytes, Math.Max(512, wish.Width * 2), tools.House);
        var order = SwatchOrder.Of(found, opened.Report, SwatchLight.Studio, wish.Width) with { Shape = wish.Shape };
        var made =
            wish.Shape == SwatchShape.Sphere
                ? Swatch.Of(
                    order,
                    cache,
                    tools.Moment,
                    (wish.Samples + SphereSwatch.Paths - 1) / SphereSwatch.Paths,
                    Environment.ProcessorCount,
                    Timeout.InfiniteTimeSpan,
                    CancellationToken.None,
                    wish.Light
                )
                : ShapedSwatch.Of(order, View(wish), cache, tools.Tracers, tools.Moment, CancellationToken.None);
        if (made is null)
            throw new CannotUseException($"“{name}” has no surface whose shading model is evaluated here.");
        return (Encoded(opened.Decoder, kind, made.Side, made.Side, made.Pixels.AsSpan(), tools.House), made.Told);
    }

    private enum PictureKind
    {
        Png,
        Exr,
        Hdr,
    }

    private static byte[] Encoded(
        ImageDecoder encoder,
        PictureKind kind,
        int width,
        int height,
        ReadOnlySpan<Vector3> pixels,
        HouseColours? house
    )
    {
        try
        {
            return kind switch
            {
                PictureKind.Png => DisplayPicture.Png(width, height, pixels, house),
                _ => encoder.Encode(
                    kind == PictureKind.Exr ? LinearFile.Exr : LinearFile.Hdr,
                    width,
                    height,
                    MemoryMarshal.Cast<Vector3, float>(pixels)
                ),
            };
        }
        catch (UndecodedException e)
        {
            throw new CannotUseException($"The picture {e.Undecoded.Reason}.", e);
        }
    }

    private static FrameView View(Wish wish) =>
        new(wish.Width, wish.Height, wish.Light, wish.Samples, Environment.ProcessorCount, Timeout.InfiniteTimeSpan)
        {
            HasOwnLights = wish.HasOwnLights,
        };

    private static EnvironmentMap Light(string name, IImageDecoder decoder)
    {
        if (Enum.TryParse<SwatchLight>(name, ignoreCase: true, out var light) && Enum.IsDefined(light))
            return light.Map();
        var path = Path.GetFullPath(name);
        if (!File.Exists(path))
            throw new CannotUseException($"“{name}” is no light: studio, dusk, scene, or a file that is there.");
        try
        {
            return EnvironmentMap.Of(decoder, path, LightSide, CancellationToken.None);
        }
        catch (UndecodedException e)
        {
            throw new CannotUseException($"“{Path.GetFileName(path)}” {e.Undecoded.Reason}.", e);
        }
    }

    private static (int Width, int Height) Size(string written)
    {
        var sides = written
            .ToLowerInvariant()
            .Split('x')
            .Select(s => int.TryParse(s, CultureInfo.InvariantCulture, out var n) ? n : 0)
            .ToList();
        if (sides.Count > 2 || sides.Exists(s => s is < 8 or > MostSide))
            throw new CannotUseException($"A picture has 8 to {MostSide} pixels a side, not “{written}”.");
        return (sides[0], sides[^1]);
    }
}
