using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Data.Rows;

namespace RootCall.Data.Stores;

/// <summary>What a list of many scenes shows of one.</summary>
/// <param name="References">With the applied ledger, as that was last counted; until it ever was without it.</param>
/// <param name="IsCounted">False when something was decided since.</param>
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
)
{
    /// <summary>What people call it.</summary>
    public string Title { get; init; } = string.Empty;

    /// <summary>Open findings of its last audit; null when there was none.</summary>
    public int? Blockers { get; init; }

    public int? Warnings { get; init; }

    /// <summary>It was audited as it stands.</summary>
    public bool IsAudited { get; init; }
}

/// <summary>Scenes and their musters: written whole in one transaction, read back as Core's records.</summary>
public sealed class SceneStore(IDbContextFactory<RootCallDb> databases, NpgsqlDataSource source) : ISceneShelf
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
        await Turns.Tell(db, sceneId, SceneChange.Findings, stop);
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
    public async Task<Arrival?> Newest(Guid sceneId, CancellationToken stop) => Head(await Arrival(sceneId, stop));

    /// <inheritdoc/>
    public async Task<Arrival?> Version(Guid sceneId, int version, CancellationToken stop) => Head(await Arrival(sceneId, version, stop));

    private static Arrival? Head(ArrivalRow? row) =>
        row is null ? null : new(row.Id, row.SceneId, row.Path, row.Source, row.MusterRevision);

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
        var ledgers = db
            .LedgerEntries.GroupBy(l => l.SceneId)
            .Select(g => new
            {
                Scene = g.Key,
                Applied = g.Count(l => l.State == "applied"),
                Pending = g.Count(l => l.State == "pending"),
            });
        // Joined so that the number of rows can be foreseen: PostgreSQL compares all scenes with all others otherwise.
        return await db
            .Scenes.SelectMany(
                s => db.Arrivals.Where(a => a.SceneId == s.Id).OrderByDescending(a => a.Version).Take(1),
                (s, a) => new { s, a }
            )
            .LeftJoin(
                ledgers,
                x => x.s.Id,
                l => l.Scene,
                (x, l) =>
                    new
                    {
                        x.s,
                        x.a,
                        Applied = (int?)l!.Applied ?? 0,
                        Pending = (int?)l.Pending ?? 0,
                        IsCounted = x.s.ShownRevision == x.s.Revision,
                    }
            )
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
                // What was counted before a decision is nearer than what was counted without any.
                (x.IsCounted || x.Applied > 0 ? x.s.ShownReferences : null) ?? x.a.ReferenceCount,
                (x.IsCounted || x.Applied > 0 ? x.s.ShownUnanswered : null) ?? x.a.Unanswered,
                x.Applied,
                x.Pending,
                x.IsCounted || x.Applied == 0
            )
            {
                Title = x.s.Name,
                Blockers = x.s.ShownBlockers,
                Warnings = x.s.ShownWarnings,
                IsAudited = x.s.AuditedRevision == x.s.Revision,
            })
            .ToListAsync(stop);
    }

    /// <summary>Keeps what was counted of a scene with its ledger, unless it is not that revision any more.</summary>
    public async Task Counted(ArrivalRow arrival, long revision, int references, int unanswered, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var scene = db.Scenes.Where(s => s.Id == arrival.SceneId && s.Revision == revision);
        var differs = await scene.AnyAsync(
            s => (s.ShownReferences ?? arrival.ReferenceCount) != references || (s.ShownUnanswered ?? arrival.Unanswered) != unanswered,
            stop
        );
        await scene
            .Where(s => differs || s.ShownRevision != revision)
            .ExecuteUpdateAsync(
                s =>
                    s.SetProperty(x => x.ShownReferences, references)
                        .SetProperty(x => x.ShownUnanswered, unanswered)
                        .SetProperty(x => x.ShownRevision, revision),
                stop
            );
        if (differs)
            await Turns.Tell(db, arrival.SceneId, SceneChange.Counted, stop);
    }

    /// <summary>Keeps what an audit found of a scene, and tells when it is another number.</summary>
    /// <param name="revision">That was audited.</param>
    public async Task Audited(Guid sceneId, long revision, int blockers, int warnings, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        var scene = db.Scenes.Where(s => s.Id == sceneId);
        var differs = await scene.AnyAsync(s => s.ShownBlockers != blockers || s.ShownWarnings != warnings, stop);
        await scene
            .Where(s => differs || s.AuditedRevision != revision)
            .ExecuteUpdateAsync(
                s =>
                    s.SetProperty(x => x.ShownBlockers, blockers)
                        .SetProperty(x => x.ShownWarnings, warnings)
                        .SetProperty(x => x.AuditedRevision, revision),
                stop
            );
        if (differs)
            await Turns.Tell(db, sceneId, SceneChange.Counted, stop);
    }

    /// <summary>Calls a scene otherwise.</summary>
    /// <exception cref="CannotUseException">The name is empty, or there is no such scene.</exception>
    public async Task Rename(Guid sceneId, string title, CancellationToken stop)
    {
        if (title.Trim() is not { Length: > 0 and <= LongestTitle } name)
            throw new CannotUseException($"A scene needs a name, of at most {LongestTitle} characters.");
        await using var db = await databases.CreateDbContextAsync(stop);
        if (await db.Scenes.Where(s => s.Id == sceneId).ExecuteUpdateAsync(s => s.SetProperty(x => x.Name, name), stop) == 0)
            throw new CannotUseException("There is no such scene any more.");
        await Turns.Tell(db, sceneId, SceneChange.Counted, stop);
    }

    private const int LongestTitle = 240;

    /// <summary>What people call the scene.</summary>
    public async Task<string> Title(Guid sceneId, CancellationToken stop)
    {
        await using var db = await databases.CreateDbContextAsync(stop);
        return await db.Scenes.Where(s => s.Id == sceneId).Select(s => s.Name).FirstOrDefaultAsync(stop) ?? string.Empty;
    }

    /// <summary>The muster of an arrival as it was last made, without the ledger. A large one takes a second to read.</summary>
    public async Task<MusterReport> Report(Guid arrival, CancellationToken stop) => (await Kept(arrival, stop)).Report;

    /// <summary>The same with all that was kept beside it.</summary>
    public async Task<Mustered> Kept(Guid arrival, CancellationToken stop)
    {
        var references = ImmutableArray.CreateBuilder<MusteredReference>();
        await using (var command = source.CreateCommand("SELECT body FROM \"references\" WHERE arrival_id = $1 ORDER BY number"))
        await using (var rows = await command.Rows(arrival, stop))
            while (await rows.ReadAsync(stop))
                references.Add(rows.Json<MusteredReference>(0)!);
        await using var head = source.CreateCommand(
            "SELECT scene, muster_notes, files_indexed, included, beside, brought, refused FROM arrivals WHERE id = $1"
        );
        await using var row = await head.Rows(arrival, stop);
        if (!await row.ReadAsync(stop))
            throw new CannotUseException("The scene is no longer there.");
        var scene = row.Json<Scene>(0)! with { References = [.. references.Select(r => r.Reference)] };
        var (notes, indexed, included) = (row.Value<string[]>(1), row.Value<int>(2), row.Value<Guid[]>(3));
        var beside = row.Json<ImmutableArray<FileBeside>>(4);
        var brought = row.Json<List<MusteredReference>>(5);
        return new(
            new(scene, references.ToImmutable(), [.. notes ?? []]) { Beside = beside.IsDefault ? [] : beside },
            indexed,
            row.Json<List<RefusedEdit>>(6) ?? []
        )
        {
            Included = included ?? [],
            Brought = brought ?? [],
        };
    }

    /// <summary>The scene of an arrival as it was read, without its references.</summary>
    public async Task<Scene> Scene(Guid arrival, CancellationToken stop)
    {
        await using var command = source.CreateCommand("SELECT scene FROM arrivals WHERE id = $1");
        await using var row = await command.Rows(arrival, stop);
        return await row.ReadAsync(stop) ? row.Json<Scene>(0)! : throw new CannotUseException("The scene is no longer there.");
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
        arrival.MaterialNames = [.. scene.Materials.Select(m => m.Name).Distinct()];
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
