using System.Text;
using System.Xml.Linq;
using RootCall.Core.Files;

namespace RootCall.Core.Formats.Xml;

/// <summary>
/// Collects changes to an XML text and turns them into byte edits; all other bytes stay. What is put in is laid out like what
/// stands around it, and what is taken out takes its line along.
/// </summary>
internal sealed class XmlPatch
{
    private static readonly System.Buffers.SearchValues<byte> TagEnds = System.Buffers.SearchValues.Create(" />\t\r\n"u8);
    private readonly byte[] xml;
    private readonly string newLine;
    private readonly string unit;
    private readonly List<ByteEdit> edits = [];
    private readonly List<XmlTree> cut = [];
    private readonly List<(XmlTree Parent, XElement Child)> children = [];
    private readonly List<(XmlTree Before, XElement Element)> before = [];
    private readonly Dictionary<(int Start, int Length), string> attributes = [];
    private readonly List<(XmlTree Element, string Name, string Value)> added = [];

    public XmlPatch(byte[] xml, XmlTree root)
    {
        this.xml = xml;
        newLine = xml.AsSpan().IndexOf("\r\n"u8) >= 0 ? "\r\n" : "\n";
        var inner = root.Children.Count > 0 ? Indent(root.Children[0].Start) : null;
        unit =
            inner is null ? "  "
            : inner.Length > (Indent(root.Start)?.Length ?? 0) ? inner[(Indent(root.Start)?.Length ?? 0)..]
            : root.Children.Where(c => c.Children.Count > 0)
                .Select(c => Indent(c.Children[0].Start))
                .FirstOrDefault(i => i?.Length > inner.Length)
                ?[inner.Length..]
                ?? "  ";
    }

    /// <summary>Gives an attribute a value, or adds it.</summary>
    public void Set(XmlTree element, string attribute, string value)
    {
        if (element.Attribute(attribute) is { } known)
            attributes[(known.Start, known.End - known.Start)] = XmlText.Encode(value);
        else
        {
            added.RemoveAll(a => a.Element == element && a.Name == attribute);
            added.Add((element, attribute, value));
        }
    }

    /// <summary>Takes an attribute out, with the white space before it.</summary>
    public void Drop(XmlTree element, string attribute)
    {
        if (element.Attribute(attribute) is not { } known)
            return;
        var start = known.NameStart;
        while (start > 0 && xml[start - 1] is (byte)' ' or (byte)'\t' or (byte)'\r' or (byte)'\n')
            start--;
        attributes.Remove((known.Start, known.End - known.Start));
        edits.Add(new(start, known.End + 1 - start, []));
    }

    /// <summary>Adds a child behind those that are there.</summary>
    public void Add(XmlTree parent, XElement child) => children.Add((parent, child));

    /// <summary>Puts an element before another one.</summary>
    public void Before(XmlTree element, XElement added) => before.Add((element, added));

    public void Cut(XmlTree element)
    {
        if (!cut.Contains(element))
            cut.Add(element);
    }

    /// <summary>Puts other content, or another element, in place of one.</summary>
    public void Replace(XmlTree element, XElement by) =>
        edits.Add(new(element.Start, element.End - element.Start, Bytes(Text(by, Indent(element.Start), Prefix(element)))));

    public void ReplaceContent(XmlTree element, string text) =>
        edits.Add(new(element.ContentStart, element.ContentEnd - element.ContentStart, Bytes(text)));

    /// <summary>Gives an element another tag.</summary>
    public void Rename(XmlTree element, string tag)
    {
        var old = Tag(element);
        edits.Add(new(element.Start + 1, Encoding.UTF8.GetByteCount(old), Bytes(Prefix(element) + tag)));
        if (!element.SelfClosing)
            edits.Add(new(element.ContentEnd + 2, Encoding.UTF8.GetByteCount(old), Bytes(Prefix(element) + tag)));
    }

    public IReadOnlyList<ByteEdit> Build()
    {
        foreach (var ((start, length), text) in attributes)
            edits.Add(new(start, length, Bytes(text)));
        foreach (var group in added.GroupBy(a => a.Element))
            if (!children.Exists(c => c.Parent == group.Key && group.Key.SelfClosing))
                edits.Add(new(TagEnd(group.Key), 0, Bytes(Attributes(group))));
        foreach (var group in before.GroupBy(b => b.Before))
            PutBefore(group.Key, group.Select(g => g.Element));
        foreach (var group in children.GroupBy(c => c.Parent))
            PutInside(group.Key, [.. group.Select(g => g.Child)]);
        // Of edits inside something that goes nothing is left.
        bool Stays(ByteEdit edit) =>
            edit.Length == 0 && cut.TrueForAll(c => edit.Start <= c.Start || edit.Start >= c.End)
            || edit.Length > 0 && cut.TrueForAll(c => edit.Start + edit.Length <= c.Start || edit.Start >= c.End);
        return [.. edits.Where(Stays), .. cut.Where(c => !cut.Exists(o => o != c && o.Start <= c.Start && c.End <= o.End)).Select(CutOf)];
    }

