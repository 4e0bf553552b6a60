using static System.FormattableString;

namespace RootCall.Core.Formats.Xml;

/// <summary>
/// A tolerant reader of XML 1.0 over bytes. It keeps what it understands: a document that breaks off is closed where it
/// ends, a closing tag that fits nothing is passed over, and no entity or schema is ever fetched.
/// </summary>
public sealed class XmlReading
{
    private const int MaxDepth = 512;
    private readonly List<string> errors = [];
    private int line = 1;
    private int counted;

    /// <summary>What is not well-formed, each with its byte and line.</summary>
    public IReadOnlyList<string> Errors => errors;

    /// <summary>The root element, or null when there is none.</summary>
    public XmlTree? Read(ReadOnlySpan<byte> xml)
    {
        XmlTree? root = null;
        XmlTree? current = null;
        var depth = 0;
        var at = 0;
        while (at < xml.Length)
        {
            var open = xml[at..].IndexOf((byte)'<');
            if (open < 0)
                break;
            at += open;
            var rest = xml[at..];
            if (rest.StartsWith("<!--"u8))
                at = Behind(xml, at, "-->"u8, "a comment");
            else if (rest.StartsWith("<![CDATA["u8))
                at = Behind(xml, at, "]]>"u8, "a CDATA section");
            else if (rest.StartsWith("<?"u8))
                at = Behind(xml, at, "?>"u8, "a processing instruction");
            else if (rest.StartsWith("<!"u8))
                at = Declaration(xml, at);
            else if (rest.StartsWith("</"u8))
                at = Close(xml, at, ref current, ref depth);
            else
            {
                if (root is not null && current is null)
                {
                    Tell(xml, at, "a second element stands behind the root; it was passed over");
                    break;
                }

                var element = Open(xml, ref at, current);
                if (element is null)
                    continue;
                current?.Add(element);
                root ??= element;
                if (element.SelfClosing)
                    continue;
                if (++depth > MaxDepth)
                {
                    Tell(xml, at, $"elements lie more than {MaxDepth} deep; reading stopped there");
                    break;
                }

                current = element;
            }
        }

        for (; current is not null; current = current.Parent)
        {
            Tell(xml, xml.Length, $"<{current.Name}> of line {current.Line} is not closed");
            current.ContentEnd = current.End = xml.Length;
        }

        return root;
    }

    private int Behind(ReadOnlySpan<byte> xml, int at, ReadOnlySpan<byte> end, string what)
    {
        var close = xml[at..].IndexOf(end);
        if (close >= 0)
            return at + close + end.Length;
        Tell(xml, at, $"{what} is not closed");
        return xml.Length;
    }

    /// <summary>A document type; its internal subset may hold brackets.</summary>
    private int Declaration(ReadOnlySpan<byte> xml, int at)
    {
        var depth = 0;
        for (var i = at; i < xml.Length; i++)
        {
            if (xml[i] == (byte)'<')
                depth++;
            else if (xml[i] == (byte)'>' && --depth == 0)
                return i + 1;
        }

        Tell(xml, at, "a declaration is not closed");
        return xml.Length;
    }

    private int Close(ReadOnlySpan<byte> xml, int at, ref XmlTree? current, ref int depth)
    {
        var nameStart = at + 2;
        var end = xml[at..].IndexOf((byte)'>');
        end = end < 0 ? xml.Length : at + end;
        var name = LocalName(XmlText.Bytes(xml[nameStart..end]).Trim());
        var match = current;
        while (match is not null && match.Name != name)
            match = match.Parent;
        if (match is null)
            Tell(xml, at, $"</{name}> closes nothing; it was passed over");
        else
        {
            while (current != match)
            {
                Tell(xml, at, $"<{current!.Name}> of line {current.Line} is not closed");
                current.ContentEnd = current.End = at;
                current = current.Parent;
                depth--;
            }

            match.ContentEnd = at;
            match.End = Math.Min(end + 1, xml.Length);
            current = match.Parent;
            depth--;
        }

        return Math.Min(end + 1, xml.Length);
    }

    private XmlTree? Open(ReadOnlySpan<byte> xml, ref int at, XmlTree? parent)
    {
        var start = at++;
        var nameStart = at;
        while (at < xml.Length && IsName(xml[at]))
            at++;
        if (at == nameStart)
        {
            Tell(xml, start, "a bracket opens no element");
            return null;
        }

        var element = new XmlTree(LocalName(XmlText.Bytes(xml[nameStart..at])), start, parent) { Line = LineAt(xml, start) };
        while (true)
        {
            while (at < xml.Length && IsSpace(xml[at]))
                at++;
            if (at >= xml.Length || xml[at] == (byte)'<')
            {
                Tell(xml, start, $"the tag <{element.Name}> is not closed");
                break;
            }

            if (xml[at] == (byte)'>')
                break;
            if (xml[at] == (byte)'/' && at + 1 < xml.Length && xml[at + 1] == (byte)'>')
            {
                element.SelfClosing = true;
                break;
            }

            if (!Attribute(xml, ref at, element))
                at++;
        }

        element.TagEnd = at;
        at = Math.Min(
            xml.Length,
            at
                + (
                    element.SelfClosing ? 2
                    : at < xml.Length && xml[at] == (byte)'>' ? 1
                    : 0
                )
        );
        element.ContentStart = element.ContentEnd = element.End = at;
        return element;
    }

    private bool Attribute(ReadOnlySpan<byte> xml, ref int at, XmlTree element)
    {
        var nameStart = at;
        while (at < xml.Length && IsName(xml[at]))
            at++;
        if (at == nameStart)
            return false;
        var name = XmlText.Bytes(xml[nameStart..at]);
        while (at < xml.Length && IsSpace(xml[at]))
            at++;
        if (at >= xml.Length || xml[at] != (byte)'=')
            return true; // A name without a value is passed over.
        at++;
        while (at < xml.Length && IsSpace(xml[at]))
            at++;
        if (at >= xml.Length || xml[at] is not ((byte)'"' or (byte)'\''))
            return true;
        var close = xml[(at + 1)..].IndexOf(xml[at]);
        if (close < 0)
        {
            Tell(xml, nameStart, $"the value of {name} is not closed");
            at = xml.Length;
            return true;
        }

        var start = at + 1;
        at = start + close + 1;
        element.Add(new XmlAttribute(name, XmlText.Decode(XmlText.Bytes(xml[start..(at - 1)])), nameStart, start, at - 1));
        return true;
    }

    private void Tell(ReadOnlySpan<byte> xml, int at, string what)
    {
        if (errors.Count < 50)
            errors.Add(Invariant($"byte {at:N0}, line {LineAt(xml, at):N0}: {what}"));
    }

    private int LineAt(ReadOnlySpan<byte> xml, int at)
    {
        // Offsets nearly always grow, so lines are counted once.
        if (at < counted)
            return 1 + xml[..at].Count((byte)'\n');
        line += xml[counted..at].Count((byte)'\n');
        counted = at;
        return line;
    }

    private static string LocalName(string name) => name[(name.IndexOf(':', StringComparison.Ordinal) + 1)..];

    private static bool IsSpace(byte b) => b is (byte)' ' or (byte)'\t' or (byte)'\r' or (byte)'\n';

    private static bool IsName(byte b) =>
        b >= 0x80 || char.IsAsciiLetterOrDigit((char)b) || b is (byte)'_' or (byte)'-' or (byte)'.' or (byte)':';
}
