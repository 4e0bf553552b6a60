using System.Collections.Immutable;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>
/// What looks assign. A document holds no geometry: the names it assigns to are shown as meshes that nothing was
/// measured of.
/// </summary>
internal sealed class MtlxAssignments(MtlxDocument document, ReadContext context)
{
    public const string Set = "look";
    public const string Unmeasured = "MaterialX names geometry and holds none";

    public (ImmutableArray<Mesh> Meshes, ImmutableArray<VariantChoice> Looks) Read(List<ReadNote> notes, string name)
    {
        var looks = document.All("look").ToList();
        if (looks.Count == 0)
            return ([], []);
        var chosen = context.Chosen.GetValueOrDefault((string.Empty, Set)) ?? looks[0].Name;
        var look = looks.FirstOrDefault(l => l.Name == chosen) ?? looks[0];
        var meshes = new Dictionary<string, Mesh>(StringComparer.Ordinal);
        foreach (var assign in Assigns(look))
        {
            var material = assign.Tree["material"] ?? string.Empty;
            if (document.Find(material) is null)
                notes.Add(new($"Look {look.Name} assigns material {material}, which is not there.", $"{name}, line {assign.Tree.Line}"));
            foreach (var geometry in Geometry(assign))
                meshes[geometry] = new(geometry, 0, 0, 0, [], [new(string.Empty, material, 0)]) { Unmeasured = Unmeasured };
        }

        return ([.. meshes.Values], [new(string.Empty, Set, [.. looks.Select(l => l.Name)], look.Name)]);
    }

    /// <summary>What a look inherits comes first, so that its own assignments win.</summary>
    private IEnumerable<MtlxElement> Assigns(MtlxElement look)
    {
        var line = new List<MtlxElement>();
        for (
            MtlxElement? at = look;
            at is not null && !line.Contains(at);
            at = at.Tree["inherit"] is { } parent ? document.Find(parent) : null
        )
            line.Add(at);
        line.Reverse();
        return line.SelectMany(l => l.Tree.All("materialassign").Select(a => new MtlxElement(l.File, a)));
    }

    private IEnumerable<string> Geometry(MtlxElement assign)
    {
        var prefix = assign.Active("geomprefix") ?? string.Empty;
        foreach (var geometry in Split(assign.Tree["geom"]))
            yield return prefix + geometry;
        if (assign.Tree["collection"] is not { } name || document.Find(name) is not { } collection)
            yield break;
        var inner = collection.Active("geomprefix") ?? string.Empty;
        var excluded = Split(collection.Tree["excludegeom"]).ToHashSet(StringComparer.Ordinal);
        foreach (var geometry in Split(collection.Tree["includegeom"]).Where(g => !excluded.Contains(g)))
            yield return inner + geometry;
    }

    private static string[] Split(string? names) =>
        names?.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries) ?? [];
}
