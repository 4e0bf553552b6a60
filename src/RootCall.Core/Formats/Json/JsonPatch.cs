using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using RootCall.Core.Files;

namespace RootCall.Core.Formats.Json;

/// <summary>A JSON object or array to be changed: one that stands in the file, or one that is about to be added.</summary>
public readonly record struct JsonSpot(JsonTree? Existing, JsonNode? Added);

/// <summary>Collects changes to a JSON text and turns them into the fewest byte edits; all other bytes stay.</summary>
/// <param name="json">The text that the trees were read from.</param>
public sealed class JsonPatch(ReadOnlyMemory<byte> json, JsonTree root)
{
    private readonly Dictionary<JsonTree, JsonNode> replaced = [];
    private readonly Dictionary<JsonTree, JsonNode> added = [];
    private readonly Dictionary<JsonTree, HashSet<string>> removed = [];

    /// <summary>The member of that name; an object or array is put there when there is none.</summary>
    public JsonSpot Child(JsonSpot parent, string name, bool array = false)
    {
        if (parent.Existing is { } tree && tree[name] is { Exists: true } child)
        {
            if (child.Kind == (array ? JsonValueKind.Array : JsonValueKind.Object))
                return new(child, null);
            // Something of another kind stands there; nothing can be put into it.
            if (!replaced.TryGetValue(child, out var instead) || instead is not (JsonArray or JsonObject))
                replaced[child] = instead = array ? new JsonArray() : new JsonObject();
            return new(null, instead);
        }

        var pending = Pending(parent);
        if (pending[name] is { } known && (array ? known is JsonArray : known is JsonObject))
            return new(null, known);
        JsonNode node = array ? new JsonArray() : new JsonObject();
        pending[name] = node;
        return new(null, node);
    }

    /// <summary>Gives a member another value, or adds it.</summary>
    public void Set(JsonSpot parent, string name, JsonNode value)
    {
        if (parent.Existing is { } tree && tree[name] is { Exists: true } child)
        {
            if (removed.TryGetValue(tree, out var names))
                names.Remove(name);
            replaced[child] = value;
        }
        else
        {
            Pending(parent)[name] = value;
        }
    }

    /// <summary>Takes a member out with its name and comma.</summary>
    public void Remove(JsonSpot parent, string name)
    {
        if (parent.Added is JsonObject node)
            node.Remove(name);
        if (parent.Existing is not { } tree)
            return;
        if (added.TryGetValue(tree, out var pending))
            pending.AsObject().Remove(name);
        if (!tree[name].Exists)
            return;
        if (!removed.TryGetValue(tree, out var names))
            removed[tree] = names = new(StringComparer.Ordinal);
        names.Add(name);
        replaced.Remove(tree[name]);
    }

    /// <summary>Adds an item at the end of an array.</summary>
    /// <returns>Its index.</returns>
    public int Append(JsonSpot array, JsonNode item)
    {
        var existing = array.Existing?.Items.Count ?? 0;
        JsonArray pending;
        if (array.Added is JsonArray fresh)
            pending = fresh;
        else
        {
            if (!added.TryGetValue(array.Existing!, out var known))
                added[array.Existing!] = known = new JsonArray();
            pending = known.AsArray();
        }

        pending.Add(item);
        return existing + pending.Count - 1;
    }

    /// <param name="offset">Byte offset of the JSON text in its file.</param>
    public IReadOnlyList<ByteEdit> Build(long offset)
    {
        var edits = new List<ByteEdit>();
        if (replaced.Count == 0 && added.Count == 0 && removed.Count == 0)
            return edits;
        var layout = new JsonLayout(json, root);
        // What is inside something that goes need not be changed first.
        var gone = removed.SelectMany(r => r.Value.Select(name => r.Key[name])).ToList();
        bool Stays(JsonTree tree) => !gone.Exists(g => g.Start <= tree.Start && tree.End <= g.End);
        foreach (var (tree, value) in replaced.Where(r => Stays(r.Key)))
            Replace(tree, value, layout, offset, edits);
        foreach (var tree in added.Keys.Concat(removed.Keys).Distinct().Where(Stays))
            Members(tree, layout, offset, edits);
        return edits;
    }

    /// <summary>Of an array of the same length only the items that differ are written.</summary>
    private static void Replace(JsonTree tree, JsonNode value, JsonLayout layout, long offset, List<ByteEdit> edits)
    {
        if (value is JsonArray array && tree.Kind == JsonValueKind.Array && array.Count == tree.Items.Count)
        {
            for (var i = 0; i < array.Count; i++)
                if (
                    tree.Items[i].Number is not { } old
                    || array[i] is not JsonValue number
                    || !number.TryGetValue(out double now)
                    || now != old
                )
                    edits.Add(
                        new(
                            offset + tree.Items[i].Start,
                            tree.Items[i].End - tree.Items[i].Start,
                            Encoding.UTF8.GetBytes(layout.Value(tree.Items[i], array[i]))
                        )
                    );
            return;
        }

        edits.Add(new(offset + tree.Start, tree.End - tree.Start, Encoding.UTF8.GetBytes(layout.Value(tree, value))));
    }

    private JsonObject Pending(JsonSpot spot)
    {
        if (spot.Added is JsonObject fresh)
            return fresh;
        if (!added.TryGetValue(spot.Existing!, out var known))
            added[spot.Existing!] = known = new JsonObject();
        return known.AsObject();
    }

    private void Members(JsonTree tree, JsonLayout layout, long offset, List<ByteEdit> edits)
    {
        var gone = removed.GetValueOrDefault(tree);
        var parts =
            tree.Kind == JsonValueKind.Array
                ? tree.Items.Select(i => (i.Start, i.End, Gone: false)).ToList()
                : [.. tree.Members.Select(m => (m.Value.NameStart, m.Value.End, Gone: gone?.Contains(m.Name) ?? false))];
        var kept = parts.FindLastIndex(p => !p.Gone);
        var text =
            added.TryGetValue(tree, out var node) && node is JsonArray { Count: > 0 } or JsonObject { Count: > 0 }
                ? layout.Added(tree, node, kept >= 0)
                : string.Empty;

        // Where the last kept member ends, whatever was behind it goes and what is new comes.
        var start =
            kept >= 0 ? parts[kept].End
            : parts.Count > 0 ? parts[0].Item1
            : tree.Start + 1;
        var end = parts.Count > 0 ? parts[^1].End : start;
        if (text.Length == 0 && kept < 0 && parts.Count > 0)
            (start, end) = (tree.Start + 1, tree.End - 1);
        else if (parts.Count == 0)
            end = Math.Max(start, tree.End - 1);
        if (end > start || text.Length > 0)
            edits.Add(new(offset + start, end - start, Encoding.UTF8.GetBytes(text)));
        for (var i = 0; i < kept; i++)
            if (parts[i].Gone)
                edits.Add(new(offset + parts[i].Item1, parts[i + 1].Item1 - parts[i].Item1, []));
    }
}
