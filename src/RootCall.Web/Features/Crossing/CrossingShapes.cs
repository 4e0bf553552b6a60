using RootCall.Core.Crossing;
using RootCall.Core.Crossing.Fitting;
using RootCall.Core.Destinations;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Viewing;
using RootCall.Web.Features.Ledger;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Crossing;

/// <summary>A scene on its way to another shading model.</summary>
/// <param name="To">Id of the model.</param>
/// <param name="Models">All that can be crossed to.</param>
/// <param name="Route">Which way mirrored colours go.</param>
/// <param name="Fit">The best fit is shown wherever it wins.</param>
/// <param name="HasRoutes">Some materials could go either way.</param>
/// <param name="Limit">How far a look may move: mean ΔE.</param>
/// <param name="Rows">Materials of other models, the farthest moved first; those not measured yet at the end.</param>
/// <param name="There">How many are of that model already.</param>
/// <param name="Stay">Materials that cannot be carried, by name.</param>
/// <param name="Blockers">Findings that block the render, of materials that cross; mend them first.</param>
/// <param name="Pairs">How many were taken over.</param>
/// <param name="Worn">Whether objects wear any of the looks that arrived, or of those that were crossed.</param>
/// <param name="Idle">How many originals stand by unused.</param>
/// <param name="WhyNoSweep">Why originals cannot be swept out; null when they can.</param>
internal sealed record CrossingView(
    string To,
    string Name,
    IEnumerable<ModelChoice> Models,
    CrossingRoute Route,
    bool Fit,
    bool HasRoutes,
    double Limit,
    IEnumerable<CrossRow> Rows,
    int There,
    IEnumerable<string> Stay,
    int Blockers,
    ColourHeld Colours,
    int Pairs,
    WornItem Worn,
    int Idle,
    string? WhyNoSweep
);

internal sealed record WornItem(bool Arrived, bool Crossed);

/// <param name="WhyNot">Why a scene of this format cannot hold it; null when it can.</param>
/// <param name="IsWanted">The destination evaluates it.</param>
internal sealed record ModelChoice(string Id, string Name, string? WhyNot, bool IsWanted);

/// <summary>Colour management of the scene beside that of the destination.</summary>
/// <param name="Declared">Spaces that images declare, each with how many do and whether the destination knows it.</param>
/// <param name="Expected">What the destination works in, for people; null where it does not say.</param>
/// <param name="Config">File name of the house's OpenColorIO config; null for none.</param>
internal sealed record ColourHeld(IEnumerable<DeclaredSpace> Declared, string? Expected, string? Config);

/// <param name="Unsaid">Why the scene's format cannot hold it, whatever is baked; null when it can.</param>
/// <param name="Bakes">Images that are made for it, by what is called after the material.</param>
/// <param name="Entry">Place, from 1, of the entry that takes it over; null for none.</param>
internal sealed record CrossRow(
    string Material,
    string From,
    int Exact,
    int Approximate,
    int Lost,
    MovedItem? Moved,
    bool IsMeasured,
    string? Unsaid,
    IEnumerable<string> Bakes,
    int? Entry,
    bool IsPending,
    string? Crossed
);

/// <summary>How far the look moves, CIEDE2000 under three lights.</summary>
/// <param name="Mostly">The input that most of it comes from; null where none stands out.</param>
/// <param name="Formula">Mean by formula alone, where the other numbers are the best fit's; null otherwise.</param>
/// <param name="Fit">Mean of the best fit where that wins; null where it does not, or was not looked for.</param>
/// <param name="IsFitted">The best fit was looked for, or leaves nothing to win.</param>
internal sealed record MovedItem(
    double Mean,
    double High,
    double Most,
    string? Mostly,
    double Without,
    double? Formula,
    double? Fit,
    bool IsFitted
)
{
    public static MovedItem Of(MovedLook moved, bool fit)
    {
        var best = moved.Better;
        var shown = (fit ? best?.All : null) ?? moved.All;
        return new(
            shown.Mean,
            shown.High,
            shown.Most,
            moved.Mostly,
            moved.Without,
            ReferenceEquals(shown, moved.All) ? null : moved.All.Mean,
            best?.All.Mean,
            moved.Fit is not null || !BestFit.IsWorthIt(moved.All.Mean)
        );
    }
}

/// <summary>One material's crossing in full.</summary>
/// <param name="Lights">How far it moves under each light.</param>
/// <param name="Told">What its pictures do not show.</param>
internal sealed record CrossedView(
    CrossRow Row,
    string FromName,
    string ToName,
    IEnumerable<MappingItem> Mappings,
    IEnumerable<LitItem> Lights,
    IEnumerable<string> Told
);

internal sealed record LitItem(string Light, LookDifference Difference);

/// <param name="Low">Least that the input it goes to takes; null for no bound.</param>
/// <param name="Numbers">How many numbers that input takes; 0 for one that cannot be set.</param>
internal sealed record MappingItem(
    IEnumerable<string> From,
    string To,
    MappingKind Kind,
    string Detail,
    string Before,
    string After,
    bool IsClamped,
    int Numbers,
    double? Low,
    double? High
);

/// <summary>Which picture of a crossing is asked for.</summary>
/// <param name="Fit">With the best fit where it wins.</param>
/// <param name="Set">Inputs with other numbers: <c>input=1,0.5,0</c>.</param>
internal sealed record CrossedPicture(
    Guid Id,
    string Material,
    string To,
    string? Route,
    bool? Fit,
    string? Light,
    int? Side,
    string[]? Set
);

/// <param name="Materials">By name; null for all that cross.</param>
/// <param name="Fit">The best fit is looked for, too.</param>
internal sealed record MeasureThese(string To, CrossingRoute Route, IReadOnlyList<string>? Materials, bool Fit);

/// <param name="Materials">By name.</param>
/// <param name="Fit">With the best fit where it wins.</param>
/// <param name="Set">Inputs that are given numbers in place of the formulas, and of the fit.</param>
/// <param name="Note">Why, for the ledger; null for nothing.</param>
internal sealed record TakeOver(
    string To,
    CrossingRoute Route,
    bool Fit,
    IReadOnlyList<string> Materials,
    IReadOnlyList<SetValueOf>? Set,
    string? Note
);

/// <param name="Ledger">Null when a worker makes the entry.</param>
internal sealed record TakenOver(LedgerView? Ledger, WorkItem? Work);

internal sealed record SetValueOf(string Material, string Input, IReadOnlyList<double> Numbers);

/// <param name="Look"><c>arrived</c> or <c>crossed</c>.</param>
internal sealed record WearLook(string Look);
