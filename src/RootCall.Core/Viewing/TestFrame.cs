using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Geometry;
using RootCall.Core.Imaging.Colours;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Frames;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Rendering.Tracing;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Viewing;

/// <summary>What a test frame is made with.</summary>
/// <param name="Decoder">Of images; <paramref name="Meshes"/> unpacks compressed geometry.</param>
/// <param name="TextureBytes">That the textures of one frame take.</param>
/// <param name="Moment">A folder for images that have to be taken out of the scene before they are decoded.</param>
public sealed record FrameTools(IImageDecoder Decoder, IMeshDecoder? Meshes, IRayTracers Tracers, long TextureBytes, string Moment)
{
    /// <summary>By which images are read and frames are shown; null for none.</summary>
    public HouseColours? House { get; init; }
}

/// <summary>A scene that is drawn.</summary>
/// <param name="Report">The scene as it stands, and what answers it.</param>
/// <param name="Basis">The scene as its files say it; its geometry is read with <paramref name="Reading"/>.</param>
public sealed record DrawnScene(MusterReport Report, Scene Basis, ReadContext Reading);

/// <summary>How a scene is looked at.</summary>
/// <param name="Samples">Paths for each pixel.</param>
/// <param name="Most">A frame that is not done by then stays as it is then; infinite for one that may take what it takes.</param>
public sealed record FrameView(int Width, int Height, EnvironmentMap Light, int Samples, int Threads, TimeSpan Most)
{
    /// <summary>By name; null for the scene's first, or one that frames it where it has none.</summary>
    public string? Camera { get; init; }

    /// <summary>The scene's own lights take the place of that light; they are exposed so that white paper in them is as bright.</summary>
    public bool HasOwnLights { get; init; }

    /// <summary>Behind the scene stands the light itself, and not the field.</summary>
    public bool ShowsLight { get; init; }

    /// <summary>Told how many paths were followed for each pixel, with the picture as it stands then.</summary>
    public Action<int, Func<Vector3[]>>? Progress { get; init; }
}

