using System.Collections.Immutable;
using System.Text.RegularExpressions;
using RootCall.Core.Files;

namespace RootCall.Core.Muster;

/// <summary>What is looked for in written paths, and what takes its place.</summary>
/// <param name="Find">Text, or a regular expression (.NET's) where <paramref name="Regex"/> is set.</param>
/// <param name="MatchCase">Capitals count.</param>
/// <param name="WholeName">Only whole names between slashes, not parts of them.</param>
/// <param name="Regex">Groups may be called in <paramref name="With"/> as <c>$1</c>.</param>
public sealed record ReplacePattern(string Find, string With, bool MatchCase = false, bool WholeName = false, bool Regex = false);

/// <summary>One path that a replacement changes.</summary>
/// <param name="To">Absolute path of the file that the new path calls; null when nothing is there.</param>
/// <param name="WhyNot">Why it would not resolve; null when it does.</param>
public sealed record ReplacedPath(int Number, string Before, string After, string? To, string? WhyNot);

/// <summary>Find and replace on paths as they are called now. Only what resolves afterwards can be put into the ledger.</summary>
public static class PathReplace
{
    private static readonly TimeSpan OnePath = TimeSpan.FromMilliseconds(100);
    private static readonly TimeSpan AllPaths = TimeSpan.FromSeconds(2);

    /// <param name="numbers">References to look at; null for all.</param>
    /// <exception cref="CannotUseException">The pattern is bad, or takes too long; the message says why.</exception>
    public static ImmutableArray<ReplacedPath> Preview(
        MusterReport report,
        IReadOnlySet<int>? numbers,
        ReplacePattern pattern,
        RootScope scope
    )
    {
        if (pattern.Find.Length == 0)
            throw new CannotUseException("There is nothing to find yet.");
        var regex = Compile(pattern);
        var with = pattern.Regex ? pattern.With : pattern.With.Replace("$", "$$", StringComparison.Ordinal);
        var door = new RootDoor(scope);
        var clock = System.Diagnostics.Stopwatch.StartNew();
        var rows = ImmutableArray.CreateBuilder<ReplacedPath>();
        foreach (var reference in report.References.Where(r => r.Reference.Carried is null && numbers?.Contains(r.Number) != false))
        {
            var before = CalledNow.Of(reference, report.Scene).Replace('\\', '/');
            string after;
            try
            {
                after = regex.Replace(before, with);
            }
            catch (RegexMatchTimeoutException e)
            {
                throw TooLong(before, e);
            }

            if (clock.Elapsed > AllPaths)
                throw TooLong(before, null);
            if (after != before)
                rows.Add(Row(reference, CalledNow.From(reference, report.Scene), before, after, door));
        }

        return rows.ToImmutable();
    }

    private static CannotUseException TooLong(string path, Exception? inner) =>
        new($"The pattern takes too long; it was stopped at “{path}”. Make what repeats in it narrower. Nothing was changed.", inner!);

    private static Regex Compile(ReplacePattern pattern)
    {
        var text = pattern.Regex ? pattern.Find : Regex.Escape(pattern.Find);
        if (pattern.WholeName)
            text = $"(?<=^|/)(?:{text})(?=/|$)";
        try
        {
            return new(text, RegexOptions.CultureInvariant | (pattern.MatchCase ? 0 : RegexOptions.IgnoreCase), OnePath);
        }
        catch (RegexParseException e)
        {
            throw new CannotUseException($"The pattern cannot be read at character {e.Offset}: {Reason(e)}.", e);
        }
    }

    /// <summary>"Invalid pattern '(a' at offset 2. Not enough )'s." The last sentence is what people need.</summary>
    private static string Reason(RegexParseException e)
    {
        var at = e.Message.IndexOf(". ", StringComparison.Ordinal);
        return (at < 0 ? e.Message : e.Message[(at + 2)..]).TrimEnd('.');
    }

    private static ReplacedPath Row(MusteredReference reference, string from, string before, string after, RootDoor door)
    {
        var place = WrittenPath.Parse(after).Locate(from);
        if (place is null)
            return new(reference.Number, before, after, null, "is no path on this system");
        return door.Enter(place) switch
        {
            null => new(reference.Number, before, after, null, "leads outside every root"),
            (_, null) when !TilePath.IsTiled(place) => new(reference.Number, before, after, null, "no file is there"),
            (_, null) => new(reference.Number, before, after, place, null),
            var (real, _) => new(reference.Number, before, after, real, null),
        };
    }
}
