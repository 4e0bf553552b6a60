using RootCall.Core.Edits;

namespace RootCall.Core.Jobs;

/// <summary>The ledger of each scene.</summary>
public interface ILedgers
{
    Task<Ledger> Read(Guid sceneId, CancellationToken stop);

    /// <summary>Changes of one scene's ledger are made one after the other, each on what the one before it left.</summary>
    /// <returns>The ledger after it.</returns>
    Task<Ledger> Change(Guid sceneId, Func<Ledger, Ledger> change, CancellationToken stop);
}