/// <summary>A picture of a whole scene.</summary>
/// <param name="Pixels">Linear light, rows from the top.</param>
/// <param name="Camera">The scene's camera it was seen by; null for one that frames it.</param>
/// <param name="Samples">Paths that were followed for each pixel.</param>
/// <param name="Told">What it does not show, in sentences.</param>
public sealed record TestFrame(
    int Width,
    int Height,
    ImmutableArray<Vector3> Pixels,
    string? Camera,
    int Triangles,
    int Samples,
    ImmutableArray<string> Told
)
{
    /// <summary>Sentences that are told of one frame; a scene has thousands of materials.</summary>
    private const int MostTold = 40;

    /// <summary>Pixels along the longer side that an image has in a frame at most, and at least.</summary>
    private const int MostSide = 1024,
        LeastSide = 16;

    /// <exception cref="CannotUseException">It cannot be drawn; the sentence tells why.</exception>
    public static TestFrame Of(DrawnScene scene, FrameView view, FrameTools tools, CancellationToken stop)
    {
        var (report, basis, reading) = scene;
        var looks = new Looks(report, tools, stop);
        DrawnGeometry drawn;
        using (var source = SceneFormats.Of(basis.Path).Geometry(basis, reading, tools.Meshes))
            drawn = DrawnGeometry.Of(report.Scene, source, looks.IndexOf, looks.SetOf, reading.Bounds, stop);
        var aspect = (float)view.Width / view.Height;
        var chosen = Chosen(report.Scene, view.Camera);
        var camera = (chosen is null ? null : Seen(report.Scene, chosen, drawn, aspect))
            ?? FrameCamera.Around(drawn.Box.Min, drawn.Box.Max, aspect);
        using var tracer = drawn.Geometry.Traced(tools.Tracers, stop);
        var materials = looks.Ready();
        var own = view.HasOwnLights ? OwnLights.Of(report, drawn, tools, stop) : null;
        var light = own?.Light ?? new(view.Light, [], drawn.Geometry.Radius);
        var painter = new FramePainter(drawn.Geometry, materials, looks.Plain, camera, light, tracer, view.Width, view.Height)
        {
            ShowsLight = view.ShowsLight,
            Exposure = own is null ? 1 : OwnLights.Exposure(drawn.Geometry, camera, light, tracer, view, stop),
        };
        var (picture, done) = Painted.Of(painter, view, stop);
        var told = drawn.Told.Concat(own?.Told ?? []).Concat(looks.Told).ToList();
        if (done < view.Samples)
            told.Add($"It was stopped after {done} of {view.Samples} samples.");
        if (told.Count > MostTold)
            told = [.. told.Take(MostTold), Invariant($"{told.Count - MostTold:N0} more.")];
        return new(view.Width, view.Height, [.. picture], chosen?.Name, drawn.Geometry.Count, done, [.. told]);
    }

    /// <summary>How far it lies from another frame of the same size.</summary>
    public LookDifference Difference(TestFrame other) => LookDifference.Of(Pixels.AsSpan(), other.Pixels.AsSpan(), _ => true);

    /// <summary>Where it lies apart from that one, as a PNG.</summary>
    public byte[] DifferencePng(TestFrame other) =>
        DisplayPicture.EncodedPng(Width, Height, DifferencePicture.Of(Pixels.AsSpan(), other.Pixels.AsSpan()));

    public byte[] Png(HouseColours? house = null) => DisplayPicture.Png(Width, Height, Pixels.AsSpan(), house);

    private static SceneCamera? Chosen(Scene scene, string? name) =>
        name is null ? scene.Cameras.FirstOrDefault()
        : scene.Cameras.FirstOrDefault(c => c.Name == name) is { } found ? found
        : throw new CannotUseException(
            scene.Cameras.IsEmpty
                ? $"The scene has no camera “{name}”: it has none at all."
                : $"The scene has no camera “{name}”; it has {string.Join(", ", scene.Cameras.Take(8).Select(c => $"“{c.Name}”"))}."
        );

    /// <summary>A camera in the space that is drawn; null for one whose place is no place.</summary>
    private static FrameCamera? Seen(Scene scene, SceneCamera camera, DrawnGeometry drawn, float aspect)
    {
        var place = Transforms.Multiply(Transforms.Worlds(scene)[camera.Node], drawn.FromScene.AsSpan());
        Vector3 Apply(double x, double y, double z)
        {
            var (px, py, pz) = Transforms.Apply(place, x, y, z);
            return new((float)px, (float)py, (float)pz);
        }

        var at = Apply(0, 0, 0);
        Vector3 ahead = Vector3.Normalize(Apply(0, 0, -1) - at),
            right = Apply(1, 0, 0) - at;
        var up = Vector3.Normalize(Vector3.Cross(right, ahead));
        // A camera without an aspect, or with a narrower one, has its height; of a wider one all is shown, and more above and below.
        var half =
            (float)(camera.Half * Math.Max(1, (camera.Aspect ?? aspect) / aspect))
            * (camera.IsParallel ? (Apply(0, 1, 0) - at).Length() : 1);
        var isPlace = float.IsFinite(at.LengthSquared() + ahead.LengthSquared() + up.LengthSquared() + half) && half > 0;
        return isPlace ? new(at, ahead, up, half, camera.IsParallel) : null;
    }

    /// <summary>The materials of a scene that are worn by what is drawn, made ready one after the other.</summary>
    private sealed class Looks(MusterReport report, FrameTools tools, CancellationToken stop)
    {
        private readonly Dictionary<string, int> places = SceneIndex.Names(report.Scene.Materials);
        private readonly List<Material> worn = [];
        private readonly Dictionary<int, int> indices = [];
        private readonly SortedDictionary<string, List<string>> told = new(StringComparer.Ordinal);

        /// <summary>What wears no material, or one that is not evaluated.</summary>
        public ISurfaces Plain { get; } = new PlainSurfaces();

        public IEnumerable<string> Told =>
            told.Select(t =>
                t.Value.Count > 2 ? Invariant($"“{t.Value[0]}” and {t.Value.Count - 1:N0} others: {t.Key}") : $"{Names(t.Value)}: {t.Key}"
            );

        public int IndexOf(MeshPart part)
        {
            if (!places.TryGetValue(part.MaterialId.Length > 0 ? part.MaterialId : part.Material, out var place))
                return -1;
            if (!indices.TryGetValue(place, out var index))
            {
                indices[place] = index = worn.Count;
                worn.Add(report.Scene.Materials[place]);
            }

            return index;
        }

        /// <summary>The set that most of a material's images are read by.</summary>
        public string SetOf(int material) =>
            worn[material]
                .Graph.Nodes.Select(n => n.Image?.UvSet)
                .OfType<string>()
                .GroupBy(s => s, StringComparer.Ordinal)
                .OrderByDescending(g => g.Count())
                .FirstOrDefault()
                ?.Key
            ?? string.Empty;

        public IReadOnlyList<ISurfaces> Ready()
        {
            var references = new ReferencesByKey(report);
            var orders = worn.Select(m => SwatchOrder.Of(m, references, SwatchLight.Studio, 0)).ToList();
            var images = Math.Max(1, orders.SelectMany(o => o.Images).Select(i => i.Reference).Distinct().Count());
            // Each has the same share of what textures may take; a third of it is its smaller levels.
            var side = Math.Clamp((int)Math.Sqrt(tools.TextureBytes / images / 16 * 0.75), LeastSide, MostSide);
            var cache = new TextureCache(tools.Decoder, tools.TextureBytes, side, tools.House);
            return [.. orders.Select((o, i) => Ready(worn[i].Name, o, cache))];
        }

        private ISurfaces Ready(string name, SwatchOrder order, TextureCache cache)
        {
            stop.ThrowIfCancellationRequested();
            var textures = new OrderedTextures(order.Images, cache, tools.Moment, stop);
            if (MaterialProgram.Of(order.Graph, textures) is not { } program)
            {
                Tell(name, "It has no surface whose shading model is evaluated; it is plain grey.");
                return Plain;
            }

            foreach (var sentence in program.Told)
                Tell(name, sentence);
            if (textures.Missing.Count > 0)
                Tell(name, $"References that did not come: {string.Join(", ", textures.Missing)}.");
            if (order.Graph.Nodes.Select(n => n.Image?.UvSet).OfType<string>().Distinct().Count() > 1)
                Tell(name, "Its images are read by several UV sets; all are shown by the one that most of them read.");
            return program;
        }

        private void Tell(string name, string sentence)
        {
            if (!told.TryGetValue(sentence, out var names))
                told[sentence] = names = [];
            names.Add(name);
        }

        private static string Names(List<string> names) => string.Join(", ", names.Select(n => $"“{n}”"));
    }
}
