using System.Collections.Concurrent;
using System.Collections.Immutable;
using Microsoft.AspNetCore.SignalR;
using RootCall.Core.Muster;

namespace RootCall.Web.Live;

/// <summary>
/// Watches the files of scenes that were looked at lately. A folder is watched where its file system tells of changes; all
/// are asked for their times now and then besides, since a file server tells nothing. Open windows hear which scenes changed.
/// </summary>
internal sealed partial class FileWatch(IHubContext<WorkHub> windows, ILogger<FileWatch> log) : BackgroundService
{
    private const int MostFolders = 1_000;
    private const int MostFiles = 500_000;
    private static readonly TimeSpan Lately = TimeSpan.FromMinutes(30);
    private static readonly TimeSpan Settle = TimeSpan.FromMilliseconds(400);
    private static readonly TimeSpan AskEvery = TimeSpan.FromSeconds(10);

    /// <param name="Files">As the muster found them.</param>
    /// <param name="Changed">Those that are not what it found.</param>
    private sealed record Watched(
        DateTimeOffset At,
        int Revision,
        ImmutableDictionary<string, FileStamp> Files,
        ImmutableHashSet<string> Changed,
        int Changes
    )
    {
        /// <summary>Those that turned out broken when they were decoded, after the muster.</summary>
        public ImmutableHashSet<string> Broken { get; init; } = [];
    }

    private readonly ConcurrentDictionary<Guid, Watched> scenes = new();
    private int counted;
    private readonly ConcurrentDictionary<string, FileSystemWatcher?> watchers = new(StringComparer.Ordinal);
    private readonly ConcurrentDictionary<string, byte> touched = new(StringComparer.Ordinal);

    /// <summary>Files of a scene that are not what its last muster saw.</summary>
    public IReadOnlySet<string> Changed(Guid sceneId) =>
        scenes.TryGetValue(sceneId, out var known) ? known.Changed : ImmutableHashSet<string>.Empty;

    /// <summary>Files of a scene that turned out broken since its last muster.</summary>
    public IReadOnlySet<string> Broken(Guid sceneId) =>
        scenes.TryGetValue(sceneId, out var known) ? known.Broken : ImmutableHashSet<string>.Empty;

    /// <summary>A file could not be decoded: whoever shows a scene with it hears so at once.</summary>
    public async Task Broke(string path, CancellationToken stop)
    {
        foreach (var (id, scene) in scenes)
        {
            if (!scene.Files.ContainsKey(path) || scene.Broken.Contains(path))
                continue;
            scenes.AddOrUpdate(
                id,
                _ => scene,
                (_, now) => now with { Broken = now.Broken.Add(path), Changes = Interlocked.Increment(ref counted) }
            );
            await windows.Clients.Group(WorkHub.GroupOf(id)).SendAsync("scene", id, WorkHub.Files, stop);
        }
    }

    /// <summary>Somebody looks at this scene.</summary>
    /// <returns>Counts the changes of its files on disk; 0 where they are not watched.</returns>
    public int Look(Guid sceneId)
    {
        if (!scenes.TryGetValue(sceneId, out var known))
            return 0;
        scenes.TryUpdate(sceneId, known with { At = DateTimeOffset.UtcNow }, known);
        return known.Changes;
    }

    /// <summary>Takes over the files of a scene: all with each muster, those that its ledger calls in between.</summary>
    /// <param name="revision">Counts up with each muster.</param>
    /// <param name="report">With the ledger.</param>
    /// <returns>The count of changes from here on; null when all were taken over before.</returns>
    public int? Look(Guid sceneId, int revision, MusterReport report)
    {
        var known = scenes.TryGetValue(sceneId, out var there) && there.Revision == revision ? there : null;
        var files = report
            .References.Where(r => r.Resolved is not null && r.Stamp is not null && r.Reference.Carried is null)
            .DistinctBy(r => r.Resolved)
            .Where(r => known?.Files.ContainsKey(r.Resolved!) != true)
            .Select(r => KeyValuePair.Create(r.Resolved!, r.Stamp!.Value))
            .ToList();
        if (known is not null && files.Count == 0)
            return null;
        var changes = Interlocked.Increment(ref counted);
        scenes[sceneId] = known is null
            ? new(DateTimeOffset.UtcNow, revision, files.ToImmutableDictionary(StringComparer.Ordinal), [], changes)
            : known with
            {
                Files = known.Files.AddRange(files),
                Changes = changes,
            };
        Forget();
        foreach (var folder in files.Select(f => Path.GetDirectoryName(f.Key)!).Distinct(StringComparer.Ordinal))
            Watch(folder);
        // What changed since they were mustered, and before anybody watched, is asked for once.
        foreach (var file in files)
            touched[file.Key] = 0;
        return changes;
    }

