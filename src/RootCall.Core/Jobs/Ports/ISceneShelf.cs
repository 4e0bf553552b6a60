using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.Jobs;

/// <summary>One version of a scene that has arrived.</summary>
/// <param name="Path">Absolute path of the scene's file.</param>
/// <param name="Source">Where it came from, as people call it.</param>
/// <param name="MusterRevision">Counts up with each muster of it that is kept.</param>
public sealed record Arrival(Guid Id, Guid SceneId, string Path, string Source, int MusterRevision);

/// <summary>A scene that arrives.</summary>
/// <param name="Id">When an arrival of that id is known nothing is added.</param>
/// <param name="VersionOf">The scene it is another version of; null for a new scene.</param>
public sealed record Delivered(Guid Id, Mustered Mustered, Guid? VersionOf, string Source, bool Uploaded, DateTimeOffset At);

/// <summary>Scenes that have arrived, and what was found of them.</summary>
public interface ISceneShelf
{
    /// <summary>The scene that was opened from that path before; null when none was.</summary>
    Task<Guid?> Known(string path, CancellationToken stop);

    /// <summary>Keeps a new arrival, whole or not at all.</summary>
    /// <returns>The scene's id.</returns>
    Task<Guid> Arrive(Delivered delivered, CancellationToken stop);

    /// <summary>The newest arrival; null when there is no such scene.</summary>
    Task<Arrival?> Newest(Guid sceneId, CancellationToken stop);

    /// <summary>The arrival of that number; null when there is none, or it was removed.</summary>
    Task<Arrival?> Version(Guid sceneId, int version, CancellationToken stop);

    /// <summary>The muster of an arrival as it was last kept, without the ledger.</summary>
    Task<MusterReport> Report(Guid arrival, CancellationToken stop);

    /// <summary>The scene of an arrival as it was read, without its references.</summary>
    Task<Scene> Scene(Guid arrival, CancellationToken stop);

    /// <summary>One reference of an arrival, as the last muster found it; null when there is no such number.</summary>
    Task<MusteredReference?> Reference(Guid arrival, int number, CancellationToken stop);

    /// <summary>Replaces the muster of an arrival.</summary>
    /// <param name="started">The arrival as it was when the work on it began.</param>
    /// <returns>False when something newer stands by now: nothing is stored over it.</returns>
    Task<bool> Remuster(Arrival started, Mustered mustered, DateTimeOffset at, CancellationToken stop);
}

/// <summary>What a job asks of it.</summary>
public static class SceneShelves
{
    /// <exception cref="Files.CannotUseException">The scene is no longer there.</exception>
    public static async Task<Arrival> Demand(this ISceneShelf scenes, Guid sceneId, CancellationToken stop) =>
        await scenes.Newest(sceneId, stop) ?? throw new Files.CannotUseException("The scene is no longer there.");
}
