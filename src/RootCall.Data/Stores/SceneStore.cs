using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Data.Rows;

namespace RootCall.Data.Stores;

/// <summary>An edit that could not be made on the arrival, and why.</summary>
public sealed record RefusedEdit(Guid Entry, string What, string Reason);

/// <summary>What a muster found, to be kept with its arrival.</summary>
public sealed record Mustered(MusterReport Report, int Indexed, IReadOnlyList<RefusedEdit> Refused)
{
    /// <summary>Entries of the ledger that are in the scene already.</summary>
    public IReadOnlyList<Guid> Included { get; init; } = [];

    /// <summary>References that other entries bring.</summary>
    public IReadOnlyList<MusteredReference> Brought { get; init; } = [];
}

/// <summary>Scenes and their musters: written whole in one transaction, read back as Core's records.</summary>
public sealed class SceneStore(IDbContextFactory<RootCallDb> databases)
{
    // The last musters shown. A muster of 20,000 references takes a second to read back, and is asked for at each click.
    private const int Kept = 8;
    private readonly ConcurrentDictionary<(Guid Arrival, int Revision), Lazy<Task<MusterReport>>> reports = new();

    /// <summary>The scene that was opened from that path before; null when none was.</summary>
    public async Task<Guid?> Known(string path, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return (
            await db.Arrivals.Where(a => a.Path == path && !a.Uploaded).OrderByDescending(a => a.Version).FirstOrDefaultAsync(stop)
        )?.SceneId;
    }

    /// <summary>Keeps a new arrival.</summary>
    /// <param name="id">Id for the arrival; when it is known already nothing is added.</param>
    /// <param name="versionOf">The scene it is another version of; null for a new scene.</param>
    /// <returns>The scene's id.</returns>
    public async Task<Guid> Arrive(
        Guid id,
        Mustered mustered,
        Guid? versionOf,
        string source,
        bool uploaded,
        DateTimeOffset at,
        CancellationToken stop
    )
    {
        var report = mustered.Report;
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        if (await db.Arrivals.FirstOrDefaultAsync(a => a.Id == id, stop) is { } there)
            return there.SceneId;
        var scene = report.Scene;
        var known = versionOf is { } of ? await Newest(db, of).FirstOrDefaultAsync(stop) : null;
        var sceneId = known?.SceneId ?? Guid.CreateVersion7();
        if (known is null)
            db.Scenes.Add(
                new()
                {
                    Id = sceneId,
                    Name = Path.GetFileName(scene.Path),
                    CreatedAt = at,
                }
            );
        var arrival = new ArrivalRow
        {
            Id = id,
            SceneId = sceneId,
            Version = (known?.Version ?? 0) + 1,
            Path = scene.Path,
            Source = source,
            Uploaded = uploaded,
            ArrivedAt = at,
            FormatId = scene.Format.Id,
            FormatName = scene.Format.Name,
            Scene = Stored(scene),
        };
        Fill(arrival, mustered, at);
        db.Arrivals.Add(arrival);
        await db.SaveChangesAsync(stop);
        await CopyReferences(db, arrival.Id, report, stop);
        await transaction.CommitAsync(stop);
        return sceneId;
    }

    /// <summary>Replaces the muster of an arrival.</summary>
    /// <param name="started">The arrival as it was when the work on it began.</param>
    /// <returns>False when something newer stands by now: nothing is stored over it.</returns>
    public async Task<bool> Remuster(ArrivalRow started, Mustered mustered, DateTimeOffset at, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        // Two musters of one scene take turns here; the later one sees what the earlier one stored.
        await Turns.Take(db, started.SceneId, stop);
        var arrival = await Newest(db, started.SceneId).FirstAsync(stop);
        if (arrival.Id != started.Id || arrival.MusterRevision != started.MusterRevision)
            return false;
        Fill(arrival, mustered, at);
        await db.SaveChangesAsync(stop);
        await db.References.Where(r => r.ArrivalId == arrival.Id).ExecuteDeleteAsync(stop);
        await CopyReferences(db, arrival.Id, mustered.Report, stop);
        await transaction.CommitAsync(stop);
        return true;
    }

    /// <summary>The destination a scene is audited for.</summary>
    public async Task<string> Destination(Guid sceneId, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db.Scenes.Where(s => s.Id == sceneId).Select(s => s.Destination).FirstOrDefaultAsync(stop) ?? "plain";
    }

    public async Task SetDestination(Guid sceneId, string destination, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await db.Scenes.Where(s => s.Id == sceneId).ExecuteUpdateAsync(s => s.SetProperty(x => x.Destination, destination), stop);
    }

    /// <summary>An arrival of that version; null when there is none.</summary>
    public async Task<ArrivalRow?> Arrival(Guid sceneId, int version, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db.Arrivals.AsNoTracking().FirstOrDefaultAsync(a => a.SceneId == sceneId && a.Version == version, stop);
    }

    public static IReadOnlyList<MusteredReference> BroughtOf(ArrivalRow arrival) =>
        arrival.Brought is { } brought ? Json.Read<List<MusteredReference>>(brought) : [];

    public static IReadOnlyList<RefusedEdit> RefusedOf(ArrivalRow arrival) =>
        arrival.Refused is { } refused ? Json.Read<List<RefusedEdit>>(refused) : [];