    private static string Attributes(IEnumerable<(XmlTree Element, string Name, string Value)> list) =>
        string.Concat(list.Select(a => $" {a.Name}=\"{XmlText.Encode(a.Value)}\""));

    /// <summary>Behind the last attribute: white space before the end of the tag stays.</summary>
    private int TagEnd(XmlTree element)
    {
        var at = element.TagEnd;
        while (at > 0 && xml[at - 1] is (byte)' ' or (byte)'\t' or (byte)'\r' or (byte)'\n')
            at--;
        return at;
    }

    private void PutBefore(XmlTree element, IEnumerable<XElement> elements)
    {
        var indent = Indent(element.Start);
        var text = string.Concat(
            elements.Select(e => Text(e, indent, Prefix(element)) + (indent is null ? string.Empty : newLine + indent))
        );
        edits.Add(new(element.Start, 0, Bytes(text)));
    }

    private void PutInside(XmlTree parent, List<XElement> elements)
    {
        var sibling = parent.Children.Count > 0 ? parent.Children[^1] : null;
        var prefix = Prefix(sibling ?? parent);
        var indent =
            sibling is not null ? Indent(sibling.Start)
            : Indent(parent.Start) is { } own ? own + unit
            : null;
        var lines = string.Concat(elements.Select(e => (indent is null ? string.Empty : newLine + indent) + Text(e, indent, prefix)));
        if (parent.SelfClosing)
        {
            var more = Attributes(added.Where(a => a.Element == parent));
            var from = TagEnd(parent);
            edits.Add(
                new(
                    from,
                    parent.End - from,
                    Bytes($"{more}>{lines}{(indent is null ? string.Empty : newLine + Indent(parent.Start))}</{Tag(parent)}>")
                )
            );
            return;
        }

        var last = parent.Children.LastOrDefault(c => !cut.Contains(c));
        var at = last?.End ?? parent.ContentStart;
        var close =
            last is null
            && indent is not null
            && parent.Children.Count == 0
            && !xml.AsSpan(parent.ContentStart..parent.ContentEnd).Contains((byte)'\n')
                ? newLine + Indent(parent.Start)
                : string.Empty;
        edits.Add(new(at, 0, Bytes(lines + close)));
    }

    private ByteEdit CutOf(XmlTree element)
    {
        var (start, end) = (element.Start, element.End);
        var line = start;
        while (line > 0 && xml[line - 1] is (byte)' ' or (byte)'\t')
            line--;
        var behind = end;
        while (behind < xml.Length && xml[behind] is (byte)' ' or (byte)'\t' or (byte)'\r')
            behind++;
        var alone = (line == 0 || xml[line - 1] == (byte)'\n') && behind < xml.Length && xml[behind] == (byte)'\n';
        return alone ? new(line, behind + 1 - line, []) : new(start, end - start, []);
    }

    /// <summary>White space before the line that starts at an offset; null when something else stands before it on its line.</summary>
    private string? Indent(int at)
    {
        var start = at;
        while (start > 0 && xml[start - 1] is (byte)' ' or (byte)'\t')
            start--;
        return start > 0 && xml[start - 1] == (byte)'\n' ? Encoding.ASCII.GetString(xml, start, at - start)
            : start == 0 && at == 0 ? string.Empty
            : null;
    }

    private string Tag(XmlTree element)
    {
        var rest = xml.AsSpan(element.Start + 1);
        var end = rest.IndexOfAny(TagEnds);
        return XmlText.Bytes(end < 0 ? rest : rest[..end]);
    }

    private string Prefix(XmlTree element) =>
        Tag(element) is var tag && tag.IndexOf(':', StringComparison.Ordinal) is > 0 and var colon ? tag[..(colon + 1)] : string.Empty;

    private string Text(XElement element, string? indent, string prefix)
    {
        var name = prefix + element.Name.LocalName;
        var head = $"<{name}{string.Concat(element.Attributes().Select(a => $" {a.Name.LocalName}=\"{XmlText.Encode(a.Value)}\""))}";
        if (!element.Nodes().Any())
            return head + "/>";
        if (!element.HasElements)
            return $"{head}>{XmlText.Encode(element.Value)}</{name}>";
        var inner = indent is null ? null : indent + unit;
        var lines = element.Elements().Select(e => (inner is null ? string.Empty : newLine + inner) + Text(e, inner, prefix));
        return $"{head}>{string.Concat(lines)}{(indent is null ? string.Empty : newLine + indent)}</{name}>";
    }

    private static byte[] Bytes(string text) => Encoding.UTF8.GetBytes(text);
}
