using System.Collections.Immutable;

namespace RootCall.Core.Files;

/// <summary>
/// The folders that may be looked into. Every path that comes from a scene or a request passes through here before a
/// byte is read: symlinks are followed first, so a link that leads out of the roots is outside like any other path.
/// </summary>
public sealed class RootScope
{
    private readonly ImmutableArray<(string Given, string Real)> folders;

    public RootScope(IEnumerable<string> folders)
    {
        this.folders = [.. folders.Select(f => Path.GetFullPath(f)).Distinct(StringComparer.Ordinal).Select(f => (f, RealPath(f)))];
        Folders = [.. this.folders.Select(f => f.Real).Distinct(StringComparer.Ordinal)];
    }

    /// <summary>The real (link-free) absolute folders, in the order given.</summary>
    public ImmutableArray<string> Folders { get; }

    /// <summary>True when <paramref name="path"/>, as text, lies in one of the folders. Touches no disk.</summary>
    public bool Covers(string path) => folders.Any(f => IsInside(f.Real, path) || IsInside(f.Given, path));

    /// <summary>The part of an absolute path below the innermost folder that it lies in, as text; null where it lies in none.</summary>
    public string? Below(string path) =>
        folders.SelectMany(f => new[] { f.Given, f.Real }).Where(f => path.Length > f.Length && IsInside(f, path)).MaxBy(f => f.Length)
            is { } folder
            ? Path.GetRelativePath(folder, path)
            : null;

    /// <summary>
    /// The real path of <paramref name="path"/> when it, and whatever its links lead to, lies inside the folders;
    /// null when it leads out. Nothing outside the folders is touched.
    /// </summary>
    public string? Enter(string path)
    {
        // Neither names a file, and the system would take them for a fault.
        if (path.Length == 0 || path.Contains('\0', StringComparison.Ordinal))
            return null;
        var full = Path.GetFullPath(path);
        var root = folders.FirstOrDefault(f => IsInside(f.Given, full) || IsInside(f.Real, full));
        if (root.Real is null)
            return null;
        var real = RealPath(full);
        return Folders.Any(f => IsInside(f, real)) ? real : null;
    }

    public static bool IsInside(string folder, string path) =>
        path.StartsWith(folder, StringComparison.Ordinal)
        && (path.Length == folder.Length || folder.EndsWith('/') || path[folder.Length] == '/');

    /// <summary>Resolves every link on the way, also where the last parts do not exist.</summary>
    public static string RealPath(string path)
    {
        var full = Path.GetFullPath(path);
        var current = "/";
        var hops = 0;
        var rest = new Stack<string>(full.Split('/', StringSplitOptions.RemoveEmptyEntries).Reverse());
        while (rest.TryPop(out var part))
        {
            if (part == "..")
            {
                current = Path.GetDirectoryName(current) ?? "/";
                continue;
            }

            var next = Path.Combine(current, part);
            var target = LinkTarget(next);
            if (target is null)
            {
                current = next;
                continue;
            }

            if (++hops > 40)
                return next; // A loop: leave it where it is, opening it fails by itself.
            if (Path.IsPathRooted(target))
                current = "/";
            foreach (var piece in target.Split('/', StringSplitOptions.RemoveEmptyEntries).Reverse())
                if (piece != ".")
                    rest.Push(piece);
        }

        return current;
    }

    private static string? LinkTarget(string path)
    {
        try
        {
            return new FileInfo(path).LinkTarget;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }
}