    /// <summary>Scenes that nobody looked at for the longest time are watched no more when there are too many files.</summary>
    private void Forget()
    {
        var files = 0;
        foreach (var (id, scene) in scenes.OrderByDescending(s => s.Value.At))
            if ((files += scene.Files.Count) > MostFiles && scene.Files.Count < files)
                scenes.TryRemove(id, out _);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var asked = DateTimeOffset.UtcNow;
        using var timer = new PeriodicTimer(Settle);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            if (DateTimeOffset.UtcNow - asked > AskEvery)
            {
                asked = DateTimeOffset.UtcNow;
                foreach (
                    var path in scenes
                        .Values.SelectMany(s => s.Files.Keys)
                        .Where(p => watchers.GetValueOrDefault(Path.GetDirectoryName(p)!) is null)
                )
                    touched[path] = 0;
            }

            await Tell(stoppingToken);
        }
    }

    public override void Dispose()
    {
        foreach (var watcher in watchers.Values)
            watcher?.Dispose();
        base.Dispose();
    }

    private async Task Tell(CancellationToken stop)
    {
        foreach (var (id, scene) in scenes)
            if (DateTimeOffset.UtcNow - scene.At > Lately)
                scenes.TryRemove(id, out _);
        var paths = new List<string>();
        foreach (var path in touched.Keys)
            if (touched.TryRemove(path, out _))
                paths.Add(path);
        if (paths.Count == 0)
            return;
        foreach (var (id, scene) in scenes)
        {
            var mine = paths.Where(scene.Files.ContainsKey).ToList();
            var differ = mine.Where(p => FileFacts.Stamp(p) != scene.Files[p]).ToList();
            var changed = scene.Changed.Except(mine).Union(differ);
            // One that differs again was written over once more: its picture is another one.
            if (differ.Count == 0 && changed.Count == scene.Changed.Count)
                continue;
            // Somebody may have looked meanwhile; what they took over is kept.
            scenes.AddOrUpdate(
                id,
                _ => scene,
                (_, now) =>
                    now.Revision == scene.Revision ? now with { Changed = changed, Changes = Interlocked.Increment(ref counted) } : now
            );
            await windows.Clients.Group(WorkHub.GroupOf(id)).SendAsync("scene", id, WorkHub.Files, stop);
        }
    }

    private void Watch(string folder)
    {
        if (watchers.Count >= MostFolders || !watchers.TryAdd(folder, null))
            return;
        try
        {
            var watcher = new FileSystemWatcher(folder)
            {
                NotifyFilter = NotifyFilters.FileName | NotifyFilters.LastWrite | NotifyFilters.Size,
            };
            watcher.Changed += (_, e) => touched[e.FullPath] = 0;
            watcher.Created += (_, e) => touched[e.FullPath] = 0;
            watcher.Deleted += (_, e) => touched[e.FullPath] = 0;
            watcher.Renamed += (_, e) => (touched[e.FullPath], touched[e.OldFullPath]) = (0, 0);
            watcher.EnableRaisingEvents = true;
            watchers[folder] = watcher;
        }
        catch (Exception e) when (e is IOException or ArgumentException or UnauthorizedAccessException)
        {
            LogUnwatched(folder, e.Message);
        }
    }

    [LoggerMessage(LogLevel.Information, "{Folder} cannot be watched and is asked now and then: {Reason}")]
    private partial void LogUnwatched(string folder, string reason);
}
