using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Files;
using RootCall.Core.Shading;

namespace RootCall.Core.Destinations;

/// <summary>What a scene must run on. Limits that are null do not exist.</summary>
/// <param name="Id">Lower case, with hyphens.</param>
/// <param name="Description">What it is, in one sentence.</param>
/// <param name="Udim">It reads tiled images.</param>
/// <param name="VertexColours">It shows colours of vertices.</param>
public sealed record Destination(string Id, string Name, string Description = "", bool Udim = true, bool VertexColours = true)
{
    /// <summary>Shading models it evaluates, by id; empty for any.</summary>
    public ImmutableArray<string> Models
    {
        get;
        init => field = JsonText.Or(value);
    } = [];

    /// <summary>What it can show, in the words of <see cref="DestinationFeatures"/>; empty for everything.</summary>
    public ImmutableArray<string> Features
    {
        get;
        init => field = JsonText.Or(value);
    } = [];

    /// <summary>Features that work only once something else is turned on.</summary>
    public ImmutableArray<FeatureSwitch> Switches
    {
        get;
        init => field = JsonText.Or(value);
    } = [];

    /// <summary>Alpha modes: <c>opaque</c>, <c>cut-out</c>, <c>blend</c>; empty for all.</summary>
    public ImmutableArray<string> AlphaModes
    {
        get;
        init => field = JsonText.Or(value);
    } = [];

    public int? TexturesPerMaterial { get; init; }

    /// <summary>Image formats it reads, by file ending without dot; empty for any.</summary>
    public ImmutableArray<string> ImageFormats
    {
        get;
        init => field = JsonText.Or(value);
    } = [];

    /// <summary>Pixels.</summary>
    public int? LargestSide { get; init; }

    public bool PowerOfTwo { get; init; }

    public bool Square { get; init; }

    /// <summary>Most bits per channel.</summary>
    public int? MostBits { get; init; }

    /// <summary>Where green points in normal maps: <c>y-up</c> or <c>y-down</c>; null for what the scene says.</summary>
    public NormalConvention? NormalConvention { get; init; }

    /// <summary>How far a look may move on its way there: mean ΔE (CIEDE2000).</summary>
    public double? LooksMove { get; init; }

    /// <summary>The space that colours are worked in, for people.</summary>
    public string? ColourManagement { get; init; }

    /// <summary>The spaces that images may declare; empty for any. Data is always one.</summary>
    public ImmutableArray<ColourSpace> ColourSpaces
    {
        get;
        init => field = JsonText.Or(value);
    } = [];

    public string? UpAxis { get; init; }

    public double? MetresPerUnit { get; init; }

    public long? WarnTriangles { get; init; }

    public long? MostTriangles { get; init; }

    public int? UvSets { get; init; }

    /// <summary>Bytes of one file.</summary>
    public long? FileBytes { get; init; }

    /// <summary>Bytes of everything together.</summary>
    public long? PackageBytes { get; init; }

    public NameLimits Names
    {
        get;
        init => field = value ?? field;
    } = new();

    /// <summary>Everything is allowed: what a scene is audited for when nothing was chosen.</summary>
    public static Destination Plain { get; } =
        new("plain", "No destination") { Description = "Nothing is forbidden; only what is wrong by itself is told." };

    public bool Can(string feature) => Features.IsEmpty || Features.Contains(feature);

    public bool Equals(Destination? other) => other is not null && DestinationFiles.Write(this) == DestinationFiles.Write(other);

    public override int GetHashCode() => HashCode.Combine(Id, Name);
}

/// <param name="Switch">What must be on, as the destination names it.</param>
/// <param name="On">Whether it is.</param>
/// <param name="Features">What depends on it.</param>
/// <param name="Advice">What to do when it is off.</param>
public sealed record FeatureSwitch(string Switch, bool On, ImmutableArray<string> Features, string Advice = "");

/// <param name="Forbidden">Characters that no name may have.</param>
/// <param name="MostBytes">Longest name in UTF-8 bytes.</param>
/// <param name="CountsBytes">Names are part of a size limit.</param>
public sealed record NameLimits(string Forbidden = "", int? MostBytes = null, bool CountsBytes = false);

/// <summary>The words for features, each with the input roles that need it.</summary>
public static class DestinationFeatures
{
    public static ImmutableDictionary<Role, string> ByRole { get; } =
        new Dictionary<Role, string>
        {
            [Role.Subsurface] = "subsurface",
            [Role.Transmission] = "transmission",
            [Role.Coat] = "coat",
            [Role.Sheen] = "sheen",
            [Role.SheenColour] = "sheen",
            [Role.Displacement] = "displacement",
            [Role.Anisotropy] = "anisotropy",
            [Role.Iridescence] = "iridescence",
            [Role.Dispersion] = "dispersion",
        }.ToImmutableDictionary();
}

/// <summary>Destinations as JSON: those that ship, and any other.</summary>
public static class DestinationFiles
{
    private static readonly DestinationContext Json = new(
        JsonText.Options(
            new JsonStringEnumConverter<NormalConvention>(JsonNamingPolicy.KebabCaseLower, allowIntegerValues: false),
            new ColourSpaceConverter()
        )
    );

    public static ImmutableArray<Destination> Shipped { get; } =
    [
        .. typeof(DestinationFiles)
            .Assembly.GetManifestResourceNames()
            .Where(n => n.StartsWith("RootCall.Core.destinations.", StringComparison.Ordinal))
            .Order(StringComparer.Ordinal)
            .Select(Resource),
    ];

    public static string Write(Destination destination) => JsonSerializer.Serialize(destination, Json.Destination);

    /// <param name="from">What the text is called in messages.</param>
    /// <exception cref="CannotUseException">It is no destination.</exception>
    public static Destination Read(string json, string from) =>
        JsonText.Read(json, from, "destination", Json.Destination) is not { Id.Length: > 0, Name.Length: > 0 } read
            ? throw new CannotUseException($"The destination in {from} has no id or no name.")
        : read.ColourSpaces.Contains(ColourSpace.Other)
            ? throw new CannotUseException(
                $"The destination in {from} names a colour space that is not known: there are srgb, linear, acescg."
            )
        : read;

    /// <summary>One that ships by its id, or a file.</summary>
    /// <exception cref="CannotUseException">There is neither.</exception>
    public static Destination Open(string nameOrFile)
    {
        if (nameOrFile == Destination.Plain.Id)
            return Destination.Plain;
        if (Shipped.FirstOrDefault(d => d.Id == nameOrFile) is { } shipped)
            return shipped;
        return File.Exists(nameOrFile)
            ? Read(File.ReadAllText(nameOrFile), Path.GetFileName(nameOrFile))
            : throw new CannotUseException(
                $"There is no destination “{nameOrFile}”; those that ship are {string.Join(", ", Shipped.Select(d => d.Id))}."
            );
    }

    private static Destination Resource(string name)
    {
        using var reader = new StreamReader(typeof(DestinationFiles).Assembly.GetManifestResourceStream(name)!);
        return Read(reader.ReadToEnd(), name);
    }
}

[JsonSerializable(typeof(Destination))]
internal sealed partial class DestinationContext : JsonSerializerContext;
