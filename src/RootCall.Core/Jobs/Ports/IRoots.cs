using RootCall.Core.Files;

namespace RootCall.Core.Jobs;

/// <summary>What may be read, and written into.</summary>
public interface IRoots
{
    /// <summary>All that a job may ever read.</summary>
    RootScope Everything { get; }

    /// <summary>What a scene may read: its own folder, the roots that are searched, and what is kept for it.</summary>
    /// <param name="sceneId">Null for a scene that has not arrived yet.</param>
    Task<RootScope> ScopeOf(string scenePath, Guid? sceneId, CancellationToken stop);

    /// <summary>Folders that copies and packages may be written into.</summary>
    Task<RootScope> Outputs(CancellationToken stop);
}
