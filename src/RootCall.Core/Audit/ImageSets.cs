using RootCall.Core.Muster;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>
/// Maps that belong together by their names: the files that the scene reads, and those that lie beside them in the same
/// folders or under the same name in the roots.
/// </summary>
public sealed class ImageSets
{
    private readonly ILookup<string, SetFile> byThing;
    private readonly ILookup<string, SetFile> byCore;
    private readonly HashSet<string> used;
    private readonly ILookup<string, SetFile> byName;

    private readonly ILookup<string, Role> series;

    private readonly NameDictionary names;
    private readonly ILookup<string, MapView> inUse;

    private ImageSets(
        IReadOnlyList<SetFile> files,
        HashSet<string> used,
        IEnumerable<FileName> usedNames,
        IEnumerable<MapView> maps,
        NameDictionary names
    )
    {
        (this.used, this.names) = (used, names);
        inUse = Keyed(maps, m => m.Name);
        series = files
            .Select(f => f.Name)
            .Concat(usedNames)
            .Where(n => n is { EndsWithRole: true, SaysOnlyItsRole: false, Role: not null } && !Cuts(n).Any())
            .Select(n => (n.Body, Role: n.Role!.Value))
            .Distinct()
            .ToLookup(n => n.Body, n => n.Role, StringComparer.Ordinal);
        byThing = Keyed(files, f => f.Name);
        byCore = files.ToLookup(f => f.Name.Core, StringComparer.Ordinal);
        byName = files.ToLookup(f => f.Name.Folded);
    }

    internal static ImageSets Of(AuditScene scene)
    {
        var used = scene
            .Images.Where(r => r.Resolved is not null)
            .SelectMany(r => r.Tiles.IsDefaultOrEmpty ? [r.Resolved!] : (IEnumerable<string>)r.Tiles)
            .ToHashSet(StringComparer.Ordinal);
        var files = scene.Report.Beside.IsDefault
            ? []
            : scene.Report.Beside.Select(b => new SetFile(b, scene.FileName(Path.GetFileName(b.Path)))).ToList();
        return new(
            files,
            used,
            used.Select(p => scene.FileName(Path.GetFileName(p))),
            scene.Materials.SelectMany(m => m.Maps),
            scene.Names
        );
    }

    /// <summary>Other files of the same thing end in another role's word: the ends of these names are roles.</summary>
    public bool IsOfSeries(FileName name) => !name.SaysOnlyItsRole && series[name.Body].Any(r => r != name.Role);

    /// <summary>
    /// The role of a name that can be cut in two ways, told by its series: <c>scrap_metal_roughness</c> is the roughness of
    /// <c>scrap_metal</c> when <c>scrap_metal_normal</c> is there. Null where the name is cut as it stands.
    /// </summary>
    public Role? ShorterRole(FileName name)
    {
        if (IsOfSeries(name))
            return null;
        foreach (var (head, role) in Cuts(name))
            if (series[name.Body + head].Any(r => r != role))
                return role;
        return null;
    }

    /// <summary>
    /// The ways to cut what a name ends in into two roles' words: <c>metal_roughness</c> may be both of tin, or the roughness of tin's
    /// metal. Such a name is no witness for others.
    /// </summary>
    private IEnumerable<(string Head, Role Role)> Cuts(FileName name)
    {
        var token = name.RoleToken ?? string.Empty;
        for (var cut = 1; cut < token.Length; cut++)
            if (names.Role(token.AsSpan(0, cut)) is not null && names.Role(token.AsSpan(cut)) is { } role)
                yield return (token[..cut], role);
    }

    /// <summary>Files of the same thing that the scene does not read, in the folders of those it does.</summary>
    public IEnumerable<SetFile> Beside(FileName name) => Unread(Of(byThing, name), name);

    /// <summary>Maps of the same thing that the scene reads, wherever.</summary>
    public IEnumerable<MapView> InUse(FileName name) => Of(inUse, name).Where(m => m.Name.IsOfSet(name));

    /// <summary>Those of them that are the same map, in another resolution or version.</summary>
    public IEnumerable<SetFile> SameMap(FileName name) => Unread(byCore[name.Core], name);

    /// <summary>Unread files of the thing that a material is named after.</summary>
    public IEnumerable<SetFile> OfThing(FileName thing) =>
        ThingName
            .Spellings(thing)
            .SelectMany(s => Of(byThing, s))
            .Where(f => !used.Contains(f.Beside.Path) && ThingName.IsSame(thing, f.Name));

    /// <summary>Files of that very name.</summary>
    public IEnumerable<SetFile> Named(FileName name) => byName[name.Folded];

    /// <summary>By the thing that each is a map of, and by all of its name, since its end may be a word of the thing's.</summary>
    private static ILookup<string, T> Keyed<T>(IEnumerable<T> items, Func<T, FileName> nameOf) =>
        items
            .SelectMany(i => nameOf(i) is var n && n.Whole == n.Thing ? [(n.Thing, i)] : new[] { (n.Thing, i), (n.Whole, i) })
            .Where(k => k.Item1.Length > 0)
            .ToLookup(k => k.Item1, k => k.i, StringComparer.Ordinal);

    private static IEnumerable<T> Of<T>(ILookup<string, T> keyed, FileName name) =>
        name.Whole == name.Thing ? keyed[name.Thing] : keyed[name.Thing].Union(keyed[name.Whole]);

    /// <summary>A name that says only its role may belong to anything.</summary>
    private IEnumerable<SetFile> Unread(IEnumerable<SetFile> files, FileName name) =>
        name.SaysOnlyItsRole
            ? []
            : files.Where(f => !used.Contains(f.Beside.Path) && f.Name.Colour == name.Colour && f.Name.Skin == name.Skin);
}

public sealed record SetFile(FileBeside Beside, FileName Name);
