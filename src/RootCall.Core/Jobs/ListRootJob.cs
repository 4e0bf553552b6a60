using RootCall.Core.Files;
using RootCall.Core.Muster;

namespace RootCall.Core.Jobs;

/// <summary>Brings the index of a root up to date, sizes and times of files too.</summary>
public sealed class ListRootJob(Indexes indexes, IRoots roots)
{
    public Task Run(IAttempt attempt, ListRoot request, CancellationToken stop)
    {
        if (roots.Everything.Enter(request.Folder) is not { } folder || !Directory.Exists(folder))
            throw new CannotUseException($"“{request.Folder}” is no folder that can be listed any more.");
        return indexes.Get(new RootScope([folder]), Refresh.Files, (n, at) => attempt.Report("listing", Path.GetFileName(at), n), stop);
    }
}
