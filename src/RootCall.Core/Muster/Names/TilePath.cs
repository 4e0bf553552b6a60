using System.Collections.Immutable;
using System.Text.RegularExpressions;
using RootCall.Core.Files;

namespace RootCall.Core.Muster;

/// <summary>
/// Paths that stand for several files: <c>&lt;UDIM&gt;</c> is 1001 to 1999 (USD, MaterialX), <c>&lt;UVTILE&gt;</c> is u1_v1 and
/// so on (MaterialX); <c>####</c> and <c>%04d</c> are the frames of a sequence (common practice).
/// </summary>
public static partial class TilePath
{
    public static bool IsTiled(string path) => Token().IsMatch(Path.GetFileName(path));

    /// <summary>The files of the path's tiles or frames inside the roots, in order.</summary>
    public static ImmutableArray<string> Files(string path, RootScope scope)
    {
        var name = Path.GetFileName(path);
        if (!IsTiled(name) || scope.Enter(Path.GetDirectoryName(path)!) is not { } folder || !Directory.Exists(folder))
            return [];
        var token = Token().Match(name);
        var pattern = new Regex(
            "^" + Regex.Escape(name[..token.Index]) + Digits(token.Value) + Regex.Escape(name[(token.Index + token.Length)..]) + "$",
            RegexOptions.CultureInvariant,
            TimeSpan.FromSeconds(1)
        );
        return [.. Directory.EnumerateFiles(folder).Where(f => pattern.IsMatch(Path.GetFileName(f))).Order(StringComparer.Ordinal)];
    }

    /// <summary>A file's name with the asked pattern in place of its own tile or frame.</summary>
    internal static string Pattern(FileName file, FileName asked)
    {
        var own = file.Tile ?? file.Frame!;
        var at = file.Text.LastIndexOf(own, StringComparison.OrdinalIgnoreCase);
        return string.Concat(file.Text.AsSpan(0, at), Token().Match(asked.Text).Value, file.Text.AsSpan(at + own.Length));
    }

    private static string Digits(string token) =>
        token.ToUpperInvariant() switch
        {
            "<UDIM>" => "1[0-9]{3}",
            "<UVTILE>" => "u[0-9]+_v[0-9]+",
            ['#', ..] => $"[0-9]{{{token.Length},}}",
            _ => "[0-9]+",
        };

    [GeneratedRegex("<(UDIM|UVTILE)>|##+|%0?[0-9]*d", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Token();
}
