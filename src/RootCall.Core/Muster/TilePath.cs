using System.Collections.Immutable;
using System.Text.RegularExpressions;
using RootCall.Core.Files;

namespace RootCall.Core.Muster;

/// <summary>
/// Paths that stand for the tiles of an image: <c>&lt;UDIM&gt;</c> is 1001 to 1999 (USD, MaterialX), <c>&lt;UVTILE&gt;</c> is
/// u1_v1 and so on (MaterialX).
/// </summary>
public static partial class TilePath
{
    public static bool IsTiled(string path) => Token().IsMatch(path);

    /// <summary>The files of the path's tiles inside the roots, in order.</summary>
    public static ImmutableArray<string> Files(string path, RootScope scope)
    {
        var name = Path.GetFileName(path);
        if (!IsTiled(name) || scope.Enter(Path.GetDirectoryName(path)!) is not { } folder || !Directory.Exists(folder)) return [];
        var pattern = new Regex("^" + string.Concat(Token().Split(name).Select((part, i) => i % 2 == 0 ? Regex.Escape(part) : part.Equals("UDIM", StringComparison.OrdinalIgnoreCase) ? "1[0-9]{3}" : "u[0-9]+_v[0-9]+")) + "$", RegexOptions.CultureInvariant, TimeSpan.FromSeconds(1));
        return [.. Directory.EnumerateFiles(folder).Where(f => pattern.IsMatch(Path.GetFileName(f))).Order(StringComparer.Ordinal)];
    }

    [GeneratedRegex("<(UDIM|UVTILE)>", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Token();
}
