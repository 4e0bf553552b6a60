using RootCall.Core.Muster;
using RootCall.Core.Sessions;

namespace RootCall.Core.Jobs;

/// <summary>A scene as it was read and mustered.</summary>
public sealed record SceneRead(Session Session)
{
    public MusterReport Report => Session.Report;

    public MusterContext Context => Session.Context;

    /// <summary>
    /// What is kept: the scene as its files say it, with the entries of the ledger that are in it, and what was found
    /// of references that others bring.
    /// </summary>
    public Mustered ToKeep
    {
        get
        {
            var basis = Session.Edited.Basis;
            var known = Report.References.DistinctBy(r => r.Reference.Key).ToDictionary(r => r.Reference.Key);
            var own = basis.References.Select(r => known.TryGetValue(r.Key, out var there) ? there with { Reference = r } : null).ToList();
            var report = own.Contains(null)
                ? Mustering.Run(basis, Context, Report)
                : Report with
                {
                    Scene = basis,
                    References = [.. own.Select(r => r!)],
                };
            var keys = basis.References.Select(r => r.Key).ToHashSet();
            var included = Session.Edited.InBasis.Select(e => e.Id).ToList();
            return new(
                report,
                Context.Index.Count,
                [
                    .. Session
                        .Refused.Where(r => included.Contains(r.Entry.Id))
                        .Select(r => new RefusedEdit(r.Entry.Id, r.Edit.Describe(), r.Reason)),
                ]
            )
            {
                Included = included,
                Brought = [.. Report.References.Where(r => !keys.Contains(r.Reference.Key))],
            };
        }
    }
}
