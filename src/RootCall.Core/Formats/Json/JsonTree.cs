using System.Text;
using System.Text.Json;
using static System.FormattableString;

namespace RootCall.Core.Formats.Json;

/// <summary>
/// A JSON value that knows the bytes it was read from, so that a writer can replace just those. Lookups on the wrong
/// kind of value give nothing instead of throwing: scenes are broken more often than not.
/// </summary>
public sealed class JsonTree
{
    private static readonly JsonTree Nothing = new(JsonValueKind.Undefined, 0);

    private List<(string Name, JsonTree Value)>? members;
    private Dictionary<string, JsonTree>? byName;
    private List<JsonTree>? items;

    internal JsonTree(JsonValueKind kind, int start)
    {
        Kind = kind;
        Start = start;
    }

    public JsonValueKind Kind { get; }

    /// <summary>Byte offset of the value's first byte, quotes and brackets included.</summary>
    public int Start { get; }

    /// <summary>Byte offset behind the value's last byte.</summary>
    public int End { get; internal set; }

    /// <summary>Byte offset of the quote that opens the member's name, or -1 when it is no member.</summary>
    public int NameStart { get; internal set; } = -1;

    public string? Text { get; internal set; }

    public double? Number { get; internal set; }

    public IReadOnlyList<JsonTree> Items => items ?? (IReadOnlyList<JsonTree>)[];

    public IReadOnlyList<(string Name, JsonTree Value)> Members => members ?? (IReadOnlyList<(string, JsonTree)>)[];

    public bool Exists => Kind != JsonValueKind.Undefined;

    /// <summary>The member of that name, or a value that does not exist.</summary>
    public JsonTree this[string name]
    {
        get
        {
            if (members is null)
                return Nothing;
            if (members.Count > 8)
            {
                byName ??= members.DistinctBy(m => m.Name).ToDictionary(m => m.Name, m => m.Value, StringComparer.Ordinal);
                return byName.GetValueOrDefault(name, Nothing);
            }

            foreach (var (key, value) in members)
                if (key == name)
                    return value;
            return Nothing;
        }
    }

    /// <summary>The item at that place, or a value that does not exist.</summary>
    public JsonTree this[int index] => items is not null && index >= 0 && index < items.Count ? items[index] : Nothing;

    /// <summary>A whole number from 0, or null.</summary>
    public int? Index => Number is >= 0 and <= int.MaxValue && Number == Math.Floor(Number.Value) ? (int)Number.Value : null;

    internal void Add(string? name, JsonTree value)
    {
        if (Kind == JsonValueKind.Object)
            (members ??= []).Add((name ?? string.Empty, value));
        else
            (items ??= []).Add(value);
    }

    /// <summary>
    /// Reads as far as the text is JSON. After the first error the tree holds what came before it, closed as if the
    /// text ended there, and <paramref name="error"/> says what and at which byte.
    /// </summary>
    public static JsonTree Read(ReadOnlySpan<byte> utf8, int maxDepth, out string? error)
    {
        var skip = utf8.StartsWith(Encoding.UTF8.Preamble) ? Encoding.UTF8.Preamble.Length : 0;
        var reader = new Utf8JsonReader(
            utf8[skip..],
            new JsonReaderOptions
            {
                MaxDepth = maxDepth,
                CommentHandling = JsonCommentHandling.Skip,
                AllowTrailingCommas = true,
            }
        );
        var open = new Stack<JsonTree>();
        JsonTree? root = null;
        string? name = null;
        var nameStart = -1;
        error = null;
        try
        {
            while (reader.Read())
            {
                var start = skip + (int)reader.TokenStartIndex;
                if (reader.TokenType == JsonTokenType.PropertyName)
                {
                    name = TextOf(ref reader);
                    nameStart = start;
                    continue;
                }

                if (reader.TokenType is JsonTokenType.EndObject or JsonTokenType.EndArray)
                {
                    open.Pop().End = skip + (int)reader.BytesConsumed;
                    continue;
                }

                var value = ValueAt(ref reader, start);
                value.NameStart = nameStart;
                nameStart = -1;
                value.End = skip + (int)reader.BytesConsumed;
                if (open.TryPeek(out var parent))
                    parent.Add(name, value);
                root ??= value;
                name = null;
                if (value.Kind is JsonValueKind.Object or JsonValueKind.Array)
                    open.Push(value);
            }
        }
        catch (JsonException e)
        {
            var at = skip + reader.BytesConsumed;
            error = Invariant($"the JSON breaks at byte {at:N0} (line {(e.LineNumber ?? 0) + 1:N0}); what stands before it was read");
            foreach (var unclosed in open)
                unclosed.End = (int)at;
        }

        return root ?? Nothing;
    }

    private static JsonTree ValueAt(ref Utf8JsonReader reader, int start) =>
        reader.TokenType switch
        {
            JsonTokenType.StartObject => new(JsonValueKind.Object, start),
            JsonTokenType.StartArray => new(JsonValueKind.Array, start),
            JsonTokenType.String => new(JsonValueKind.String, start) { Text = TextOf(ref reader) },
            JsonTokenType.Number => new(JsonValueKind.Number, start) { Number = reader.TryGetDouble(out var d) ? d : null },
            JsonTokenType.True => new(JsonValueKind.True, start),
            JsonTokenType.False => new(JsonValueKind.False, start),
            _ => new(JsonValueKind.Null, start),
        };

    /// <summary>The string that the reader stands on; never throws for what is in it.</summary>
    internal static string TextOf(ref Utf8JsonReader reader)
    {
        try
        {
            return reader.GetString()!;
        }
        catch (InvalidOperationException)
        {
            // Bytes that are not UTF-8, or half a surrogate pair: keep what can be shown.
            return Encoding.Latin1.GetString(reader.ValueSpan);
        }
    }
}
