using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Crossing;
using RootCall.Core.Crossing.Fitting;
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
    /// <summary>Null before one was looked for.</summary>
    public FittedLook? Fit { get; init; }

    /// <summary>The best fit where that wins; null where the formulas are the best, or nobody looked.</summary>
    [JsonIgnore]
    public FittedLook? Better => Fit is { Set.IsEmpty: false } ? Fit : null;

    /// <summary>Pixels of each picture's side, and places looked at in each pixel.</summary>
    private const int Side = 64,
        Samples = 6,
        LeastSide = 32;

    public static ImmutableArray<SwatchLight> UnderLights { get; } = [SwatchLight.Studio, SwatchLight.Dusk, SwatchLight.Lamp];

    /// <summary>Null where one of the two has no surface that is evaluated.</summary>
    /// <param name="moment">A folder for images that have to be taken out of the scene before they are decoded.</param>
    public static MovedLook? Of(CrossedLook look, TextureCache textures, string moment, CancellationToken stop)
    {
        var artist = new Painter(textures, moment, stop);
        if (artist.Closely(look) is not { } pairs)
            return null;
        var all = Over(pairs);
        var (mostly, without) = all.Mean < Fidelity.LeastAsked ? (null, 0) : Reason(look, artist);
        return new(all, Each(pairs), mostly, without, [.. pairs.SelectMany(p => p.Before.Told.Union(p.After.Told)).Distinct()]);
    }

    private static ImmutableArray<LookDifference> Each(List<(Swatch Before, Swatch After)> pairs) =>
        [.. pairs.Select(p => p.After.Difference(p.Before))];

    private static LookDifference Over(List<(Swatch Before, Swatch After)> pairs) =>
        LookDifference.Of([.. pairs.SelectMany(p => p.Before.Pixels)], [.. pairs.SelectMany(p => p.After.Pixels)], i =>
            SphereSwatch.Shows(Side, i % (Side * Side))
        );

    /// <summary>The same with the best fit, where that was not looked for yet; empty inputs where the formulas are the best.</summary>
    public MovedLook WithFit(CrossedLook look, TextureCache textures, string moment, CancellationToken stop)
    {
        if (Fit is not null)
            return this;
        var none = this with { Fit = new([], All, Lights) };
        if (!BestFit.IsWorthIt(All.Mean))
            return none;
        var images = new OrderedTextures(look.Before.Images, textures, moment, stop);
        var set = BestFit.Of(look.Before.Graph, look.Crossed, [.. UnderLights.Select(l => l.Map())], images, stop);
        if (set.IsEmpty || new Painter(textures, moment, stop).Closely(look with { Crossed = look.Crossed.With(set) }) is not { } pairs)
            return none;
        var fitted = Over(pairs);
        return BestFit.Wins(fitted.Mean, All.Mean) ? this with { Fit = new(set, fitted, Each(pairs)) } : none;
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
        public Swatch? Paint(SwatchOrder order) => Paint(order, Samples);

        /// <summary>
        /// Under each of the lights; null where one is not drawn. Chance looks like a difference where paths are long: what seems far
        /// apart is looked at more closely.
        /// </summary>
        public List<(Swatch Before, Swatch After)>? Closely(CrossedLook look) =>
            Pairs(look, Samples) is { } pairs && Over(pairs).Mean < Fidelity.LeastAsked ? pairs : Pairs(look, Samples * Fidelity.Again);

        private List<(Swatch Before, Swatch After)>? Pairs(CrossedLook look, int samples)
        {
            var pairs = new List<(Swatch Before, Swatch After)>();
            foreach (var light in UnderLights)
                if (
                    Paint(look.Order(light, Side, WornLook.Arrived), samples) is { } before
                    && Paint(look.Order(light, Side, WornLook.Crossed), samples) is { } after
                )
                    pairs.Add((before, after));
            return pairs.Count == UnderLights.Length ? pairs : null;
        }

        private Swatch? Paint(SwatchOrder order, int samples) =>
            Swatch.Of(order, textures, moment, samples, Environment.ProcessorCount, Swatch.MostTime, stop);
    }
}

/// <summary>The numbers with which a crossed look comes nearest the one that arrived.</summary>
/// <param name="Set">Empty where the formulas are the best.</param>
public sealed record FittedLook(ImmutableArray<SetInput> Set, LookDifference All, ImmutableArray<LookDifference> Lights);

[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(MovedLook))]
internal sealed partial class MovedLookContext : JsonSerializerContext;
