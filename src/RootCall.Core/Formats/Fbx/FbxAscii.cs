using System.Buffers.Text;
using System.Collections.Immutable;
using RootCall.Core.Formats.Xml;
using static System.FormattableString;

namespace RootCall.Core.Formats.Fbx;

/// <summary>
/// Reads the text form of FBX: <c>Name: value, value { ... }</c>, comments from a semicolon to the line's end. The tree
/// is the same as that of the binary form.
/// </summary>
public sealed class FbxAscii
{
    private const int MaxDepth = 64;
    private readonly ReadOnlyMemory<byte> memory;
    private readonly ICollection<string> errors;
    private int at;

    private FbxAscii(ReadOnlyMemory<byte> memory, ICollection<string> errors)
    {
        this.memory = memory;
        this.errors = errors;
    }

    public static bool IsAscii(ReadOnlySpan<byte> bytes)
    {
        var head = bytes[..Math.Min(bytes.Length, 4096)];
        return !head.Contains((byte)0)
            && (head.TrimStart("\uFEFF \r\n\t"u8).StartsWith("; FBX"u8) || head.IndexOf("FBXHeaderExtension"u8) >= 0);
    }

    public static FbxNode Read(ReadOnlyMemory<byte> bytes, ICollection<string> errors)
    {
        var reader = new FbxAscii(bytes, errors);
        return new(string.Empty, [], reader.Body(0, top: true), 0);
    }

    private ReadOnlySpan<byte> Span => memory.Span;

    private ImmutableArray<FbxNode> Body(int depth, bool top = false)
    {
        var nodes = ImmutableArray.CreateBuilder<FbxNode>();
        while (true)
        {
            Skip();
            if (at >= memory.Length)
            {
                if (!top)
                    Tell("a body is not closed");
                break;
            }

            if (Span[at] == (byte)'}')
            {
                if (top)
                {
                    Tell("a brace closes nothing");
                    at++;
                    continue;
                }

                break;
            }

            if (Node(depth) is { } node)
                nodes.Add(node);
        }

        return nodes.ToImmutable();
    }

    private FbxNode? Node(int depth)
    {
        var start = at;
        while (
            at < memory.Length
            && (char.IsAsciiLetterOrDigit((char)Span[at]) || Span[at] is (byte)'_' or (byte)'-' or (byte)'|' or (byte)' ')
        )
            at++;
        var name = XmlText.Bytes(Span[start..at]).Trim();
        if (at >= memory.Length || Span[at] != (byte)':' || name.Length == 0)
        {
            Tell("a line is no record; it was passed over");
            var line = Span[at..].IndexOf((byte)'\n');
            at = line < 0 ? memory.Length : at + line + 1;
            return null;
        }

        at++;
        var properties = Properties(name);
        var children = ImmutableArray<FbxNode>.Empty;
        Blank();
        if (at < memory.Length && Span[at] == (byte)'{')
        {
            at++;
            if (depth >= MaxDepth)
            {
                Tell($"records lie more than {MaxDepth} deep; reading stopped there");
                at = memory.Length;
            }
            else
            {
                children = Body(depth + 1);
                if (at < memory.Length)
                    at++;
            }
        }

        return new(name, properties, children, start);
    }

    private ImmutableArray<FbxProperty> Properties(string name)
    {
        var list = ImmutableArray.CreateBuilder<FbxProperty>();
        Blank();
        // Arrays can be millions of numbers: they are passed over as text and read when asked for.
        if (
            name is "a" or "Vertices" or "PolygonVertexIndex" or "Normals" or "UV" or "UVIndex" or "Materials" or "Edges" or "KeyTime"
            && LooksNumeric()
        )
            return [Array()];
        var comma = true;
        while (at < memory.Length)
        {
            Blank();
            if (at >= memory.Length)
                break;
            var b = Span[at];
            if (b == (byte)',')
            {
                at++;
                // A list goes on over the line's end behind a comma.
                Skip();
                comma = true;
                continue;
            }

            if (b is (byte)'{' or (byte)'}' or (byte)'\n' or (byte)'\r' or (byte)';' || !comma)
                break;
            comma = false;
            list.Add(Value());
        }

        return list.ToImmutable();
    }

