using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Data.Stores;
using RootCall.Data.Work;

namespace RootCall.Worker.Tasks;

/// <summary>Brings the index of a root up to date, sizes and times of files too.</summary>
public sealed class ListRootTask(Indexes indexes, RootStore roots)
{
    public Task Run(ListRoot request, WorkProgress progress, CancellationToken stop)
    {
        if (roots.Everything.Enter(request.Folder) is not { } folder || !Directory.Exists(folder))
            throw new CannotUseException($"“{request.Folder}” is no folder that can be listed any more.");
        return indexes.Get(new RootScope([folder]), Refresh.Files, (n, at) => progress.Report("listing", Path.GetFileName(at), n), stop);
    }
}
