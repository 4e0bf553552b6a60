using System.Collections.Immutable;
using System.Globalization;
using System.IO.Hashing;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Files;
using RootCall.Core.Imaging;
using RootCall.Core.Muster;
using RootCall.Core.Rendering.Shapes;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Viewing;

/// <summary>
/// All that a swatch is made of, so that whoever makes it needs neither the scene nor the database, and so that two with one order are
/// one picture.
/// </summary>
/// <param name="Version">Another way to make pictures makes other pictures.</param>
/// <param name="House">Which colours were chosen (<see cref="Imaging.Colours.ColourSetting.Print"/>); null for none.</param>
/// <param name="On">An object that takes the place of the shape; null for none.</param>
/// <param name="Before">A look that it is held beside: how far both lie apart is told with the picture. Null for none.</param>
public sealed record SwatchOrder(
    int Version,
    ShaderGraph Graph,
    ImmutableArray<OrderedImage> Images,
    SwatchLight Light,
    int Side,
    SwatchOrder? Before = null,
    string? House = null,
    SwatchShape Shape = SwatchShape.Sphere,
    OrderedMesh? On = null
)
{
    private const int Now = 3;

    /// <summary>Sides that are made: pictures of every size would be kept of each material.</summary>
    public static ImmutableArray<int> Sides { get; } = [48, 96, 192, 256, 384, 640];

    public static SwatchOrder Of(Material material, MusterReport report, SwatchLight light, int side) =>
        Of(material, new ReferencesByKey(report), light, side);

    /// <summary>For whoever asks for many materials of one scene.</summary>
    public static SwatchOrder Of(Material material, ReferencesByKey references, SwatchLight light, int side)
    {
        var graph = Reached(material.Graph);
        var images = graph
            .Nodes.Select(n => n.Image?.Reference)
            .OfType<ReferenceKey>()
            .Distinct()
            .Select(references.Find)
            .OfType<MusteredReference>()
            .OrderBy(r => r.Number);
        return new(Now, graph, [.. images.Select(r => OrderedImage.Of(r, references.ScenePath))], light, side);
    }

    /// <summary>The same look if another file answered a reference.</summary>
    public SwatchOrder Answered(ReferenceKey reference, FileState file) =>
        this with
        {
            Images = [.. Images.Select(i => i.Reference == reference ? i with { File = file, Carried = null, ScenePath = null } : i)],
        };

    /// <summary>A hash of all that the look is made of, whatever it is lit by and shown on.</summary>
    public static string LookOf(Material material, ReferencesByKey references) =>
        PrintOf(Of(material, references, SwatchLight.Studio, 0).Write());

    public byte[] Write() => JsonSerializer.SerializeToUtf8Bytes(this, SwatchOrderContext.Written.SwatchOrder);

    /// <exception cref="CannotUseException">It is no order, or one that another version gave.</exception>
    public static SwatchOrder Read(byte[] json) =>
        JsonText.Read<SwatchOrder>(json, "The order", "swatch's order", SwatchOrderContext.Written.SwatchOrder) is { Version: Now } order
            ? order
            : throw new CannotUseException("The swatch was ordered by another version of Root Call.");

    /// <summary>Of an order's text, as a hash (XXH128) in hexadecimal digits.</summary>
    public static string PrintOf(byte[] written) => XxHash128.HashToUInt128(written).ToString("x32", CultureInfo.InvariantCulture);

    /// <summary>What does not feed the surface does not show.</summary>
    private static ShaderGraph Reached(ShaderGraph graph)
    {
        var nodes = graph.Nodes.DistinctBy(n => n.Name).ToDictionary(n => n.Name, StringComparer.Ordinal);
        var reached = new HashSet<string>(StringComparer.Ordinal);
        var ahead = new Stack<string>([graph.Surface]);
        while (ahead.TryPop(out var name))
            if (nodes.TryGetValue(name, out var node) && reached.Add(name))
                foreach (var input in node.Inputs)
                    if (input.From is { } from)
                        ahead.Push(from.Node);
        return graph with { Nodes = [.. graph.Nodes.Where(n => reached.Contains(n.Name))] };
    }
}

/// <summary>An image that a swatch reads.</summary>
/// <param name="Number">Of its reference.</param>
/// <param name="File">The file that holds it; null when it did not come.</param>
/// <param name="Carried">Where in the file it is, when a scene carries it.</param>
/// <param name="ScenePath">That scene; null for an image of its own.</param>
/// <param name="IsEncodedColour">8 bits and three channels or more: what a format that leaves it open takes for encoded colour.</param>
public sealed record OrderedImage(
    ReferenceKey Reference,
    int Number,
    FileState? File,
    CarriedData? Carried,
    string? ScenePath,
    bool IsEncodedColour,
    bool IsFloat
)
{
    /// <summary>What a format that leaves it open takes an image for: 8 bits and three channels or more are encoded colour.</summary>
    public static bool IsEncoded(ImageFacts? facts) => facts is null or { BitDepth: <= 8, IsFloat: false, Channels: >= 3 };

    public static OrderedImage Of(MusteredReference reference, string scene)
    {
        var carried = reference.Reference.Carried is { File.Length: > 0 } c ? c : null;
        var path = carried?.File ?? reference.Tiles.FirstOrDefault() ?? reference.Resolved ?? reference.Clear?.Path;
        FileState? file = path is not null && FileFacts.Stamp(path) is { } stamp ? new(path, stamp) : null;
        return new(
            reference.Reference.Key,
            reference.Number,
            file,
            carried,
            carried is null ? null : scene,
            IsEncoded(reference.Facts),
            reference.Facts is { IsFloat: true }
        );
    }
}

[JsonSerializable(typeof(SwatchOrder))]
internal sealed partial class SwatchOrderContext : JsonSerializerContext
{
    public static SwatchOrderContext Written { get; } =
        new(
            JsonText.Options(
                new ChannelsConverter(),
                new JsonStringEnumConverter<SwatchLight>(),
                new JsonStringEnumConverter<SwatchShape>(),
                new JsonStringEnumConverter<WrapMode>()
            )
        );
}
