using System.Collections.Immutable;
using RootCall.Core.Audit;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Web.Features.Audit;

/// <summary>What is decided about: findings of a cause, or materials that were picked.</summary>
/// <param name="Keys">Only these findings of the cause; null for all.</param>
internal sealed record HandOf(string? Cause, IReadOnlyList<string>? Keys, IReadOnlyList<string>? Materials);

/// <param name="Key">What the place is called by when it is decided about.</param>
/// <param name="Now">What is there: a value, an image, the material that is worn.</param>
/// <param name="Material">The material that stands for it on the screen; null for none.</param>
internal sealed record HandPlaceItem(string Key, string Kind, string Name, string? Part, string Now, string? Material);

/// <param name="What">What it is for, in words.</param>
/// <param name="Numbers">How many it takes.</param>
/// <param name="Now">As it stands at the first place, written or by default, linear; empty when none is known.</param>
/// <param name="Default">By the model's specification; empty when it gives none.</param>
/// <param name="TakesImage">An image can feed it.</param>
/// <param name="Among">How many of the places have it.</param>
internal sealed record HandInputItem(
    string Name,
    string What,
    int Numbers,
    IEnumerable<double> Now,
    IEnumerable<double> Default,
    double? Min,
    double? Max,
    bool IsColour,
    bool TakesImage,
    int Among
);

/// <param name="Where">Folder, as people call it.</param>
internal sealed record HandImageItem(
    string Path,
    string Name,
    string Where,
    string? Role,
    int? Width,
    int? Height,
    bool IsOfSet,
    string? Picture
);

/// <summary>Where a person can decide, and what there is to choose from.</summary>
/// <param name="Kinds">What can be said, likeliest first.</param>
internal sealed record HandView(
    IEnumerable<HandPlaceItem> Places,
    IEnumerable<HandKind> Kinds,
    IEnumerable<HandInputItem> Inputs,
    IEnumerable<HandImageItem> Images,
    IEnumerable<string> Materials,
    IEnumerable<string> UvSets,
    IEnumerable<HandRefusal> Refused
);

/// <summary>What the scene's format cannot say, and why.</summary>
internal sealed record HandRefusal(HandKind Kind, string Why);

/// <summary>A decision; what its kind does not need is null.</summary>
/// <param name="Places">Keys of the places that it is said of; null for all.</param>
/// <param name="Input">Of a value or an image.</param>
/// <param name="Numbers">Of a value, linear for a colour; null to leave the input to its default.</param>
/// <param name="Path">Absolute path of an image; null to disconnect.</param>
/// <param name="Choice">The material, the UV set or the name.</param>
/// <param name="Seen">The last entry of the ledger that the window knows.</param>
internal sealed record HandSaid(
    HandOf Of,
    IReadOnlyList<string>? Places,
    HandKind Kind,
    string? Input,
    IReadOnlyList<double>? Numbers,
    string? Path,
    string? Choice,
    Guid? Seen
);

