using RootCall.Core.Muster;

namespace RootCall.Core.Jobs;

/// <summary>An edit that could not be made on the arrival, and why.</summary>
public sealed record RefusedEdit(Guid Entry, string What, string Reason);

/// <summary>What a muster found, to be kept with its arrival.</summary>
/// <param name="Indexed">Files under the roots when it was made.</param>
public sealed record Mustered(MusterReport Report, int Indexed, IReadOnlyList<RefusedEdit> Refused)
{
    /// <summary>Entries of the ledger that are in the scene already.</summary>
    public IReadOnlyList<Guid> Included { get; init; } = [];

    /// <summary>References that other entries bring.</summary>
    public IReadOnlyList<MusteredReference> Brought { get; init; } = [];
}
