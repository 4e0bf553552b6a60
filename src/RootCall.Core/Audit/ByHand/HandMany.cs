using System.Collections.Immutable;
using RootCall.Core.Edits;

namespace RootCall.Core.Audit;

/// <summary>Several decisions about one place, taken at once.</summary>
public sealed record HandMany(ImmutableArray<HandDecision> All) : HandDecision
{
    public override string Title => All.Length == 1 ? All[0].Title : $"{All[0].Title} and {All.Length - 1} more";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place) => [.. All.SelectMany(d => d.Edits(scene, place))];
}
