using System.Collections.Immutable;
using System.Globalization;
using RootCall.Core.Crossing;
using RootCall.Core.Crossing.Baking;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Scenes;

namespace RootCall.Core.Viewing;

/// <summary>What a crossing of one material needs beyond its formulas.</summary>
/// <param name="Inputs">Those that read images which were made for them.</param>
/// <param name="Files">The reference of each such image, with its file.</param>
/// <param name="WhyNot">Why it cannot be said even so; null when it can.</param>
public sealed record BakedCrossing(
    ImmutableArray<BakedInput> Inputs,
    ImmutableArray<(ReferenceKey Key, string File)> Files,
    string? WhyNot
);

/// <summary>
/// Makes the images that materials of one scene need in another shading model. Each takes the size of the largest image that it is made
/// of, and its depth or more; what is made of the same is made once, and no name that is there is taken.
/// </summary>
/// <param name="textures">With images as large as <see cref="LargestSide"/>.</param>
/// <param name="folder">Where they are written.</param>
/// <param name="asked">How the format says looks that they are made for; null for that of the scene.</param>
public sealed class LookBaking(
    MusterReport report,
    TextureCache textures,
    IImageEncoder encoder,
    string moment,
    string folder,
    ILookMaker? asked = null
)
{
    /// <summary>Larger images are reduced to it.</summary>
    public const int LargestSide = 4096;

    /// <summary>Of what no image is behind.</summary>
    private const int PatternSide = 1024;

    private readonly Dictionary<string, string> made = new(StringComparer.Ordinal);
    private readonly HashSet<string> names = new(
        report.Scene.References.Select(r => Path.GetFileName(r.Key.Written)),
        StringComparer.OrdinalIgnoreCase
    );
    private readonly ReferencesByKey references = new(report);
    private readonly SceneDraft draft = new(report.Scene);
    private readonly ILookMaker? maker = asked ?? SceneFormats.Of(report.Scene.Path).Capabilities.Maker;

    /// <summary>File names of the images that were made so far.</summary>
    public IEnumerable<string> Names => made.Values.Select(Path.GetFileName).OfType<string>();

    /// <summary>How they are called.</summary>
    public BakedNames Called { get; init; } = BakedNames.Plain;

    /// <summary>Called with the name of each image before it is made.</summary>
    public Action<string>? Begun { get; init; }

    /// <exception cref="UndecodedException">An image that it needs does not decode.</exception>
    public BakedCrossing Bake(Material material, CrossedMaterial crossed, CancellationToken stop)
    {
        var needs = CrossedNeeds.Of(maker, draft, material, crossed);
        if (maker is null || needs.Images.IsEmpty || needs.WhyNot is not null)
            return new([], [], needs.WhyNot);
        var inputs = ImmutableArray.CreateBuilder<BakedInput>();
        var files = new Dictionary<string, string>(StringComparer.Ordinal);
        var order = SwatchOrder.Of(material with { Graph = crossed.Graph }, references, default, 0);
        foreach (var wanted in needs.Images)
        {
            var images = new OrderedTextures(order.Images, textures, moment, stop);
            var baker = new Baker(crossed.Graph, wanted.Bake, images);
            // A hatch, or a default in place of what is not known, is not to be taken for the look.
            if ((Lacks(images) ?? baker.Told.FirstOrDefault()) is { } why)
                return new([], [], why);
            var file = File(material, crossed.Graph, wanted.Bake, baker, stop);
            var key = new ReferenceKey(ReferenceKind.Image, Path.GetFileName(report.Scene.Path), $"textures/{Path.GetFileName(file)}");
            foreach (var (input, channels) in wanted.Feeds)
            {
                inputs.Add(new(input, baker.Reading.Use(key, channels, wanted.Bake.IsColour)));
                files[input] = file;
            }
        }

        var whole = maker.Make(draft, material, material.Name, BakedLook.Of(crossed.Graph, inputs));
        var surface = whole.Material.Graph.SurfaceNode!;
        return new(
            inputs.ToImmutable(),
            [
                .. files
                    .Select(f => (surface.Input(f.Key), f.Value))
                    .SelectMany(f => f.Item1 is { } i ? whole.Material.Graph.ImagesOf(i).Select(u => (u.Reference, f.Value)) : [])
                    .Distinct(),
            ],
            whole.Unsaid.FirstOrDefault()?.Why
        );
    }

    private static string? Lacks(OrderedTextures images) =>
        images.Missing.Count == 0
            ? null
            : $"References that did not come cannot be baked; answer them first: {string.Join(", ", images.Missing)}.";

    private string File(Material material, ShaderGraph look, Bake bake, Baker baker, CancellationToken stop)
    {
        var signature = BakeSignature.Of(look, bake, FileOf);
        if (made.TryGetValue(signature, out var known))
            return known;
        var (width, height, bits) = SizeOf(look, bake);
        var path = Path.Combine(Directory.CreateDirectory(folder).FullName, Called.Of(material.Name, bake.Token, Take));
        Begun?.Invoke(Path.GetFileName(path));
        WholeOrNothing.File(path, file =>
            encoder.Write(
                file,
                new(bake.Channels.Length, bits),
                width,
                height,
                (first, rows, values) => baker.Fill(width, height, first, rows, values, Environment.ProcessorCount, stop),
                stop
            )
        );
        return made[signature] = path;
    }

    private string FileOf(ReferenceKey key) =>
        references.Find(key) is { } found && OrderedImage.Of(found, report.Scene.Path) is { File: { } file } image
            ? string.Create(CultureInfo.InvariantCulture, $"{file.Path}|{file.Stamp.Bytes}|{file.Stamp.ModifiedUtc.Ticks}|{image.Carried}")
            : $"{key}";

    /// <summary>The largest of what meets, and the deepest.</summary>
    private (int Width, int Height, int Bits) SizeOf(ShaderGraph look, Bake bake)
    {
        var facts = bake.Uses(look).Select(u => references.Find(u.Reference)?.Facts).OfType<Imaging.ImageFacts>().ToList();
        if (facts.Count == 0)
            return (PatternSide, PatternSide, 8);
        var largest = facts.MaxBy(f => (long)f.Width * f.Height)!;
        var shrink = Math.Min(1, LargestSide / (double)Math.Max(largest.Width, largest.Height));
        return (
            Math.Max(1, (int)(largest.Width * shrink)),
            Math.Max(1, (int)(largest.Height * shrink)),
            facts.TrueForAll(f => f is { BitDepth: <= 8, IsFloat: false }) ? 8 : 16
        );
    }

    private bool Take(string name) => !System.IO.File.Exists(Path.Combine(folder, name)) && names.Add(name);
}
