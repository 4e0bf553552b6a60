using RootCall.Core.Muster;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>
/// Maps that belong together by their names: the files that the scene reads, and those that lie beside them in the same
/// folders or under the same name in the roots.
/// </summary>
public sealed class ImageSets
{
    private readonly ILookup<string, SetFile> byBody;
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
        inUse = maps.Where(m => m.Name.Body.Length > 0).ToLookup(m => m.Name.Body, StringComparer.Ordinal);
        series = files
            .Select(f => f.Name)
            .Concat(usedNames)
            .Where(n => n is { EndsWithRole: true, SaysOnlyItsRole: false, Role: not null })
            .Select(n => (n.Body, Role: n.Role!.Value))
            .Distinct()
            .ToLookup(n => n.Body, n => n.Role, StringComparer.Ordinal);
        byBody = files.ToLookup(f => f.Name.Body);
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
        return new(files, used, used.Select(p => scene.FileName(Path.GetFileName(p))), scene.Materials.SelectMany(m => m.Maps), scene.Names);
    }

    /// <summary>Other files of the same thing end in another role's word: the ends of these names are roles.</summary>
    public bool IsOfSeries(FileName name) => !name.SaysOnlyItsRole && series[name.Body].Any(r => r != name.Role);

    /// <summary>
    /// The role of a name that can be cut in two ways, told by its series: <c>scrap_metal_roughness</c> is the roughness of
    /// <c>scrap_metal</c> when <c>scrap_metal_normal</c> is there. Null where the name is cut as it stands.
    /// </summary>
    public Role? ShorterRole(FileName name)
    {
        if (name.RoleToken is not { } token || IsOfSeries(name))
            return null;
        for (var cut = 1; cut < token.Length; cut++)
            if (
                names.Role(token.AsSpan(0, cut)) is not null
                && names.Role(token.AsSpan(cut)) is { } role
                && series[name.Body + token[..cut]].Any(r => r != role)
            )
                return role;
        return null;
    }

    /// <summary>Files of the same thing that the scene does not read, in the folders of those it does.</summary>
    public IEnumerable<SetFile> Beside(FileName name) => Unread(byBody[name.Body], name);

    /// <summary>Maps of the same thing that the scene reads, wherever.</summary>
    public IEnumerable<MapView> InUse(FileName name) => inUse[name.Body].Where(m => m.Name.Colour == name.Colour && m.Name.Skin == name.Skin);

    /// <summary>Those of them that are the same map, in another resolution or version.</summary>
    public IEnumerable<SetFile> SameMap(FileName name) => Unread(byCore[name.Core], name);

    /// <summary>Unread files of the thing that a material is named after.</summary>
    public IEnumerable<SetFile> OfThing(FileName thing) =>
        ThingName.Bodies(thing).SelectMany(b => byBody[b]).Where(f => !used.Contains(f.Beside.Path) && ThingName.IsSame(thing, f.Name));

    /// <summary>Files of that very name.</summary>
    public IEnumerable<SetFile> Named(FileName name) => byName[name.Folded];

    /// <summary>A name that says only its role may belong to anything.</summary>
    private IEnumerable<SetFile> Unread(IEnumerable<SetFile> files, FileName name) =>
        name.SaysOnlyItsRole
            ? []
            : files.Where(f => !used.Contains(f.Beside.Path) && f.Name.Colour == name.Colour && f.Name.Skin == name.Skin);
}

public sealed record SetFile(FileBeside Beside, FileName Name);
