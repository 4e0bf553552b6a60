using System.Text.RegularExpressions;

namespace RootCall.Core.Bench;

/// <summary>
/// Materials that are called alike: by the first word of their names, less the words that most names of the scene start with
/// (<c>mat_</c>).
/// </summary>
public static partial class MaterialFamily
{
    /// <summary>More names than this start with a word: it tells nothing.</summary>
    private const double Most = 0.6;

    /// <returns>The family of each, in the order of the names.</returns>
    public static IReadOnlyList<string> Of(IReadOnlyList<string> names)
    {
        var words = names.Select(n => Word().Matches(n).Select(m => m.Value.ToLowerInvariant()).ToList()).ToList();
        var skipped = 0;
        while (
            names.Count > 2
            && words
                .Where(w => w.Count > skipped + 1)
                .GroupBy(w => w[skipped])
                .Any(g => g.Count() > names.Count * Most && g.Select(w => w[skipped + 1]).Distinct().Skip(1).Any())
        )
            skipped++;
        return
        [
            .. words.Select(
                (w, i) =>
                    w.Count > skipped ? w[skipped]
                    : w.Count > 0 ? w[^1]
                    : names[i]
            ),
        ];
    }

    [GeneratedRegex(@"\p{Lu}?\p{Ll}+|\p{Lu}+(?!\p{Ll})|\p{Lo}+|\d+")]
    private static partial Regex Word();
}
