using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace RootCall.Core.Formats.Json;

/// <summary>How a JSON text is laid out, so that what is put in looks like what stands around it.</summary>
internal sealed class JsonLayout
{
    private const int Looked = 4000;
    private static readonly JsonSerializerOptions Plain = new()
    {
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };
    private readonly ReadOnlyMemory<byte> json;
    private readonly string newLine;
    private readonly string unit = string.Empty;
    private readonly string colon = ":";
    private readonly string comma = ",";
    private readonly string pad = string.Empty;
    private readonly bool lists;

    public JsonLayout(ReadOnlyMemory<byte> json, JsonTree root)
    {
        this.json = json;
        newLine = json.Span.IndexOf("\r\n"u8) >= 0 ? "\r\n" : "\n";
        var (seenColon, seenComma, seenPad, seenUnit, seenList) = (false, false, false, false, false);
        var left = Looked;
        var open = new Queue<JsonTree>([root]);
        while (left-- > 0 && open.TryDequeue(out var tree))
        {
            var parts = Parts(tree).ToList();
            if (tree.Kind == JsonValueKind.Object && parts.Count > 0 && !seenColon)
            {
                var name = Text(parts[0].Start, parts[0].Value.Start);
                colon = name[name.LastIndexOf(':')..];
                seenColon = true;
            }

            if (parts.Count > 0 && Lead(tree) is var lead && IsSpace(lead))
            {
                var lines = lead.Contains('\n', StringComparison.Ordinal);
                if (lines && !seenUnit && Indent(parts[0].Start) is var inner && inner.Length > Indent(tree.Start).Length)
                    (unit, seenUnit) = (inner[Indent(tree.Start).Length..], true);
                if (!lines && !seenPad && tree.Kind == JsonValueKind.Object)
                    (pad, seenPad) = (lead, true);
                if (parts.Count > 1 && tree.Kind == JsonValueKind.Array && parts[0].Value.Number is not null && !seenList)
                    (lists, seenList) = (lines, true);
                if (
                    parts.Count > 1
                    && !lines
                    && !seenComma
                    && Text(parts[0].Value.End, parts[1].Start) is var between
                    && between.StartsWith(',')
                    && IsSpace(between[1..])
                )
                    (comma, seenComma) = (between, true);
            }

            foreach (var part in parts)
                if (part.Value.Kind is JsonValueKind.Object or JsonValueKind.Array)
                    open.Enqueue(part.Value);
        }

        if (!seenComma && colon.Length > 1)
            comma = ", ";
    }

    /// <summary>Text that puts the new members or items behind the last one that stays.</summary>
    /// <param name="tree">The object or array that stands in the text.</param>
    /// <param name="follows">Something that stays stands before it.</param>
    public string Added(JsonTree tree, JsonNode addition, bool follows)
    {
        var parts = Parts(tree).ToList();
        var lead =
            parts.Count > 0 && IsSpace(Lead(tree)) ? Lead(tree)
            : OwnLine(tree) ? newLine + Indent(tree.Start) + unit
            : string.Empty;
        var last = parts.Count > 1 ? Text(parts[^2].Value.End, parts[^1].Start) : string.Empty;
        var between =
            last.StartsWith(',') && IsSpace(last[1..]) ? last
            : parts.Count == 0 && !lead.Contains('\n', StringComparison.Ordinal) ? comma
            : lead.Contains('\n', StringComparison.Ordinal) ? "," + lead
            : lead.Length > 0 ? "," + lead
            : comma;
        var indent = between.Contains('\n', StringComparison.Ordinal) ? between[(between.LastIndexOf('\n') + 1)..] : null;
        var pieces = addition is JsonArray array
            ? array.Select(i => Render(i, indent))
            : addition.AsObject().Select(m => Name(m.Key) + Render(m.Value, indent));
        var text = string.Join(between, pieces);
        if (follows)
            return between + text;
        if (parts.Count > 0)
            return text;
        var inside =
            lead.Length > 0 ? lead
            : tree.Kind == JsonValueKind.Object ? pad
            : string.Empty;
        return inside + text + (lead.Length > 0 ? newLine + Indent(tree.Start) : inside);
    }

    /// <summary>A value in place of one that stands there.</summary>
    public string Value(JsonTree old, JsonNode? value) =>
        Render(value, Text(old.Start, old.End).Contains('\n', StringComparison.Ordinal) ? Indent(old.Start) : null);

    /// <param name="indent">White space before the line that it stands on; null to keep it on one line.</param>
    private string Render(JsonNode? node, string? indent)
    {
        switch (node)
        {
            case JsonObject { Count: > 0 } members when indent is not null && unit.Length > 0:
                var inner = indent + unit;
                var lines = members.Select(m => inner + Name(m.Key) + Render(m.Value, inner));
                return $"{{{newLine}{string.Join("," + newLine, lines)}{newLine}{indent}}}";
            case JsonObject { Count: > 0 } members:
                return $"{{{pad}{string.Join(comma, members.Select(m => Name(m.Key) + Render(m.Value, null)))}{pad}}}";
            case JsonArray { Count: > 0 } items when indent is not null && unit.Length > 0 && (lists || items[0] is not JsonValue):
                var item = indent + unit;
                return $"[{newLine}{string.Join("," + newLine, items.Select(i => item + Render(i, item)))}{newLine}{indent}]";
            case JsonArray items:
                return $"[{string.Join(comma, items.Select(i => Render(i, null)))}]";
            default:
                return node?.ToJsonString(Plain) ?? "null";
        }
    }

    private string Name(string name) => JsonValue.Create(name).ToJsonString(Plain) + colon;

    /// <summary>An empty container in a text of lines is opened into lines when what it stands in is.</summary>
    private bool OwnLine(JsonTree tree)
    {
        if (unit.Length == 0)
            return false;
        var line = json.Span[..tree.Start].LastIndexOf((byte)'\n') + 1;
        var head = Text(line, tree.Start).Trim();
        // Only the member's own name stands before it on its line.
        return line > 0
            && head.IndexOf('{', StringComparison.Ordinal) < 0
            && head.IndexOf('[', StringComparison.Ordinal) < 0
            && !head.Contains(',', StringComparison.Ordinal);
    }

    private string Lead(JsonTree tree) => Text(tree.Start + 1, Parts(tree).First().Start);

    private static IEnumerable<(int Start, JsonTree Value)> Parts(JsonTree tree) =>
        tree.Kind == JsonValueKind.Object ? tree.Members.Select(m => (m.Value.NameStart, m.Value)) : tree.Items.Select(i => (i.Start, i));

    private string Indent(int at)
    {
        var line = json.Span[..at].LastIndexOf((byte)'\n') + 1;
        var end = line;
        while (end < at && json.Span[end] is (byte)' ' or (byte)'\t')
            end++;
        return Text(line, end);
    }

    private static bool IsSpace(string text) => text.AsSpan().Trim().IsEmpty;

    private string Text(int start, int end) => Encoding.UTF8.GetString(json.Span[start..Math.Max(start, end)]);
}
