using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Files;
using RootCall.Core.Rendering.Colour;

namespace RootCall.Core.Jobs;

/// <summary>Two frames of a scene beside each other, and how far they lie apart.</summary>
/// <param name="Print">What it was made of.</param>
/// <param name="Told">What the frames do not show, in sentences.</param>
public sealed record DrawnPair(string Print, DateTimeOffset At, LookDifference Moved, ImmutableArray<string> Told)
{
    /// <summary>Of each frame: two are drawn, and the noise of few samples tells little beside a look that moved.</summary>
    public const int Width = 480,
        Height = 270,
        Samples = 16;

    /// <summary>What is known of the pair in a folder; null when there is none.</summary>
    public static DrawnPair? Of(string folder)
    {
        try
        {
            return JsonSerializer.Deserialize(File.ReadAllBytes(About(folder)), DrawnPairContext.Default.DrawnPair);
        }
        catch (Exception e) when (e is JsonException or IOException)
        {
            return null;
        }
    }

    /// <summary>Written last: what it tells of lies there.</summary>
    internal void Keep(string folder) =>
        WholeOrNothing.Cached(About(folder), JsonSerializer.SerializeToUtf8Bytes(this, DrawnPairContext.Default.DrawnPair));

    private static string About(string folder) => Path.Combine(folder, "about.json");
}

[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(DrawnPair))]
internal sealed partial class DrawnPairContext : JsonSerializerContext;
