using System.Buffers;
using System.Text;

namespace RootCall.Core.Formats.Usd.Text;

public enum UsdaToken
{
    End,
    Word,
    Number,
    String,
    Asset,
    Path,
    Symbol,
}

/// <summary>
/// Cuts a text layer into tokens. Line ends, commas and semicolons separate statements but carry no meaning that a
/// tolerant reader needs, so they are passed over like white space and comments.
/// </summary>
public ref struct UsdaLexer(ReadOnlySpan<byte> text)
{
    private static readonly SearchValues<byte> StringEnds = SearchValues.Create("\"'\\\n"u8);
    private readonly ReadOnlySpan<byte> text = text;

    public UsdaToken Kind { get; private set; }

    /// <summary>Byte offset of the token, delimiters included.</summary>
    public int Start { get; private set; }

    /// <summary>Byte offset behind the token.</summary>
    public int End { get; private set; }

    /// <summary>The token's contents: words and numbers whole, strings, assets and paths without their delimiters.</summary>
    public int ContentStart { get; private set; }

    public int ContentEnd { get; private set; }

    /// <summary>The token stands on another line than the one before it.</summary>
    public bool OnNewLine { get; private set; }

    /// <summary>A string or asset whose closing delimiter is missing.</summary>
    public bool Unclosed { get; private set; }

    public readonly ReadOnlySpan<byte> Content => text[ContentStart..ContentEnd];

    public readonly ReadOnlySpan<byte> Source => text;

    public readonly bool Is(char symbol) => Kind == UsdaToken.Symbol && text[Start] == symbol;

    public readonly bool Is(ReadOnlySpan<byte> word) => Kind == UsdaToken.Word && Content.SequenceEqual(word);

    public readonly string Text()
    {
        var raw = Content;
        return Kind == UsdaToken.String && raw.Contains((byte)'\\') ? Unescape(raw) : Encoding.UTF8.GetString(raw);
    }

    /// <summary>Goes on from a byte offset.</summary>
    public void MoveTo(int at)
    {
        End = at;
        Next();
    }

    public void Next()
    {
        var at = SkipSpace(End);
        OnNewLine = text[Math.Min(End, text.Length)..at].Contains((byte)'\n');
        Unclosed = false;
        Start = ContentStart = at;
        if (at >= text.Length)
        {
            Kind = UsdaToken.End;
            End = ContentEnd = text.Length;
            return;
        }

        switch (text[at])
        {
            case (byte)'"' or (byte)'\'':
                String(at);
                break;
            case (byte)'@':
                Asset(at);
                break;
            case (byte)'<':
                Kind = UsdaToken.Path;
                Delimited(at + 1, ">"u8);
                break;
            case var b when IsWordStart(b):
                Kind = UsdaToken.Word;
                while (at < text.Length && IsWord(text[at]))
                    at++;
                End = ContentEnd = at;
                break;
            case var b
                when (uint)(b - '0') <= 9
                    || (
                        (b is (byte)'-' or (byte)'+' or (byte)'.')
                        && at + 1 < text.Length
                        && ((uint)(text[at + 1] - '0') <= 9 || text[at + 1] is (byte)'.' or (byte)'i' or (byte)'n')
                    ):
                Kind = UsdaToken.Number;
                at++;
                while (at < text.Length && (char.IsAsciiLetterOrDigit((char)text[at]) || text[at] is (byte)'.' or (byte)'+' or (byte)'-'))
                    at++;
                End = ContentEnd = at;
                break;
            default:
                Kind = UsdaToken.Symbol;
                End = ContentEnd = at + 1;
                break;
        }
    }

    private readonly int SkipSpace(int at)
    {
        while (at < text.Length)
        {
            var b = text[at];
            if (b is (byte)' ' or (byte)'\t' or (byte)'\r' or (byte)'\n' or (byte)',' or (byte)';')
                at++;
            else if (b == (byte)'#')
            {
                var end = text[at..].IndexOf((byte)'\n');
                at = end < 0 ? text.Length : at + end;
            }
            else
                break;
        }

        return at;
    }

    private void String(int at)
    {
        Kind = UsdaToken.String;
        var quote = text[at];
        var triple = at + 2 < text.Length && text[at + 1] == quote && text[at + 2] == quote;
        var from = at + (triple ? 3 : 1);
        for (var i = from; i < text.Length; i++)
        {
            var step = text[i..].IndexOfAny(StringEnds);
            if (step < 0)
                break;
            i += step;
            if (text[i] == (byte)'\\')
            {
                i++;
                continue;
            }

            if (text[i] == (byte)'\n' && !triple)
            {
                Close(from, i, i);
                Unclosed = true;
                return;
            }

            if (text[i] != quote)
                continue;
            if (!triple)
            {
                Close(from, i, i + 1);
                return;
            }

            if (i + 2 < text.Length && text[i + 1] == quote && text[i + 2] == quote)
            {
                Close(from, i, i + 3);
                return;
            }
        }

        Close(from, text.Length, text.Length);
        Unclosed = true;
    }

    private void Asset(int at)
    {
        Kind = UsdaToken.Asset;
        if (text[at..].StartsWith("@@@"u8))
            Delimited(at + 3, "@@@"u8);
        else
            Delimited(at + 1, "@"u8);
    }

    private void Delimited(int from, ReadOnlySpan<byte> end)
    {
        var close = text[from..].IndexOf(end);
        // Neither a path nor a plain asset goes over a line's end.
        var newline = text[from..].IndexOf((byte)'\n');
        if (close < 0 || (newline >= 0 && newline < close))
        {
            var stop = newline < 0 ? text.Length : from + newline;
            Close(from, stop, stop);
            Unclosed = true;
        }
        else
            Close(from, from + close, from + close + end.Length);
    }

    private void Close(int from, int contentEnd, int end)
    {
        ContentStart = from;
        ContentEnd = contentEnd;
        End = end;
    }

    private static string Unescape(ReadOnlySpan<byte> raw)
    {
        var bytes = new List<byte>(raw.Length);
        for (var i = 0; i < raw.Length; i++)
        {
            if (raw[i] != (byte)'\\' || i + 1 == raw.Length)
                bytes.Add(raw[i]);
            else
                bytes.Add(
                    raw[++i] switch
                    {
                        (byte)'n' => (byte)'\n',
                        (byte)'t' => (byte)'\t',
                        (byte)'r' => (byte)'\r',
                        var other => other,
                    }
                );
        }

        return Encoding.UTF8.GetString([.. bytes]);
    }

    private static bool IsWordStart(byte b) => char.IsAsciiLetter((char)b) || b is (byte)'_' || b >= 0x80;

    private static bool IsWord(byte b) => IsWordStart(b) || (uint)(b - '0') <= 9 || b is (byte)':' or (byte)'.' or (byte)'|' or (byte)'-';
}
