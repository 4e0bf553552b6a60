using System.Collections.Concurrent;
using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Data.Rows;

namespace RootCall.Data.Stores;

/// <summary>Scenes and their musters: written whole in one transaction, read back as Core's records.</summary>
public sealed class SceneStore(IDbContextFactory<RootCallDb> databases)
{
    // The last musters shown. A muster of 20,000 references takes a second to read back, and is asked for at each click.
    private const int Kept = 8;
    private readonly ConcurrentDictionary<(Guid Arrival, int Revision), Lazy<Task<MusterReport>>> reports = new();

    /// <summary>Keeps a new arrival. A scene opened again from the same path gets another version.</summary>
    /// <param name="id">Id for the arrival; when it is known already nothing is added.</param>
    public async Task Arrive(Guid id, MusterReport report, int indexed, string source, bool uploaded, DateTimeOffset at, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        if (await db.Arrivals.AnyAsync(a => a.Id == id, stop)) return;
        var scene = report.Scene;
        var known = uploaded ? null : await db.Arrivals.Where(a => a.Path == scene.Path).OrderByDescending(a => a.Version).FirstOrDefaultAsync(stop);
        var sceneId = known?.SceneId ?? Guid.CreateVersion7();
        if (known is null) db.Scenes.Add(new() { Id = sceneId, Name = Path.GetFileName(scene.Path), CreatedAt = at });
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
            Scene = Json.Document(scene),
        };
        Fill(arrival, report, indexed, at);
        db.Arrivals.Add(arrival);
        await db.SaveChangesAsync(stop);
        await CopyReferences(db, arrival.Id, report, stop);
        await transaction.CommitAsync(stop);
    }

    /// <summary>Replaces the muster of the scene's newest arrival.</summary>
    public async Task Remuster(Guid sceneId, MusterReport report, int indexed, DateTimeOffset at, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        var arrival = await Newest(db, sceneId).FirstAsync(stop);
        Fill(arrival, report, indexed, at);
        await db.SaveChangesAsync(stop);
        await db.References.Where(r => r.ArrivalId == arrival.Id).ExecuteDeleteAsync(stop);
        await CopyReferences(db, arrival.Id, report, stop);
        await transaction.CommitAsync(stop);
    }

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
        var states = await db.References.Where(r => r.ArrivalId == arrival).GroupBy(r => r.State).Select(g => new { State = g.Key, Count = g.Count() }).ToListAsync(stop);
        return (states.Sum(s => s.Count), states.Where(s => s.State is not ("present" or "embedded")).Sum(s => s.Count));
    }

    /// <summary>The muster of an arrival as it was last made, without the ledger.</summary>
    public Task<MusterReport> Report(ArrivalRow arrival)
    {
        var key = (arrival.Id, arrival.MusterRevision);
        foreach (var old in reports.Keys.Where(k => k.Arrival == arrival.Id && k.Revision < arrival.MusterRevision)) reports.TryRemove(old, out _);
        while (reports.Count > Kept && reports.Keys.FirstOrDefault(k => k != key) is { } other) reports.TryRemove(other, out _);
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
            return new(scene, references, [.. arrival.MusterNotes]);
        }
        catch
        {
            reports.TryRemove((arrival.Id, arrival.MusterRevision), out _);
            throw;
        }
    }

    private static IQueryable<ArrivalRow> Newest(RootCallDb db, Guid sceneId) => db.Arrivals.Where(a => a.SceneId == sceneId).OrderByDescending(a => a.Version);

    private static void Fill(ArrivalRow arrival, MusterReport report, int indexed, DateTimeOffset at)
    {
        var scene = report.Scene;
        arrival.Scene = Json.Document(scene with { References = [] });
        arrival.Bytes = scene.Files.Sum(f => f.Bytes);
        (arrival.Nodes, arrival.Meshes, arrival.Materials, arrival.Images, arrival.Triangles) =
            (scene.Counts.Nodes, scene.Counts.Meshes, scene.Counts.Materials, scene.Counts.Images, scene.Counts.Triangles);
        arrival.MusterRevision++;
        arrival.MusteredAt = at;
        arrival.FilesIndexed = indexed;
        arrival.MusterNotes = [.. report.Notes];
    }

    private static async Task CopyReferences(RootCallDb db, Guid arrival, MusterReport report, CancellationToken stop)
    {
        // Binary COPY: tens of thousands of rows in well under a second.
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        await using var copy = await connection.BeginBinaryImportAsync("COPY \"references\" (arrival_id, number, kind, written, state, resolved, body) FROM STDIN (FORMAT BINARY)", stop);
        foreach (var reference in report.References)
        {
            await copy.StartRowAsync(stop);
            await copy.WriteAsync(arrival, NpgsqlDbType.Uuid, stop);
            await copy.WriteAsync(reference.Number, NpgsqlDbType.Integer, stop);
            await copy.WriteAsync(reference.Reference.Kind.Word(), NpgsqlDbType.Text, stop);
            await copy.WriteAsync(Storable(reference.Reference.Written), NpgsqlDbType.Text, stop);
            await copy.WriteAsync(reference.State.Word(), NpgsqlDbType.Text, stop);
            if (reference.Resolved is null) await copy.WriteNullAsync(stop);
            else await copy.WriteAsync(reference.Resolved, NpgsqlDbType.Text, stop);
            await copy.WriteAsync(Storable(Json.Text(reference)), NpgsqlDbType.Jsonb, stop);
        }

        await copy.CompleteAsync(stop);
    }

    // PostgreSQL's text holds no zero character; a path that has one cannot be a file's either.
    private static string Storable(string text) => text.Replace("\0", "\uFFFD", StringComparison.Ordinal).Replace("\\u0000", "\\uFFFD", StringComparison.Ordinal);
}
