using System.Text;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>One line of a Wavefront file: a keyword and what follows, with byte offsets within the line.</summary>
internal readonly ref struct Statement
{
    private static readonly UTF8Encoding Strict = new(encoderShouldEmitUTF8Identifier: false, throwOnInvalidBytes: true);

    private Statement(ReadOnlySpan<byte> line, int keywordStart, int keywordEnd, int restStart, int restEnd)
    {
        Line = line;
        Keyword = line[keywordStart..keywordEnd];
        RestStart = restStart;
        Rest = line[restStart..restEnd];
    }

    public ReadOnlySpan<byte> Line { get; }

    public ReadOnlySpan<byte> Keyword { get; }

    /// <summary>What follows the keyword, without white space at either end.</summary>
    public ReadOnlySpan<byte> Rest { get; }

    public int RestStart { get; }

    public static Statement Of(ReadOnlySpan<byte> line)
    {
        if (line.StartsWith(Encoding.UTF8.Preamble))
            return Shifted(line, Encoding.UTF8.Preamble.Length);
        return Shifted(line, 0);
    }

    public bool Is(ReadOnlySpan<byte> keyword) => Ascii.EqualsIgnoreCase(Keyword, keyword);

    /// <summary>UTF-8 where the bytes are; otherwise Latin-1, in which every byte is a character, so nothing is lost.</summary>
    public static string Decode(ReadOnlySpan<byte> bytes) => EncodingOf(bytes).GetString(bytes);

    public static Encoding EncodingOf(ReadOnlySpan<byte> bytes)
    {
        try
        {
            Strict.GetCharCount(bytes);
            return Strict;
        }
        catch (DecoderFallbackException)
        {
            return Encoding.Latin1;
        }
    }

    public static bool IsSpace(byte b) => b is (byte)' ' or (byte)'\t' or (byte)'\v' or (byte)'\f';

    private static Statement Shifted(ReadOnlySpan<byte> line, int from)
    {
        while (from < line.Length && IsSpace(line[from]))
            from++;
        var end = from;
        while (end < line.Length && !IsSpace(line[end]))
            end++;
        var rest = end;
        while (rest < line.Length && IsSpace(line[rest]))
            rest++;
        var last = line.Length;
        while (last > rest && IsSpace(line[last - 1]))
            last--;
        return new(line, from, end, rest, last);
    }
}
