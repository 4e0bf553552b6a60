using System.Collections.Frozen;
using System.Globalization;
using System.Text;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>
/// The statements of a material library that call for an image, and where in them the name stands. Keywords and
/// options: Wavefront OBJ and MTL format specification; the PBR keys are common practice.
/// </summary>
internal static class MapStatement
{
    /// <summary>Keywords in lower case.</summary>
    private static readonly FrozenSet<string> Keywords = FrozenSet.Create(
        StringComparer.OrdinalIgnoreCase,
        "map_ka",
        "map_kd",
        "map_ks",
        "map_ns",
        "map_d",
        "map_ke",
        "map_tr",
        "map_tf",
        "map_ni",
        "disp",
        "map_disp",
        "decal",
        "map_decal",
        "bump",
        "map_bump",
        "map_kn",
        "norm",
        "map_norm",
        "refl",
        "map_refl",
        "map_pr",
        "map_pm",
        "map_ps",
        "map_pc",
        "map_pcr",
        "map_aniso",
        "map_anisor",
        "map_rma",
        "map_orm",
        "map_ao",
        "map_opacity"
    );

    /// <summary>How many values each option takes: at least, at most, and whether they are numbers.</summary>
    private static readonly FrozenDictionary<string, (int Min, int Max, bool Numbers)> Options = new Dictionary<string, (int, int, bool)>
    {
        ["-blendu"] = (1, 1, false),
        ["-blendv"] = (1, 1, false),
        ["-cc"] = (1, 1, false),
        ["-clamp"] = (1, 1, false),
        ["-imfchan"] = (1, 1, false),
        ["-type"] = (1, 1, false),
        ["-bm"] = (1, 1, true),
        ["-boost"] = (1, 1, true),
        ["-texres"] = (1, 1, true),
        ["-mm"] = (2, 2, true),
        ["-o"] = (1, 3, true),
        ["-s"] = (1, 3, true),
        ["-t"] = (1, 3, true),
    }.ToFrozenDictionary(StringComparer.OrdinalIgnoreCase);

    public static bool IsMap(ReadOnlySpan<byte> keyword) =>
        keyword.Length is > 2 and < 16 && Keywords.Contains(Encoding.ASCII.GetString(keyword));

    /// <summary>Finds the name in what follows the keyword.</summary>
    /// <param name="rest">What follows the keyword.</param>
    /// <param name="start">Offset of the name in <paramref name="rest"/>, quotes not included.</param>
    /// <param name="length">Its length in bytes; 0 when the statement names no file.</param>
    public static void FindName(ReadOnlySpan<byte> rest, out int start, out int length)
    {
        var at = 0;
        while (
            NextToken(rest, at, out var from, out var to) && Options.TryGetValue(Encoding.ASCII.GetString(rest[from..to]), out var option)
        )
        {
            at = to;
            for (var n = 0; n < option.Max && NextToken(rest, at, out from, out to); n++)
            {
                // "-o 1 2 name.png" takes fewer values than it may: the name is no number. A file called
                // "7" after "-s 1" stays undecidable; whoever writes that means the number.
                if (option.Numbers && n >= option.Min && !IsNumber(rest[from..to]))
                    break;
                at = to;
            }
        }

        while (at < rest.Length && Statement.IsSpace(rest[at]))
            at++;
        Name(rest, at, out start, out length);
    }

    /// <summary>The name that a statement whose only argument is <paramref name="path"/> would give; null for none.</summary>
    public static string? NameIn(string path)
    {
        if (path.AsSpan().IndexOfAny('\n', '\r') >= 0)
            return null;
        var rest = Statement.Of(Encoding.UTF8.GetBytes("map_Kd " + path)).Rest;
        FindName(rest, out var start, out var length);
        return Statement.Decode(rest.Slice(start, length));
    }

    /// <summary>The options that say nothing of what an image use holds, as they stand, with a space behind each.</summary>
    public static string OtherOptions(ReadOnlySpan<byte> options)
    {
        var kept = new StringBuilder();
        var at = 0;
        while (
            NextToken(options, at, out var from, out var to)
            && Options.TryGetValue(Encoding.ASCII.GetString(options[from..to]), out var option)
        )
        {
            var name = Encoding.ASCII.GetString(options[from..to]).ToLowerInvariant();
            var start = from;
            at = to;
            for (var n = 0; n < option.Max && NextToken(options, at, out from, out to); n++)
            {
                if (option.Numbers && n >= option.Min && !IsNumber(options[from..to]))
                    break;
                at = to;
            }

            if (name is not ("-o" or "-s" or "-mm" or "-bm" or "-clamp" or "-imfchan"))
                kept.Append(Statement.Decode(options[start..at])).Append(' ');
        }

        return kept.ToString();
    }

    /// <summary>A name from <paramref name="at"/> to the end: quotes and a comment behind an image's ending are not part of it.</summary>
    public static void Name(ReadOnlySpan<byte> rest, int at, out int start, out int length)
    {
        var end = rest.Length;
        var comment = rest[at..].IndexOf(" #"u8);
        if (comment > 0 && LooksComplete(rest[at..(at + comment)]))
            end = at + comment;
        while (end > at && Statement.IsSpace(rest[end - 1]))
            end--;
        if (end - at >= 2 && rest[at] is (byte)'"' or (byte)'\'' && rest[end - 1] == rest[at])
        {
            at++;
            end--;
        }

        start = at;
        length = end - at;
    }

    private static bool LooksComplete(ReadOnlySpan<byte> name)
    {
        var text = Encoding.Latin1.GetString(name).TrimEnd().TrimEnd('"', '\'');
        var dot = text.LastIndexOf('.');
        return dot > 0 && text.Length - dot is >= 3 and <= 6 && text[(dot + 1)..].All(char.IsAsciiLetterOrDigit);
    }

    private static bool NextToken(ReadOnlySpan<byte> text, int at, out int from, out int to)
    {
        from = at;
        while (from < text.Length && Statement.IsSpace(text[from]))
            from++;
        to = from;
        while (to < text.Length && !Statement.IsSpace(text[to]))
            to++;
        return to > from;
    }

    private static bool IsNumber(ReadOnlySpan<byte> token) =>
        double.TryParse(token, NumberStyles.Float, CultureInfo.InvariantCulture, out _);
}
