using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;

namespace RootCall.Data.Stores;

/// <summary>Headers, hashes and looks of files, kept between processes and shared by all scenes.</summary>
public sealed class KnownFileStore(IDbContextFactory<RootCallDb> databases, NpgsqlDataSource source) : IKnownFiles
{
    private const int AtOnce = 5_000;

    /// <summary>Tells of files that turned out broken when they were decoded, a path at a time.</summary>
    public const string Channel = "rootcall_file";

    /// <summary>So many are told of; who has more broken ones sees them with the next muster.</summary>
    private const int MostTold = 200;

    /// <summary>PostgreSQL takes less than 8,000 bytes with a notice.</summary>
    private const int LongestTold = 2_000;

    /// <summary>Takes what is known of the files into the cache; what it knows already is not asked for.</summary>
    /// <param name="again">Asks for those too: another process may have learned more.</param>
    public async Task Load(FileFacts facts, IEnumerable<string> paths, CancellationToken stop, bool again = false)
    {
        foreach (var some in paths.Where(p => again || !facts.Knows(p)).Distinct(StringComparer.Ordinal).Chunk(AtOnce))
            facts.Add(await Read(some, string.Empty, stop));
    }

    /// <summary>Images that another process has decoded since, or could not decode.</summary>
    public async Task<IReadOnlyList<KnownFile>> Settled(IEnumerable<FileState> files, CancellationToken stop)
    {
        var found = new List<KnownFile>();
        foreach (var some in files.Chunk(AtOnce))
        {
            var states = some.ToHashSet();
            var known = await Read([.. some.Select(f => f.Path)], " AND (pixels IS NOT NULL OR undecoded IS NOT NULL)", stop);
            found.AddRange(known.Where(f => states.Contains(new(f.Path, f.Stamp))));
        }

        return found;
    }

    /// <summary>Writes down what the cache learned.</summary>
    public async Task Save(FileFacts facts, CancellationToken stop)
    {
        var learned = facts.TakeLearned();
        if (learned.Count == 0)
            return;
        await using var db = await databases.CreateDbContextAsync(stop);
        await using var transaction = await db.Database.BeginTransactionAsync(stop);
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        await db.Database.ExecuteSqlRawAsync("CREATE TEMP TABLE learned (LIKE known_files) ON COMMIT DROP", stop);
        await using (
            var copy = await connection.BeginBinaryImportAsync(
                "COPY learned (path, bytes, modified, probe, hash, look, pixels, undecoded) FROM STDIN (FORMAT BINARY)",
                stop
            )
        )
        {
            foreach (var file in learned)
            {
                await copy.StartRowAsync(stop);
                await copy.WriteAsync(file.Path, NpgsqlDbType.Text, stop);
                await copy.WriteAsync(file.Stamp.Bytes, NpgsqlDbType.Bigint, stop);
                await copy.WriteAsync(file.Stamp.ModifiedUtc.Ticks, NpgsqlDbType.Bigint, stop);
                if (file.Probe is { } probe)
                    await copy.WriteAsync(Json.Text(probe), NpgsqlDbType.Jsonb, stop);
                else
                    await copy.WriteNullAsync(stop);
                if (file.Hash is { } hash)
                    await copy.WriteAsync(hash, NpgsqlDbType.Text, stop);
                else
                    await copy.WriteNullAsync(stop);
                if (file.Look is { } look)
                    await copy.WriteAsync(unchecked((long)look), NpgsqlDbType.Bigint, stop);
                else
                    await copy.WriteNullAsync(stop);
                if (file.Pixels is { } pixels)
                    await copy.WriteAsync(Json.Text(pixels), NpgsqlDbType.Jsonb, stop);
                else
                    await copy.WriteNullAsync(stop);
                if (file.Undecoded is { } undecoded)
                    await copy.WriteAsync(Json.Text(undecoded), NpgsqlDbType.Jsonb, stop);
                else
                    await copy.WriteNullAsync(stop);
            }

            await copy.CompleteAsync(stop);
        }

        // Of the same state of a file each process may have learned another part. Ordered, so that two never wait for each other.
        await db.Database.ExecuteSqlRawAsync(
            """
            INSERT INTO known_files AS known (path, bytes, modified, probe, hash, look, pixels, undecoded)
              SELECT path, bytes, modified, probe, hash, look, pixels, undecoded FROM learned ORDER BY path
            ON CONFLICT (path) DO UPDATE SET
              probe = COALESCE(
                excluded.probe,
                CASE WHEN (known.bytes, known.modified) = (excluded.bytes, excluded.modified) THEN known.probe END
              ),
              hash = COALESCE(
                excluded.hash,
                CASE WHEN (known.bytes, known.modified) = (excluded.bytes, excluded.modified) THEN known.hash END
              ),
              look = COALESCE(
                excluded.look,
                CASE WHEN (known.bytes, known.modified) = (excluded.bytes, excluded.modified) THEN known.look END
              ),
              pixels = COALESCE(
                excluded.pixels,
                CASE WHEN (known.bytes, known.modified) = (excluded.bytes, excluded.modified) THEN known.pixels END
              ),
              undecoded = COALESCE(
                excluded.undecoded,
                CASE WHEN (known.bytes, known.modified) = (excluded.bytes, excluded.modified) THEN known.undecoded END
              ),
              bytes = excluded.bytes, modified = excluded.modified
            """,
            stop
        );
        foreach (var broken in learned.Where(f => f.Undecoded is not null && f.Path.Length < LongestTold).Take(MostTold))
            await db.Database.ExecuteSqlAsync($"SELECT pg_notify({Channel}, {broken.Path})", stop);
        await transaction.CommitAsync(stop);
    }

    /// <param name="which">A condition of this class, added to the query.</param>
    private async Task<List<KnownFile>> Read(string[] paths, string which, CancellationToken stop)
    {
        await using var command = source.CreateCommand(
            $"SELECT path, bytes, modified, probe, hash, look, pixels, undecoded FROM known_files WHERE path = ANY($1){which}"
        );
        await using var rows = await command.Rows(paths, stop);
        var found = new List<KnownFile>(paths.Length);
        while (await rows.ReadAsync(stop))
            found.Add(
                new(
                    rows.GetString(0),
                    new(rows.GetInt64(1), new(rows.GetInt64(2), DateTimeKind.Utc)),
                    rows.Json<ProbeResult>(3),
                    rows.Value<string>(4),
                    rows.Value<long?>(5) is { } look ? unchecked((ulong)look) : null,
                    rows.Json<PixelStats>(6),
                    rows.Json<Undecoded>(7)
                )
            );
        return found;
    }
}
