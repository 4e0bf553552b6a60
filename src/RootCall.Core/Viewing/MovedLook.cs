using System.Collections.Immutable;
using System.Numerics;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Crossing;
using RootCall.Core.Edits;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Rendering.Textures;

namespace RootCall.Core.Viewing;

/// <summary>How far a crossing moves a look: two spheres under three lights, pixel by pixel, CIEDE2000.</summary>
/// <param name="All">Over all three.</param>
/// <param name="Lights">Under each, in the order of <see cref="SwatchLight"/>.</param>
/// <param name="Mostly">The input that more than half of it comes from; null where none stands out.</param>
/// <param name="Without">What is left, in the mean, when the material does not say that input.</param>
/// <param name="Told">What the pictures do not show, in sentences.</param>
public sealed record MovedLook(
    LookDifference All,
    ImmutableArray<LookDifference> Lights,
    string? Mostly,
    double Without,
    ImmutableArray<string> Told
)
{
    /// <summary>Pixels of each picture's side, and places looked at in each pixel.</summary>
    private const int Side = 64,
        Samples = 6,
        LeastSide = 32;

    /// <summary>Less than this is not worth asking where it comes from.</summary>
    private const double LeastAsked = 1;

    public static ImmutableArray<SwatchLight> UnderLights { get; } = [SwatchLight.Studio, SwatchLight.Dusk, SwatchLight.Lamp];

    /// <summary>Null where one of the two has no surface that is evaluated.</summary>
    /// <param name="moment">A folder for images that have to be taken out of the scene before they are decoded.</param>
    public static MovedLook? Of(CrossedLook look, TextureCache textures, string moment, CancellationToken stop)
    {
        var artist = new Painter(textures, moment, stop);
        var pairs = new List<(Swatch Before, Swatch After)>();
        foreach (var light in UnderLights)
        {
            if (
                artist.Paint(look.Order(light, Side, WornLook.Arrived)) is not { } before
                || artist.Paint(look.Order(light, Side, WornLook.Crossed)) is not { } after
            )
                return null;
            pairs.Add((before, after));
        }

        Vector3[] All(Func<(Swatch Before, Swatch After), Swatch> which) => [.. pairs.SelectMany(p => which(p).Pixels)];
        var all = LookDifference.Of(All(p => p.Before), All(p => p.After), i => SphereSwatch.Shows(Side, i % (Side * Side)));
        var (mostly, without) = all.Mean < LeastAsked ? (null, 0) : Reason(look, artist);
        return new(
            all,
            [.. pairs.Select(p => p.After.Difference(p.Before))],
            mostly,
            without,
            [.. pairs.SelectMany(p => p.Before.Told.Union(p.After.Told)).Distinct()]
        );
    }

    /// <summary>The input without which the two looks lie closest, when that takes more than half away.</summary>
    private static (string? Input, double Left) Reason(CrossedLook look, Painter artist)
    {
        double? Apart(CrossedLook of) =>
            artist.Paint(of.Order(SwatchLight.Studio, LeastSide, WornLook.Arrived)) is { } before
            && artist.Paint(of.Order(SwatchLight.Studio, LeastSide, WornLook.Crossed)) is { } after
                ? after.Difference(before).Mean
                : null;
        if (Apart(look) is not { } whole)
            return (null, 0);
        var suspects = look.Crossed.Mappings.Where(m => m.Kind != MappingKind.Exact || m.IsClamped).SelectMany(m => m.From).Distinct();
        var best = suspects
            .Select(input => (Input: input, Left: look.Without(input) is { } less ? Apart(less) : null))
            .Where(s => s.Left < whole / 2)
            .OrderBy(s => s.Left)
            .FirstOrDefault();
        return best.Input is null ? (null, 0) : (best.Input, best.Left!.Value);
    }

    public byte[] Write() => JsonSerializer.SerializeToUtf8Bytes(this, MovedLookContext.Default.MovedLook);

    /// <summary>Null for a file that is not there, or is none.</summary>
    public static MovedLook? Read(string path)
    {
        try
        {
            return File.Exists(path) ? JsonSerializer.Deserialize(File.ReadAllBytes(path), MovedLookContext.Default.MovedLook) : null;
        }
        catch (Exception e) when (e is JsonException or IOException)
        {
            return null;
        }
    }

    private sealed class Painter(TextureCache textures, string moment, CancellationToken stop)
    {
        public Swatch? Paint(SwatchOrder order) =>
            Swatch.Of(order, textures, moment, Samples, Environment.ProcessorCount, Swatch.MostTime, stop);
    }
}

[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(MovedLook))]
internal sealed partial class MovedLookContext : JsonSerializerContext;
