using System.Globalization;
using System.Text.RegularExpressions;
using RootCall.Core.Files;
using RootCall.Core.Muster;

namespace RootCall.Core.Viewing;

/// <summary>
/// File names of images that are made for materials: the first of the usual ways to put a material and the word for a map together that
/// fits the house's pattern of textures. Where none does, or the house has none, <c>material_role.png</c>. Gives up: patterns that ask
/// for something that nobody here knows, a ticket's number or a shot.
/// </summary>
/// <param name="asked">The house's pattern of textures, a regular expression that can be read; null for none.</param>
public sealed partial class BakedNames(string? asked, NameDictionary words)
{
    /// <summary>As materials are called, without a pattern.</summary>
    public static BakedNames Plain { get; } = new(null, NameDictionary.Standard);

    private readonly Regex? pattern = asked is null ? null : new(asked, RegexOptions.CultureInvariant, TimeSpan.FromMilliseconds(100));

    /// <summary>Letters that every name begins with, as far as the pattern spells them out.</summary>
    private readonly string prefix = asked is null ? string.Empty : Spelled().Match(asked).Groups[1].Value;

    /// <param name="material">As its scene calls it.</param>
    /// <param name="token">What the image is of, as one word or several with <c>_</c>: <c>base_color</c>.</param>
    /// <param name="take">Takes a name for a file; false where it is taken already.</param>
    public string Of(string material, string token, Func<string, bool> take) =>
        (Fitting(material, token) is { } fitting ? Numbered(fitting).Take(MostAlike).TakeWhile(Fits) : [])
            .Concat(Numbered($"{PortableName.Make(material)}_{token}"))
            .First(take);

    /// <summary>How often one fitting name is numbered, before a plain one is taken.</summary>
    private const int MostAlike = 100;

    private static IEnumerable<string> Numbered(string stem) =>
        Enumerable
            .Range(1, int.MaxValue)
            .Select(n => n == 1 ? $"{stem}.png" : string.Create(CultureInfo.InvariantCulture, $"{stem}_{n}.png"));

    private string? Fitting(string material, string token)
    {
        if (pattern is null)
            return null;
        var parts = Parts(PortableName.Make(material));
        var stems =
            from word in Words(token).Select(Parts)
            from between in Joins
            from cased in Cases
            let stem = string.Join(between, parts.Concat(word).Select(cased))
            from name in new[] { stem, prefix + stem }
            select name;
        // A pattern that is too costly to ask once is not asked again.
        return stems.TakeWhile(_ => !isCostly).FirstOrDefault(n => Fits($"{n}.png"));
    }

    private bool isCostly;

    private bool Fits(string name)
    {
        try
        {
            return !isCostly && pattern?.IsMatch(name) == true;
        }
        catch (RegexMatchTimeoutException)
        {
            isCostly = true;
            return false;
        }
    }

    /// <summary>The word itself, then what the house calls such a map.</summary>
    private IEnumerable<string> Words(string token) =>
        words
            .Words.Roles.Where(r => r.Value.Contains(token.Replace("_", string.Empty, StringComparison.Ordinal)))
            .SelectMany(r => r.Value)
            .Prepend(token);

    private static string[] Parts(string name) => [.. Part().Matches(name).Select(m => m.Value)];

    private static readonly string[] Joins = ["_", "-", string.Empty, "."];

    private static readonly Func<string, int, string>[] Cases =
    [
        (part, _) => part,
        (part, _) => part.ToLowerInvariant(),
        (part, _) => char.ToUpperInvariant(part[0]) + part[1..],
        (part, at) => at == 0 ? part.ToLowerInvariant() : char.ToUpperInvariant(part[0]) + part[1..],
        (part, _) => part.ToUpperInvariant(),
    ];

    /// <summary>A run of letters and digits, a capital beginning another.</summary>
    [GeneratedRegex(@"\p{Lu}?[\p{Ll}\p{Lo}\p{Nd}]+|\p{Lu}+", RegexOptions.CultureInvariant)]
    private static partial Regex Part();

    /// <summary>What a pattern says letter by letter from its start; the last may be any number of times, so it is left.</summary>
    [GeneratedRegex(@"^\^([A-Za-z0-9_-]*)(?![?*+{|A-Za-z0-9_-])", RegexOptions.CultureInvariant)]
    private static partial Regex Spelled();
}