    /// <summary>The newest arrival, without its references; null when there is no such scene.</summary>
    public async Task<ArrivalRow?> Arrival(Guid sceneId, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await Newest(db, sceneId).AsNoTracking().FirstOrDefaultAsync(stop);
    }

    /// <summary>How many references an arrival has, and how many of them do not answer, without reading them.</summary>
    public async Task<(int References, int Unanswered)> Count(Guid arrival, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var states = await db
            .References.Where(r => r.ArrivalId == arrival)
            .GroupBy(r => r.State)
            .Select(g => new { State = g.Key, Count = g.Count() })
            .ToListAsync(stop);
        return (states.Sum(s => s.Count), states.Where(s => s.State is not ("present" or "embedded")).Sum(s => s.Count));
    }

    /// <summary>The muster of an arrival as it was last made, without the ledger.</summary>
    public Task<MusterReport> Report(ArrivalRow arrival)
    {
        var key = (arrival.Id, arrival.MusterRevision);
        foreach (var old in reports.Keys.Where(k => k.Arrival == arrival.Id && k.Revision < arrival.MusterRevision))
            reports.TryRemove(old, out _);
        while (reports.Count > Kept && reports.Keys.FirstOrDefault(k => k != key) is { } other)
            reports.TryRemove(other, out _);
        return reports.GetOrAdd(key, _ => new(() => Read(arrival))).Value;
    }

    private async Task<MusterReport> Read(ArrivalRow arrival)
    {
        try
        {
            await using var db = await databases.CreateDbContextAsync();
            var bodies = await db.References.Where(r => r.ArrivalId == arrival.Id).OrderBy(r => r.Number).Select(r => r.Body).ToListAsync();
            var references = bodies.Select(Json.Read<MusteredReference>).ToImmutableArray();
            var scene = Json.Read<Scene>(arrival.Scene) with { References = [.. references.Select(r => r.Reference)] };
            return new(scene, references, [.. arrival.MusterNotes])
            {
                Beside = arrival.Beside is { } beside ? Json.Read<ImmutableArray<FileBeside>>(beside) : [],
            };
        }
        catch
        {
            reports.TryRemove((arrival.Id, arrival.MusterRevision), out _);
            throw;
        }
    }

    private static IQueryable<ArrivalRow> Newest(RootCallDb db, Guid sceneId) =>
        db.Arrivals.Where(a => a.SceneId == sceneId).OrderByDescending(a => a.Version);

    private static void Fill(ArrivalRow arrival, Mustered mustered, DateTimeOffset at)
    {
        var scene = mustered.Report.Scene;
        arrival.Scene = Stored(scene);
        arrival.Bytes = scene.Files.Sum(f => f.Bytes);
        (arrival.Nodes, arrival.Meshes, arrival.Materials, arrival.Images, arrival.Triangles) = (
            scene.Counts.Nodes,
            scene.Counts.Meshes,
            scene.Counts.Materials,
            scene.Counts.Images,
            scene.Counts.Triangles
        );
        arrival.MusterRevision++;
        arrival.MusteredAt = at;
        arrival.FilesIndexed = mustered.Indexed;
        arrival.MusterNotes = [.. mustered.Report.Notes];
        arrival.Beside = mustered.Report.Beside.IsDefaultOrEmpty ? null : Json.Document(mustered.Report.Beside);
        arrival.Included = [.. mustered.Included];
        arrival.Brought = mustered.Brought.Count == 0 ? null : Json.Document(mustered.Brought);
        arrival.Refused = mustered.Refused.Count == 0 ? null : Json.Document(mustered.Refused);
    }

    private static JsonDocument Stored(Scene scene) => JsonDocument.Parse(Storable(Json.Text(scene with { References = [] })));

    private static async Task CopyReferences(RootCallDb db, Guid arrival, MusterReport report, CancellationToken stop)
    {
        // Binary COPY: tens of thousands of rows in well under a second.
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        await using var copy = await connection.BeginBinaryImportAsync(
            "COPY \"references\" (arrival_id, number, kind, written, state, resolved, body) FROM STDIN (FORMAT BINARY)",
            stop
        );
        foreach (var reference in report.References)
        {
            await copy.StartRowAsync(stop);
            await copy.WriteAsync(arrival, NpgsqlDbType.Uuid, stop);
            await copy.WriteAsync(reference.Number, NpgsqlDbType.Integer, stop);
            await copy.WriteAsync(reference.Reference.Kind.Word(), NpgsqlDbType.Text, stop);
            await copy.WriteAsync(Storable(reference.Reference.Written), NpgsqlDbType.Text, stop);
            await copy.WriteAsync(reference.State.Word(), NpgsqlDbType.Text, stop);
            if (reference.Resolved is null)
                await copy.WriteNullAsync(stop);
            else
                await copy.WriteAsync(reference.Resolved, NpgsqlDbType.Text, stop);
            await copy.WriteAsync(Storable(Json.Text(reference)), NpgsqlDbType.Jsonb, stop);
        }

        await copy.CompleteAsync(stop);
    }

    // PostgreSQL's text holds no zero character; a path that has one cannot be a file's either.
    private static string Storable(string text) =>
        text.Replace("\0", "\uFFFD", StringComparison.Ordinal).Replace("\\u0000", "\\uFFFD", StringComparison.Ordinal);
}
