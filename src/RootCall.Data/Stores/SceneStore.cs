using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Data.Rows;

namespace RootCall.Data.Stores;

/// <summary>What a list of many scenes shows of one.</summary>
/// <param name="References">With the applied ledger, once that was counted; until then without it.</param>
/// <param name="IsCounted">False when the ledger is not counted in.</param>
public sealed record ListedScene(
    Guid Id,
    string Path,
    string Format,
    string FormatId,
    int Version,
    string Source,
    DateTimeOffset ArrivedAt,
    long Bytes,
    int References,
    int Unanswered,
    int Applied,
    int Pending,
    bool IsCounted
);

/// <summary>Scenes and their musters: written whole in one transaction, read back as Core's records.</summary>
public sealed class SceneStore(IDbContextFactory<RootCallDb> databases) : ISceneShelf
{
    /// <summary>The scene that was opened from that path before; null when none was.</summary>
    public async Task<Guid?> Known(string path, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return (
            await db.Arrivals.Where(a => a.Path == path && !a.Uploaded).OrderByDescending(a => a.Version).FirstOrDefaultAsync(stop)
        )?.SceneId;
    }

    /// <inheritdoc/>
    public async Task<Guid> Arrive(Delivered delivered, CancellationToken stop)
    {
        var (id, mustered, versionOf, source, uploaded, at) = delivered;
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
        await Turns.End(db, sceneId, SceneChange.Muster, stop);
        await transaction.CommitAsync(stop);
        return sceneId;
    }

