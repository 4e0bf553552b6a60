using RootCall.Core.Audit;
using RootCall.Core.Bench;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Shading;
using RootCall.Web.Features.Audit;

namespace RootCall.Web.Features.Bench;

/// <summary>All materials of a scene as they stand.</summary>
/// <param name="Seen">How many were looked at as they look now, and are right or not.</param>
/// <param name="Wrong">How many somebody says are not right.</param>
internal sealed record BenchView(IEnumerable<BenchItem> Rows, int Seen, int Wrong);

/// <param name="Name">What edits call it by.</param>
/// <param name="Worst"><c>blocker</c>, <c>warning</c> or <c>note</c>; null without an open finding.</param>
/// <param name="Word">What the worst finding is about, in a few words.</param>
/// <param name="IsStrange">It does not look as it should: somebody says so, or a rule that is more than a note.</param>
/// <param name="Change">Place, from 1, of the ledger's last entry that changes its look; 0 for none.</param>
internal sealed record BenchItem(
    string Name,
    string Title,
    string Model,
    string Family,
    string? Worst,
    int Findings,
    string Word,
    IEnumerable<string> Tells,
    int Change,
    IEnumerable<Twin> Twins,
    bool IsWorn,
    MarkItem? Mark,
    bool IsStrange
);

/// <param name="Word">What is not right; empty for what is.</param>
/// <param name="IsOld">It has come to look another way since.</param>
internal sealed record MarkItem(MarkKind Kind, string Word, DateTimeOffset At, bool IsOld);

/// <summary>Says of materials that they were looked at.</summary>
/// <param name="Kind">Null to take back what was said.</param>
/// <param name="Word">What is not right.</param>
internal sealed record MarkThese(IReadOnlyList<string> Materials, MarkKind? Kind, string? Word);

/// <summary>Looks in numbers, as far as they were measured.</summary>
/// <param name="Order">Materials so that neighbours look alike.</param>
/// <param name="Strangers">Those that look like no other.</param>
/// <param name="Moved">How far each lies from how it arrived, by name.</param>
/// <param name="Left">How many were not measured yet.</param>
internal sealed record LooksView(
    IEnumerable<string> Order,
    IEnumerable<string> Strangers,
    IReadOnlyDictionary<string, LookDifference> Moved,
    int Left
);

/// <summary>The material in hand.</summary>
/// <param name="Images">That reach one of its inputs.</param>
/// <param name="NoValue">Why no value can be written; null when it can.</param>
/// <param name="NoImage">Why no wire can be laid otherwise.</param>
/// <param name="NoAssign">Why nothing can be given another material.</param>
/// <param name="NoOwn">Why no instance can become its own.</param>
internal sealed record HeldView(
    string Name,
    string Title,
    string Model,
    IEnumerable<HeldInput> Inputs,
    IEnumerable<HeldImage> Images,
    IEnumerable<Wearer> Wearers,
    int Parts,
    IEnumerable<HeldFinding> Findings,
    string? NoValue,
    string? NoImage,
    string? NoAssign,
    string? NoOwn
);

/// <summary>An image node of the graph with what is known of its file.</summary>
/// <param name="Node">What maps call it by.</param>
/// <param name="Number">Of its reference; null for one that is not in the list.</param>
/// <param name="Space">Colour space that it is read in, in words.</param>
/// <param name="IsMissing">It does not answer where it is called.</param>
/// <param name="IsElsewhere">It does not, but one clear candidate does: that is what is shown.</param>
/// <param name="Mean">Of its colour, linear; null where it was not looked at.</param>
/// <param name="Channels">One for each channel that is stored.</param>
internal sealed record HeldImage(
    string Node,
    int? Number,
    string Name,
    string? Picture,
    int? Width,
    int? Height,
    string Facts,
    string Space,
    string UvSet,
    bool IsMissing,
    bool IsElsewhere,
    IReadOnlyList<double>? Mean,
    IEnumerable<HeldChannel> Channels
);

/// <param name="Letter"><c>r</c>, <c>g</c>, <c>b</c>, <c>a</c>; <c>l</c> of a grey image.</param>
internal sealed record HeldChannel(string Letter, double Min, double Mean, double Max, IEnumerable<int> Histogram);

internal sealed record HeldFinding(string Key, string Cause, string Severity, string Message, string? Input);

/// <summary>Values of one material, taken into the ledger as one entry.</summary>
/// <param name="Values">By input; an empty list leaves it to its default.</param>
/// <param name="Seen">The last entry of the ledger that the window knows.</param>
internal sealed record TakeValues(string Material, IReadOnlyDictionary<string, double[]> Values, Guid? Seen);

/// <param name="Input">That is fed now.</param>
/// <param name="To">The other input, to move or to fork.</param>
/// <param name="Channel">That arrives; null for what arrives now.</param>
internal sealed record LayWire(string Material, string Input, WireAct Act, string? To, Channels? Channel, Guid? Seen);

/// <summary>Gives materials what another has in some inputs.</summary>
internal sealed record CopyInputs(string From, IReadOnlyList<string> Inputs, IReadOnlyList<string> To, Guid? Seen);

/// <param name="Taking">How many of the materials take it.</param>
/// <param name="Left">Those that do not, by the reason.</param>
internal sealed record CopyView(int Of, int Taking, FixView Fix, IEnumerable<LeftGroup> Left);

internal sealed record LeftGroup(string Reason, IEnumerable<string> Materials);

/// <summary>Gives what wears a material another one.</summary>
/// <param name="Wearers">Empty for all that wear it.</param>
/// <param name="To">A material of the scene; the name of a new one to split off.</param>
internal sealed record AssignTo(string Material, IReadOnlyList<WornPart> Wearers, string To, bool IsSplit, Guid? Seen);

/// <summary>Has one place of shared geometry that wears a material no longer share it.</summary>
/// <param name="Mesh">Id of what it shares.</param>
/// <param name="Instance">Its id.</param>
internal sealed record OwnInstance(string Material, string Mesh, string Instance, Guid? Seen);
