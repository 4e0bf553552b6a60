using Npgsql;
using NpgsqlTypes;

namespace RootCall.Data.Stores;

/// <summary>What of a scene has the letters that were asked for.</summary>
/// <param name="Kind"><c>material</c> or <c>image</c>.</param>
/// <param name="Name">The first that has them.</param>
/// <param name="Count">How many have.</param>
public sealed record FoundScene(Guid SceneId, string Kind, string Name, int Count);

/// <summary>Finds scenes by what is in them.</summary>
public sealed class SceneSearch(NpgsqlDataSource source)
{
    private const string Query = """
        WITH newest AS (
            SELECT DISTINCT ON (scene_id) id, scene_id, material_names FROM arrivals ORDER BY scene_id, version DESC
        )
        SELECT scene_id, 'material', min(name), count(*)::int FROM newest, unnest(material_names) name
        WHERE name ILIKE $1 GROUP BY scene_id
        UNION ALL
        SELECT n.scene_id, 'image', min(r.written), count(*)::int FROM newest n JOIN "references" r ON r.arrival_id = n.id
        WHERE r.kind = 'image' AND (r.written ILIKE $1 OR r.resolved ILIKE $1) GROUP BY n.scene_id
        """;

    /// <param name="letters">Anywhere in a name or a path, in either case.</param>
    public async Task<List<FoundScene>> Find(string letters, CancellationToken stop)
    {
        var pattern = letters
            .Replace("\\", "\\\\", StringComparison.Ordinal)
            .Replace("%", "\\%", StringComparison.Ordinal)
            .Replace("_", "\\_", StringComparison.Ordinal);
        await using var command = source.CreateCommand(Query);
        command.Parameters.Add(new() { Value = $"%{pattern}%", NpgsqlDbType = NpgsqlDbType.Text });
        await using var rows = await command.ExecuteReaderAsync(stop);
        var found = new List<FoundScene>();
        while (await rows.ReadAsync(stop))
            found.Add(new(rows.GetGuid(0), rows.GetString(1), rows.GetString(2), rows.GetInt32(3)));
        return found;
    }

    /// <summary>Scenes whose newest version has a material of exactly that name.</summary>
    public async Task<HashSet<Guid>> WithMaterial(string name, CancellationToken stop)
    {
        // The database's text has no such letter, so no name that is kept has it.
        if (name.Contains('\0', StringComparison.Ordinal))
            return [];
        await using var command = source.CreateCommand(
            """
            SELECT scene_id FROM (SELECT DISTINCT ON (scene_id) scene_id, material_names FROM arrivals ORDER BY scene_id, version DESC) n
            WHERE $1 = ANY (material_names)
            """
        );
        command.Parameters.Add(new() { Value = name, NpgsqlDbType = NpgsqlDbType.Text });
        await using var rows = await command.ExecuteReaderAsync(stop);
        var found = new HashSet<Guid>();
        while (await rows.ReadAsync(stop))
            found.Add(rows.GetGuid(0));
        return found;
    }
}
