using System.Globalization;

namespace RootCall.Core.Formats.Usd.Authoring;

/// <summary>
/// Names of prims: letters, digits and underscores, not a digit first (OpenUSD, “SdfPath”), each once among its siblings.
/// </summary>
internal sealed class UsdNames
{
    private readonly HashSet<string> taken = new(StringComparer.Ordinal);

    /// <summary>The name that comes nearest and is free, which is then taken.</summary>
    public string Take(string name, string otherwise)
    {
        var plain = Plain(name) is { Length: > 0 } said ? said : otherwise;
        var free = plain;
        for (var n = 2; !taken.Add(free); n++)
            free = string.Create(CultureInfo.InvariantCulture, $"{plain}_{n}");
        return free;
    }

    private static string Plain(string name)
    {
        var letters = string.Concat(name.Select(c => char.IsAsciiLetterOrDigit(c) ? c : '_'));
        return letters.Length > 0 && char.IsAsciiDigit(letters[0]) ? "_" + letters : letters;
    }
}