    private bool LooksNumeric()
    {
        var i = at;
        while (i < memory.Length && Span[i] is (byte)' ' or (byte)'\t' or (byte)'\r' or (byte)'\n')
            i++;
        return i < memory.Length && (Span[i] is (byte)'-' or (byte)'.' || char.IsAsciiDigit((char)Span[i]));
    }

    private FbxArray Array()
    {
        var start = at;
        while (at < memory.Length)
        {
            var b = Span[at];
            // An exponent stands behind a digit; any other letter begins the next record's name.
            var exponent =
                b is (byte)'e' or (byte)'E' && at > start && (char.IsAsciiDigit((char)Span[at - 1]) || Span[at - 1] == (byte)'.');
            if (b is (byte)'}' or (byte)'{' or (byte)';' || (char.IsAsciiLetter((char)b) && !exponent))
                break;
            at++;
        }

        // A record's name follows without a brace: back to the end of the numbers.
        var text = memory[start..at];
        var numbers = Count(text.Span);
        return new(numbers, () => Numbers(text.Span, numbers));
    }

    private static int Count(ReadOnlySpan<byte> text) =>
        text.Trim(" \r\n\t,"u8).Length == 0 ? 0 : text.TrimEnd(" \r\n\t,"u8).Count((byte)',') + 1;

    private static double[] Numbers(ReadOnlySpan<byte> text, int count)
    {
        var numbers = new List<double>(count);
        var i = 0;
        while (i < text.Length)
        {
            if (text[i] is (byte)' ' or (byte)',' or (byte)'\r' or (byte)'\n' or (byte)'\t')
            {
                i++;
                continue;
            }

            if (Utf8Parser.TryParse(text[i..], out double number, out var used) && used > 0)
            {
                numbers.Add(number);
                i += used;
            }
            else
                i++;
        }

        return [.. numbers];
    }

    private FbxProperty Value()
    {
        if (Span[at] == (byte)'"')
        {
            var start = at + 1;
            var close = Span[start..].IndexOf((byte)'"');
            var end = close < 0 ? memory.Length : start + close;
            if (close < 0)
                Tell("a text is not closed");
            at = Math.Min(memory.Length, end + 1);
            return new FbxText(XmlText.Decode(XmlText.Bytes(Span[start..end])), start, end - start);
        }

        var from = at;
        while (
            at < memory.Length
            && Span[at] is not ((byte)',' or (byte)'{' or (byte)'}' or (byte)'\n' or (byte)'\r' or (byte)';' or (byte)' ' or (byte)'\t')
        )
            at++;
        if (at == from)
            at++;
        var token = Span[from..at];
        if (Utf8Parser.TryParse(token, out long whole, out var used) && used == token.Length)
            return new FbxInteger(whole);
        if (Utf8Parser.TryParse(token, out double real, out used) && used == token.Length)
            return new FbxReal(real);
        return new FbxText(XmlText.Bytes(token), from, token.Length);
    }

    private void Blank()
    {
        while (at < memory.Length && Span[at] is (byte)' ' or (byte)'\t')
            at++;
    }

    private void Skip()
    {
        while (at < memory.Length)
        {
            if (Span[at] is (byte)' ' or (byte)'\t' or (byte)'\r' or (byte)'\n' or (byte)',')
                at++;
            else if (Span[at] == (byte)';')
            {
                var line = Span[at..].IndexOf((byte)'\n');
                at = line < 0 ? memory.Length : at + line + 1;
            }
            else if (Span[at..].StartsWith("\uFEFF"u8))
                at += 3;
            else
                break;
        }
    }

    private void Tell(string what)
    {
        if (errors.Count < 50)
            errors.Add(Invariant($"line {1 + Span[..Math.Min(at, memory.Length)].Count((byte)'\n'):N0}: {what}"));
    }
}
