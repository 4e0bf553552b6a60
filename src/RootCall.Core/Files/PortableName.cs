using System.Text;

namespace RootCall.Core.Files;

/// <summary>
/// File names that every current system takes. Reserved characters and device names: Win32 "Naming files, paths, and
/// namespaces"; length: 255 bytes, the limit of the common Linux file systems (NAME_MAX, POSIX.1-2017 limits.h).
/// </summary>
public static class PortableName
{
    private const int MaxBytes = 255;
    private static readonly string[] Devices =
    [
        "con",
        "prn",
        "aux",
        "nul",
        .. Enumerable.Range(1, 9).SelectMany(n => new[] { $"com{n}", $"lpt{n}" }),
    ];

    private const int LongestDevice = 4;

    public static bool IsPortable(string name) => name is ".." || IsPlain(name) || name == Make(name);

    /// <summary>Letters, digits and a few signs, and no device: what most names are, told without making another one.</summary>
    private static bool IsPlain(string name)
    {
        if (name.Length is 0 or > 200 || name[^1] == '.')
            return false;
        foreach (var c in name)
            if (!char.IsAsciiLetterOrDigit(c) && c is not ('_' or '-' or '.'))
                return false;
        var dot = name.IndexOf('.', StringComparison.Ordinal);
        return dot > LongestDevice || (dot < 0 && name.Length > LongestDevice);
    }

    /// <summary>The nearest portable name: reserved characters become <c>_</c>, trailing dots and spaces go, the text is NFC.</summary>
    public static string Make(string name)
    {
        var text = new StringBuilder();
        // Half a surrogate pair comes out as the sign for what is no character.
        foreach (var rune in Composition.Of(name).EnumerateRunes())
            if (rune.Value < ' ' || rune == Rune.ReplacementChar || (rune.IsAscii && "<>:\"/\\|?*%".Contains((char)rune.Value)))
                text.Append('_');
            else
                text.Append(rune.ToString());
        var made = text.ToString().TrimEnd('.', ' ');
        if (made.Length == 0)
            made = "_";
        var dot = made.LastIndexOf('.');
        var stem = dot > 0 ? made[..dot] : made;
        var ending = dot > 0 ? made[dot..] : string.Empty;
        if (Devices.Contains(made.Split('.')[0], StringComparer.OrdinalIgnoreCase))
            stem += "_";
        while (Encoding.UTF8.GetByteCount(stem + ending) > MaxBytes)
            stem = stem[..^1];
        return stem + ending;
    }
}