    /// <inheritdoc/>
    public async Task<bool> Remuster(Arrival started, Mustered mustered, DateTimeOffset at, CancellationToken stop)
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
        await Turns.End(db, started.SceneId, SceneChange.Muster, stop);
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
        return await Heads(db.Arrivals.Where(a => a.SceneId == sceneId && a.Version == version)).FirstOrDefaultAsync(stop);
    }

    /// <summary>The newest arrival, without what was read and found of it; null when there is no such scene.</summary>
    public async Task<ArrivalRow?> Arrival(Guid sceneId, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await Heads(Newest(db, sceneId)).FirstOrDefaultAsync(stop);
    }

    /// <inheritdoc/>
    public async Task<Arrival?> Newest(Guid sceneId, CancellationToken stop) =>
        await Arrival(sceneId, stop) is { } row ? new(row.Id, row.SceneId, row.Path, row.Source, row.MusterRevision) : null;

    /// <summary>Counts up with each change of the scene or its ledger; null when there is no such scene.</summary>
    public async Task<long?> Revision(Guid sceneId, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db.Scenes.Where(s => s.Id == sceneId).Select(s => (long?)s.Revision).FirstOrDefaultAsync(stop);
    }

    /// <summary>All scenes, the last that arrived first, in one query.</summary>
    public async Task<List<ListedScene>> List(CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db
            .Arrivals.Where(a => a.Version == db.Arrivals.Where(o => o.SceneId == a.SceneId).Max(o => o.Version))
            .Join(db.Scenes, a => a.SceneId, s => s.Id, (a, s) => new { a, s })
            .OrderByDescending(x => x.a.ArrivedAt)
            .Select(x => new ListedScene(
                x.a.SceneId,
                x.a.Path,
                x.a.FormatName,
                x.a.FormatId,
                x.a.Version,
                x.a.Source,
                x.a.ArrivedAt,
                x.a.Bytes,
                x.s.ShownReferences ?? x.a.ReferenceCount,
                x.s.ShownUnanswered ?? x.a.Unanswered,
                db.LedgerEntries.Count(l => l.SceneId == x.s.Id && l.State == "applied"),
                db.LedgerEntries.Count(l => l.SceneId == x.s.Id && l.State == "pending"),
                x.s.ShownReferences != null || !db.LedgerEntries.Any(l => l.SceneId == x.s.Id && l.State == "applied")
            ))
            .ToListAsync(stop);
    }

    /// <summary>Keeps what was counted of a scene with its ledger, unless it is not that revision any more.</summary>
    public async Task Counted(Guid sceneId, long revision, int references, int unanswered, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        await db
            .Scenes.Where(s => s.Id == sceneId && s.Revision == revision)
            .ExecuteUpdateAsync(
                s => s.SetProperty(x => x.ShownReferences, references).SetProperty(x => x.ShownUnanswered, unanswered),
                stop
            );
    }

    /// <summary>The muster of an arrival as it was last made, without the ledger. A large one takes a second to read.</summary>
    public async Task<MusterReport> Report(Guid arrival, CancellationToken stop) => (await Kept(arrival, stop)).Report;

    /// <summary>The same with all that was kept beside it.</summary>
    public async Task<Mustered> Kept(Guid arrival, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var read = await db
            .Arrivals.Where(a => a.Id == arrival)
            .Select(a => new
            {
                a.ReferenceCount,
                a.Scene,
                a.MusterNotes,
                a.FilesIndexed,
                a.Included,
                a.Beside,
                a.Brought,
                a.Refused,
            })
            .FirstAsync(stop);
        var references = ImmutableArray.CreateBuilder<MusteredReference>(read.ReferenceCount);
        await foreach (
            var body in db
                .References.Where(r => r.ArrivalId == arrival)
                .OrderBy(r => r.Number)
                .Select(r => r.Body)
                .AsAsyncEnumerable()
                .WithCancellation(stop)
        )
            using (body)
                references.Add(Json.Read<MusteredReference>(body));
        var scene = Taken<Scene>(read.Scene)! with { References = [.. references.Select(r => r.Reference)] };
        return new(
            new(scene, references.ToImmutable(), [.. read.MusterNotes])
            {
                Beside = read.Beside is null ? [] : Taken<ImmutableArray<FileBeside>>(read.Beside),
            },
            read.FilesIndexed,
            Taken<List<RefusedEdit>>(read.Refused) ?? []
        )
        {
            Included = read.Included,
            Brought = Taken<List<MusteredReference>>(read.Brought) ?? [],
        };
    }

    /// <summary>The scene of an arrival as it was read, without its references.</summary>
    public async Task<Scene> Scene(Guid arrival, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return Taken<Scene>(await db.Arrivals.Where(a => a.Id == arrival).Select(a => a.Scene).FirstAsync(stop))!;
    }

    /// <summary>What a document holds; it gives its memory back.</summary>
    private static T? Taken<T>(JsonDocument? document)
    {
        using (document)
            return document is null ? default : Json.Read<T>(document);
    }

    /// <summary>One reference of an arrival, as the last muster found it; null when there is no such number.</summary>
    public async Task<MusteredReference?> Reference(Guid arrival, int number, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        using var body = await db
            .References.Where(r => r.ArrivalId == arrival && r.Number == number)
            .Select(r => r.Body)
            .FirstOrDefaultAsync(stop);
        return body is null ? null : Json.Read<MusteredReference>(body);
    }

    /// <summary>All but the documents: a large scene's are tens of megabytes, and most who ask want to know where it lies.</summary>
    private static IQueryable<ArrivalRow> Heads(IQueryable<ArrivalRow> arrivals) =>
        arrivals
            .AsNoTracking()
            .Select(a => new ArrivalRow
            {
                Id = a.Id,
                SceneId = a.SceneId,
                Version = a.Version,
                Path = a.Path,
                Source = a.Source,
                Uploaded = a.Uploaded,
                ArrivedAt = a.ArrivedAt,
                Bytes = a.Bytes,
                FormatId = a.FormatId,
                FormatName = a.FormatName,
                Nodes = a.Nodes,
                Meshes = a.Meshes,
                Materials = a.Materials,
                Images = a.Images,
                Triangles = a.Triangles,
                MusterRevision = a.MusterRevision,
                MusteredAt = a.MusteredAt,
                FilesIndexed = a.FilesIndexed,
                ReferenceCount = a.ReferenceCount,
                Unanswered = a.Unanswered,
                MusterNotes = a.MusterNotes,
                Included = a.Included,
            });

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
        (arrival.ReferenceCount, arrival.Unanswered) = (
            mustered.Report.References.Length,
            mustered.Report.References.Length - mustered.Report.Answering
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
