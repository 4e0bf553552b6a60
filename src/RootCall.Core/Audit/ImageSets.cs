using RootCall.Core.Muster;

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

    private ImageSets(IReadOnlyList<SetFile> files, HashSet<string> used)
    {
        this.used = used;
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
        return new(files, used);
    }

    /// <summary>Files of the same thing that the scene does not read, in the folders of those it does.</summary>
    public IEnumerable<SetFile> Beside(FileName name) => Unread(byBody[name.Body], name);

    /// <summary>Those of them that are the same map, in another resolution or version.</summary>
    public IEnumerable<SetFile> SameMap(FileName name) => Unread(byCore[name.Core], name);

    /// <summary>Files of that very name.</summary>
    public IEnumerable<SetFile> Named(FileName name) => byName[name.Folded];

    /// <summary>A name that says only its role may belong to anything.</summary>
    private IEnumerable<SetFile> Unread(IEnumerable<SetFile> files, FileName name) =>
        name.SaysOnlyItsRole
            ? []
            : files.Where(f => !used.Contains(f.Beside.Path) && f.Name.Colour == name.Colour && f.Name.Skin == name.Skin);
}

public sealed record SetFile(FileBeside Beside, FileName Name);