/// <summary>What a person decides where no rule can.</summary>
internal static class HandEndpoints
{
    public static void MapHand(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}/audit/hand").WithTags("Audit");
        group.MapPost("/choices", async (Guid id, HandOf of, Audits audits, CancellationToken stop) =>
        {
            var state = await audits.Get(id, stop);
            var places = Places(state, of);
            var choices = HandChoices.Of(state.Scene, places);
            return TypedResults.Ok(
                new HandView(
                    places.DistinctBy(p => Key(p.Place)).Select(p => Item(state, p.Place)),
                    choices.Kinds,
                    choices.Inputs.Select(i => new HandInputItem(
                        i.Name,
                        i.What,
                        i.Type.Numbers,
                        i.Now,
                        i.Default,
                        i.Min,
                        i.Max,
                        i.IsColour,
                        i.Type.TakesImage,
                        i.Among
                    )),
                    choices.Images.Select(i => new HandImageItem(
                        i.Path,
                        Path.GetFileName(i.Path),
                        state.Current.Names.Of(Path.GetDirectoryName(i.Path)!),
                        i.Role?.Word(),
                        i.Width,
                        i.Height,
                        i.IsOfSet,
                        AuditShapes.UrlOfPath(id, state, i.Path)
                    )),
                    choices.Materials,
                    choices.UvSets,
                    choices.Refused.Select(r => new HandRefusal(r.Key, r.Value))
                )
            );
        });
        group.MapPost("/preview", async (Guid id, HandSaid said, Audits audits, CancellationToken stop) =>
        {
            var state = await audits.Get(id, stop);
            return TypedResults.Ok(AuditShapes.Fix(Plan(state, said)));
        });
        group.MapPost(string.Empty, async (Guid id, HandSaid said, Audits audits, CancellationToken stop) =>
        {
            var state = await audits.Get(id, stop);
            var entry = Plan(state, said).Entry(Decision(state, said), DateTimeOffset.UtcNow);
            return TypedResults.Ok(await audits.Put(id, state, entry, said.Seen, stop));
        });
    }

    private static FixPlan Plan(AuditState state, HandSaid said)
    {
        var only = said.Places?.ToHashSet(StringComparer.Ordinal);
        return HandPlan.Make(state.Scene, Decision(state, said), Places(state, said.Of).Where(p => only?.Contains(Key(p.Place)) != false));
    }

    private static ImmutableArray<HandPlace> Places(AuditState state, HandOf of)
    {
        if (of.Cause is null)
            return HandPlaces.Of(state.Scene, of.Materials ?? []);
        var keys = of.Keys?.ToHashSet(StringComparer.Ordinal);
        return HandPlaces.Of(state.Scene, state.Report.Findings.Where(f => f.Cause.Key == of.Cause && keys?.Contains(f.Key) != false));
    }

    private static HandDecision Decision(AuditState state, HandSaid said)
    {
        string Choice(string what) =>
            string.IsNullOrWhiteSpace(said.Choice) ? throw new CannotUseException($"Choose {what} first.") : said.Choice.Trim();
        string Input() => string.IsNullOrEmpty(said.Input) ? throw new CannotUseException("Choose an input first.") : said.Input;
        return said.Kind switch
        {
            HandKind.Material => new HandMaterial(Choice("a material")),
            HandKind.UvSet => new HandUvSet(Choice("a UV set")),
            HandKind.Name => new HandName(Choice("a name")),
            HandKind.Map => new HandMap(Input(), said.Path is null ? null : Readable(state, said.Path)),
            _ => new HandValue(Input(), said.Numbers is null ? null : new ShaderValue([.. said.Numbers])),
        };
    }

    private static string Readable(AuditState state, string path) =>
        state.Current.Scope.Enter(path) is { } real && File.Exists(real)
            ? real
            : throw new CannotUseException($"“{path}” is no file that this scene may read; add its folder as a root first.");

    private static string Key(Target place) => $"{place.Kind}|{place.Name}|{place.Part}";

    private static HandPlaceItem Item(AuditState state, Target place)
    {
        var material = place.Material is { } name ? state.Scene.Called(name) : null;
        var input = material is not null && place.Part is not null ? material.Input(place.Part) : null;
        var worn = state
            .Scene.Scene.Meshes.Where(m => place.Kind == "mesh" && m.Name == place.Name)
            .SelectMany(m => m.Parts.Where(p => place.Part is null || p.Name == place.Part))
            .Select(p => p.Material)
            .FirstOrDefault(m => m.Length > 0);
        return new(
            Key(place),
            place.Kind,
            material?.Material.Name ?? place.Name,
            place.Part,
            place.Kind == "mesh" ? worn ?? "no material"
                : input is null ? string.Empty
                : input.Maps is [var map, ..] ? map.FileText
                : string.Join(' ', input.Numbers.Select(n => n.ToString("0.###", System.Globalization.CultureInfo.InvariantCulture))),
            material is not null ? place.Name : worn
        );
    }
}
