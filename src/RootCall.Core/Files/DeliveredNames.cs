using System.Text;

namespace RootCall.Core.Files;

/// <summary>
/// The names in a delivery, as they come: each leads nowhere but into it, comes once, and is that of a file or of a folder, not of
/// both. One that is not refuses the whole: such a delivery was made to do harm or is broken, and half of it is of no use.
/// </summary>
/// <param name="what">What the delivery is called in a message: <c>zip</c>, <c>upload</c>.</param>
public sealed class DeliveredNames(string what)
{
    private const int LongestPath = 4096;
    private const int LongestName = 255;
    private readonly HashSet<string> files = new(StringComparer.Ordinal);
    private readonly HashSet<string> folders = new(StringComparer.Ordinal);

    /// <param name="written">The name as it is written; a folder's ends with a slash.</param>
    /// <returns>The name with slashes, without one at its end.</returns>
    /// <exception cref="CannotUseException">It cannot be taken; the sentence says why.</exception>
    public string Add(string written)
    {
        var name = Inside(written);
        for (var cut = name.IndexOf('/', StringComparison.Ordinal); cut > 0; cut = name.IndexOf('/', cut + 1))
        {
            if (files.Contains(name[..cut]))
                throw Both(name[..cut]);
            folders.Add(name[..cut]);
        }

        if (IsFolder(written))
            folders.Add(name);
        else if (!files.Add(name))
            throw new CannotUseException($"The {what} holds “{name}” twice. Nothing was kept.");
        return files.Contains(name) && folders.Contains(name) ? throw Both(name) : name;
    }

    public static bool IsFolder(string written) => written.EndsWith('/') || written.EndsWith('\\');

    private static string Inside(string written)
    {
        var path = written.Replace('\\', '/').TrimEnd('/');
        var parts = path.Split('/');
        if (
            path.Length is 0 or > LongestPath
            || path.Contains('\0', StringComparison.Ordinal)
            || path[0] == '/'
            || (path.Length > 1 && path[1] == ':' && char.IsAsciiLetter(path[0]))
            || parts.Any(p => p is "" or "." or "..")
        )
            throw new CannotUseException($"The delivery names “{written}”, which leads out of its own folder. Nothing was kept.");
        if (parts.FirstOrDefault(p => Encoding.UTF8.GetByteCount(p) > LongestName) is { } longest)
            throw new CannotUseException(
                $"The delivery has a name of more than {LongestName} bytes, “{longest[..60]}…”. Nothing was kept."
            );
        return path;
    }

    private CannotUseException Both(string name) =>
        new($"The {what} holds a file “{name}” and others in a folder of that name. Nothing was kept.");
}
