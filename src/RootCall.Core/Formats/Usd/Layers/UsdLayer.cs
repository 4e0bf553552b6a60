using System.Collections.Immutable;

namespace RootCall.Core.Formats.Usd.Layers;

public enum UsdSpecifier
{
    Over,
    Def,
    Class,
}

/// <summary>One layer: a tree of prim specs and the layers it stands on.</summary>
public sealed class UsdLayer
{
    /// <summary>Metadata of the layer: <c>defaultPrim</c>, <c>upAxis</c>, <c>metersPerUnit</c>.</summary>
    public Dictionary<string, UsdValue> Metadata { get; } = new(StringComparer.Ordinal);

    public List<UsdAsset> SubLayers { get; } = [];

    /// <summary>The pseudo-root; its children are the root prims.</summary>
    public UsdPrimSpec Root { get; } = new(string.Empty, UsdSpecifier.Def, string.Empty);

    /// <summary>The prim spec at an absolute path such as <c>/World/Pot</c>; null when there is none.</summary>
    public UsdPrimSpec? Find(string path)
    {
        var spec = Root;
        foreach (var name in path.Split('/', StringSplitOptions.RemoveEmptyEntries))
        {
            if (spec.Child(name) is not { } child)
                return null;
            spec = child;
        }

        return spec;
    }
}

/// <summary>A reference, payload, inherit or specialize.</summary>
/// <param name="Asset">The layer that is called; null for a prim of the same layer stack.</param>
/// <param name="Prim">The prim's path; empty for the layer's default prim.</param>
public sealed record UsdArc(UsdAsset? Asset, string Prim);

/// <summary>A list that opinions edit: an explicit list replaces weaker ones, the others join them.</summary>
public sealed record UsdListOp<T>(bool IsExplicit, ImmutableArray<T> Prepended, ImmutableArray<T> Appended, ImmutableArray<T> Deleted)
{
    public IEnumerable<T> Items => Prepended.Concat(Appended);
}

/// <summary>What one layer says of one prim.</summary>
public sealed class UsdPrimSpec(string name, UsdSpecifier specifier, string typeName)
{
    private readonly Dictionary<string, UsdPrimSpec> byName = new(StringComparer.Ordinal);
    private int named;

    public string Name => name;

    public UsdSpecifier Specifier { get; set; } = specifier;

    public string TypeName { get; set; } = typeName;

    public Dictionary<string, UsdValue> Metadata { get; } = new(StringComparer.Ordinal);

    public UsdListOp<UsdArc>? References { get; set; }

    public UsdListOp<UsdArc>? Payloads { get; set; }

    public UsdListOp<UsdArc>? Inherits { get; set; }

    public UsdListOp<UsdArc>? Specializes { get; set; }

    /// <summary>The selected variant of each set.</summary>
    public Dictionary<string, string> Selections { get; } = new(StringComparer.Ordinal);

    public Dictionary<string, List<UsdPrimSpec>> VariantSets { get; } = new(StringComparer.Ordinal);

    public List<UsdPropertySpec> Properties { get; } = [];

    public List<UsdPrimSpec> Children { get; } = [];

    /// <summary>Byte offset of the brace that closes the prim's body, or -1 in a layer that packs its specs.</summary>
    public int BodyEnd { get; set; } = -1;

    /// <summary>Byte offset behind the prim's name in a text layer, or -1.</summary>
    public int NameEnd { get; set; } = -1;

    /// <summary>Byte offset of the parenthesis that closes the prim's metadata, or -1 when it has none.</summary>
    public int MetadataEnd { get; set; } = -1;

    /// <summary>The bytes of the word that says whether it is instanceable; null when it says nothing.</summary>
    public (int Start, int End)? InstanceableSpan { get; set; }

    /// <summary>The bytes of the string that selects each variant, quotes included.</summary>
    public Dictionary<string, (int Start, int End)> SelectionSpans { get; } = new(StringComparer.Ordinal);

    public UsdPrimSpec? Child(string childName)
    {
        if (Children.Count < 8)
            return Children.Find(c => c.Name == childName);
        // A reader asks between adding one and the next.
        for (; named < Children.Count; named++)
            byName.TryAdd(Children[named].Name, Children[named]);
        return byName.GetValueOrDefault(childName);
    }

    public UsdPropertySpec? Property(string propertyName) => Properties.Find(p => p.Name == propertyName);

    public IEnumerable<UsdPrimSpec> Descendants()
    {
        var open = new Stack<UsdPrimSpec>([this]);
        while (open.TryPop(out var next))
        {
            yield return next;
            foreach (var child in next.Children)
                open.Push(child);
            foreach (var variant in next.VariantSets.Values.SelectMany(v => v))
                open.Push(variant);
        }
    }
}

/// <summary>What one layer says of one attribute or relationship.</summary>
public sealed class UsdPropertySpec(string name, string typeName, bool isRelationship)
{
    public string Name => name;

    /// <summary>As the layer spells it: <c>color3f</c>, <c>float[]</c>.</summary>
    public string TypeName { get; set; } = typeName;

    public bool IsRelationship => isRelationship;

    public UsdValue? Value { get; set; }

    /// <summary>The value of the first time sample; null when there are none.</summary>
    public UsdValue? FirstSample { get; set; }

    /// <summary>Connected attributes, or targets of a relationship.</summary>
    public UsdListOp<string>? Targets { get; set; }

    public Dictionary<string, UsdValue> Metadata { get; } = new(StringComparer.Ordinal);

    /// <summary>The bytes of the value in a text layer; -1 elsewhere.</summary>
    public int ValueStart { get; set; } = -1;

    public int ValueEnd { get; set; } = -1;

    /// <summary>The bytes of the statement that gives the value, metadata included, in a text layer; -1 elsewhere.</summary>
    public int Start { get; set; } = -1;

    public int End { get; set; } = -1;

    /// <summary>The bytes of the statement that gives connections or targets; -1 where there is none.</summary>
    public int TargetsStart { get; set; } = -1;

    public int TargetsEnd { get; set; } = -1;
}
