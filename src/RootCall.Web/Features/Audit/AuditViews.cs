using RootCall.Core.Audit;

namespace RootCall.Web.Features.Audit;

/// <summary>What the audit found, by cause.</summary>
/// <param name="Coverage">How much was looked at, in one sentence.</param>
/// <param name="OpenChecks">Inputs whose map could not be looked at.</param>
/// <param name="IsCovered">Everything was: nothing found means that nothing is wrong.</param>
/// <param name="SafeByMaterial">How many of those that are safe are about each material.</param>
/// <param name="Measured">Images whose values are known; the rest is being looked at.</param>
internal sealed record AuditView(
    DestinationItem Destination,
    int Measured,
    int ToMeasure,
    int Findings,
    int Blockers,
    int Warnings,
    int Notes,
    int Safe,
    IEnumerable<CauseItem> Causes,
    IEnumerable<FailedRule> Failed,
    string Coverage,
    int OpenChecks,
    bool IsCovered,
    IReadOnlyDictionary<string, int> SafeByMaterial
);

internal sealed record DestinationItem(string Id, string Name, string Description, string Models, string Limit, bool Own);

/// <param name="Severity"><c>blocker</c>, <c>warning</c> or <c>note</c>.</param>
/// <param name="Sentence">Without its number.</param>
/// <param name="Names">The first things it is about.</param>
/// <param name="Fixable">Findings that have a fix.</param>
/// <param name="Pending">Place of the ledger's entry that will fix it; null when there is none.</param>
/// <param name="Waived">Why it is let stand; null when it is not.</param>
internal sealed record CauseItem(
    string Key,
    string Rule,
    string Severity,
    int Count,
    string Sentence,
    string Names,
    int Fixable,
    bool Safe,
    int? Pending,
    string? Waived
);

internal sealed record RuleView(
    string Id,
    string Family,
    string Title,
    string Severity,
    string Usual,
    bool On,
    string Expects,
    string Why,
    string Source,
    string? Fix,
    IEnumerable<ThresholdView> Thresholds,
    string Language,
    string Example
);

internal sealed record ThresholdView(string Name, double Value, double Usual, string Unit, string Meaning);

/// <summary>A cause with its evidence.</summary>
/// <param name="Member">Key of the finding the evidence is about.</param>
/// <param name="Plot">One value a member, against what is expected.</param>
internal sealed record CauseView(
    CauseItem Cause,
    RuleView Rule,
    IEnumerable<MemberItem> Members,
    string Member,
    FoundEvidence Evidence,
    PlotView? Plot,
    FixView Fix
);

/// <param name="Material">Material it is about; null for none.</param>
/// <param name="Picture">A picture that stands for it.</param>
internal sealed record MemberItem(
    string Key,
    string Kind,
    string Name,
    string? Part,
    string Message,
    string? Decide,
    string? Title,
    double Certainty,
    string? Material,
    string? Picture,
    bool Pending
);

/// <summary>What was seen of one finding.</summary>
internal sealed record FoundEvidence(
    IEnumerable<WireItem> Wires,
    IEnumerable<RailInput> Rail,
    IEnumerable<ValueEvidence> Values,
    IEnumerable<ImageItem> Images,
    IEnumerable<PairItem> Pairs,
    IEnumerable<RoleSum> Sums,
    IEnumerable<string> Texts
);

internal sealed record WireItem(string Image, string Channels, string Now, string? After);

/// <param name="Histogram">Counts of the channel that gives the reason.</param>
internal sealed record ImageItem(
    string Name,
    string? Picture,
    int? Width,
    int? Height,
    string Facts,
    string Channel,
    IEnumerable<int>? Histogram,
    double? Min,
    double? Mean,
    double? Max,
    bool IsGrey
);

internal sealed record PairItem(string Kind, string A, string B, string Differ, string? PictureA, string? PictureB);

internal sealed record PlotView(string What, string Unit, double? Low, double? High, IEnumerable<PlotDot> Dots);

internal sealed record PlotDot(string Key, double Value);

/// <param name="Count">“111 edits = 37 disconnect + 37 connect”.</param>
/// <param name="Certainty">Of the least sure.</param>
internal sealed record FixView(
    string Title,
    string Count,
    int Edits,
    double Certainty,
    int Findings,
    IEnumerable<EditLine> First,
    IEnumerable<LeftLine> Left
);

internal sealed record EditLine(string What, string Where, string Before, string After);

internal sealed record LeftLine(string Target, string Reason);

/// <summary>What to fix: single findings, a family, or everything that is safe.</summary>
/// <param name="Materials">Only what is about these; null for all.</param>
/// <param name="Seen">The last entry of the ledger that the window knows; what came after it from elsewhere is not overwritten.</param>
internal sealed record FixRequest(
    string? Cause,
    IReadOnlyList<string>? Keys,
    bool Safe,
    Guid? Seen,
    IReadOnlyList<string>? Materials = null
);

internal sealed record WaiveRequest(string Cause, string Reason);

internal sealed record CauseKey(string Cause);

internal sealed record ChooseDestination(string Id);

/// <summary>What another destination would change.</summary>
internal sealed record DestinationChange(
    DestinationItem Destination,
    bool Chosen,
    int Blockers,
    int Warnings,
    int Notes,
    IEnumerable<string> Comes,
    IEnumerable<string> Goes
);
