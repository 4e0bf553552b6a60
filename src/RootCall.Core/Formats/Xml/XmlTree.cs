using System.Text;

namespace RootCall.Core.Formats.Xml;

/// <summary>An attribute with the bytes of its value, quotes not included.</summary>
public readonly record struct XmlAttribute(string Name, string Value, int NameStart, int Start, int End);

/// <summary>
/// An XML element that knows the bytes it was read from, so that a writer can replace just those. Prefixes of names are
/// kept off <see cref="Name"/>; namespaces are not told apart.
/// </summary>
public sealed class XmlTree
{
    private readonly List<XmlTree> children = [];
    private readonly List<XmlAttribute> attributes = [];

    internal XmlTree(string name, int start, XmlTree? parent)
    {
        Name = name;
        Start = start;
        Parent = parent;
    }

    public string Name { get; }

    public XmlTree? Parent { get; }

    /// <summary>Byte offset of the opening bracket.</summary>
    public int Start { get; }

    /// <summary>Byte offset behind the element.</summary>
    public int End { get; internal set; }

    /// <summary>Byte offset of the bracket (or slash and bracket) that ends the opening tag.</summary>
    public int TagEnd { get; internal set; }

    /// <summary>The element has no closing tag of its own.</summary>
    public bool SelfClosing { get; internal set; }

    /// <summary>The bytes between the tags; empty for a self-closing element.</summary>
    public int ContentStart { get; internal set; }

    public int ContentEnd { get; internal set; }

    public IReadOnlyList<XmlTree> Children => children;

    public IReadOnlyList<XmlAttribute> Attributes => attributes;

    /// <summary>Line of the opening bracket, from 1.</summary>
    public int Line { get; internal set; }

    public string? this[string attribute] => Attribute(attribute)?.Value;

    public XmlAttribute? Attribute(string name)
    {
        foreach (var a in attributes)
            if (a.Name == name)
                return a;
        return null;
    }

    public XmlTree? Child(string name) => children.Find(c => c.Name == name);

    public IEnumerable<XmlTree> All(string name) => children.Where(c => c.Name == name);

    public IEnumerable<XmlTree> Descendants()
    {
        var open = new Stack<XmlTree>([this]);
        while (open.TryPop(out var next))
        {
            yield return next;
            for (var i = next.children.Count - 1; i >= 0; i--)
                open.Push(next.children[i]);
        }
    }

    /// <summary>The text directly in the element, entities resolved; empty where it has child elements.</summary>
    public string Text(ReadOnlySpan<byte> xml) =>
        ContentEnd <= ContentStart || children.Count > 0 ? string.Empty : XmlText.Decode(XmlText.Content(xml[ContentStart..ContentEnd]));

    internal void Add(XmlTree child) => children.Add(child);

    internal void Add(XmlAttribute attribute) => attributes.Add(attribute);
}

/// <summary>Characters of XML 1.0: entities, character references and CDATA.</summary>
public static class XmlText
{
    /// <summary>UTF-8 where the bytes are, otherwise Latin-1, in which every byte is a character.</summary>
    public static string Bytes(ReadOnlySpan<byte> bytes)
    {
        try
        {
            return Strict.GetString(bytes);
        }
        catch (DecoderFallbackException)
        {
            return Encoding.Latin1.GetString(bytes);
        }
    }

    public static string Decode(string text)
    {
        if (!text.Contains('&', StringComparison.Ordinal))
            return text;
        var result = new StringBuilder(text.Length);
        for (var i = 0; i < text.Length; i++)
        {
            var end = text[i] == '&' ? text.IndexOf(';', i) : -1;
            if (end < 0 || end - i > 12)
            {
                result.Append(text[i]);
                continue;
            }

            var name = text[(i + 1)..end];
            var character = name switch
            {
                "amp" => "&",
                "lt" => "<",
                "gt" => ">",
                "quot" => "\"",
                "apos" => "'",
                ['#', 'x', .. var hex] when Rune.TryCreate(Parsed(hex, System.Globalization.NumberStyles.HexNumber), out var rune) =>
                    rune.ToString(),
                ['#', .. var digits] when Rune.TryCreate(Parsed(digits, System.Globalization.NumberStyles.None), out var rune) =>
                    rune.ToString(),
                _ => null,
            };
            if (character is null)
                result.Append('&');
            else
            {
                result.Append(character);
                i = end;
            }
        }

        return result.ToString();
    }

    public static string Encode(string text) =>
        text.Replace("&", "&amp;", StringComparison.Ordinal)
            .Replace("<", "&lt;", StringComparison.Ordinal)
            .Replace(">", "&gt;", StringComparison.Ordinal)
            .Replace("\"", "&quot;", StringComparison.Ordinal)
            .Replace("'", "&apos;", StringComparison.Ordinal);

    internal static string Content(ReadOnlySpan<byte> content)
    {
        var text = Bytes(content);
        const string Open = "<![CDATA[";
        if (!text.Contains('<', StringComparison.Ordinal))
            return text;
        var at = text.IndexOf(Open, StringComparison.Ordinal);
        if (at >= 0 && text.IndexOf("]]>", at, StringComparison.Ordinal) is var end and >= 0)
            return text[..at] + text[(at + Open.Length)..end] + text[(end + 3)..];
        at = text.IndexOf("<!--", StringComparison.Ordinal);
        return at >= 0 && text.IndexOf("-->", at, StringComparison.Ordinal) is var close and >= 0 ? text[..at] + text[(close + 3)..] : text;
    }

    private static readonly UTF8Encoding Strict = new(encoderShouldEmitUTF8Identifier: false, throwOnInvalidBytes: true);

    private static int Parsed(string digits, System.Globalization.NumberStyles style) =>
        int.TryParse(digits, style, System.Globalization.CultureInfo.InvariantCulture, out var n) ? n : -1;
}
