using System.Collections.Immutable;
using RootCall.Core.Formats.Usd.Layers;

namespace RootCall.Core.Formats.Usd.Composition;

/// <summary>A value with the layer that gave it.</summary>
internal readonly record struct Opinion(UsdPropertySpec Spec, UsdSite Site, LoadedLayer Layer);

/// <summary>A composed prim: what all layers together say of it, strongest first.</summary>
internal sealed class UsdPrim(UsdStage stage, UsdPrim? parent, string name, ImmutableArray<UsdSite> sites, ImmutableArray<string> arcs)
{
    private readonly Dictionary<string, UsdPrim?> children = new(StringComparer.Ordinal);

    public UsdPrim? Parent => parent;

    public string Name => name;

    public string Path { get; } = parent is null ? "/" : PathOf(parent.Path, name);

    public static string PathOf(string parent, string child) => parent == "/" ? "/" + child : $"{parent}/{child}";

    public ImmutableArray<UsdSite> Sites => sites;

    /// <summary>What the prim inherits, references and specializes: paths, or layer and path.</summary>
    public ImmutableArray<string> Arcs => arcs;

    public IEnumerable<(UsdPrimSpec Spec, UsdSite Site, LoadedLayer Layer)> Specs =>
        sites.SelectMany(s => s.Specs.Select(p => (p.Spec, s, p.Layer)));

    public string TypeName => Specs.Select(s => s.Spec.TypeName).FirstOrDefault(t => t.Length > 0) ?? string.Empty;

    /// <summary>The first opinion that is more than an over.</summary>
    public UsdSpecifier Specifier => Specs.Select(s => s.Spec.Specifier).FirstOrDefault(s => s != UsdSpecifier.Over, UsdSpecifier.Over);

    public bool IsActive => Metadata("active") is not UsdNumbers { } active || active.AsNumbers is not [0];

    /// <summary>Its descendants are shared with others of the same arcs; without arcs the word says nothing.</summary>
    public bool IsInstance =>
        Metadata("instanceable") is UsdNumbers said
        && said.AsNumbers is not [0]
        && Specs.Any(s =>
            (s.Spec.References ?? s.Spec.Payloads ?? s.Spec.Inherits ?? s.Spec.Specializes) is not null || s.Spec.VariantSets.Count > 0
        );

    public IEnumerable<string> ChildNames => Specs.SelectMany(s => s.Spec.Children.Select(c => c.Name)).Distinct(StringComparer.Ordinal);

    public IEnumerable<UsdPrim> Children => ChildNames.Select(Child).OfType<UsdPrim>();

    public UsdPrim? Child(string childName)
    {
        if (!children.TryGetValue(childName, out var child) && stage.TryCompose(this, childName, out child))
            children[childName] = child;
        return child;
    }

    public UsdValue? Metadata(string key) => Specs.Select(s => s.Spec.Metadata.GetValueOrDefault(key)).FirstOrDefault(v => v is not null);

    public IEnumerable<string> PropertyNames =>
        Specs.SelectMany(s => s.Spec.Properties.Select(p => p.Name)).Distinct(StringComparer.Ordinal);

    /// <summary>The strongest spec of a property that says anything; null when none does.</summary>
    public Opinion? Property(string property, Func<UsdPropertySpec, bool>? says = null)
    {
        foreach (var site in sites)
        foreach (var (spec, layer) in site.Specs)
            if (spec.Property(property) is { } found && (says is null || says(found)))
                return new(found, site, layer);
        return null;
    }

    public Opinion? ValueOpinion(string property) => Property(property, p => p.Value is not null || p.FirstSample is not null);

    /// <summary>The value of an attribute, or of its first time sample; null when there is none or it is blocked.</summary>
    public UsdValue? Value(string property) =>
        ValueOpinion(property) is { } opinion && (opinion.Spec.Value ?? opinion.Spec.FirstSample) is var value and not UsdBlock
            ? value
            : null;

    /// <summary>Connections of an attribute or targets of a relationship, as paths of the composed scene.</summary>
    public IReadOnlyList<string> Targets(string property)
    {
        // Asked of every prim on the way up from every mesh, and nearly always in vain.
        if (Property(property, p => p.Targets is not null) is null)
            return [];
        var targets = new List<string>();
        foreach (var (spec, site, _) in Specs.Reverse())
        {
            if (spec.Property(property)?.Targets is not { } op)
                continue;
            if (op.IsExplicit)
                targets.Clear();
            targets.RemoveAll(t => op.Deleted.Any(d => site.Mapped(d) == t));
            targets.InsertRange(0, op.Prepended.Select(site.Mapped));
            targets.AddRange(op.Appended.Select(site.Mapped));
        }

        return targets;
    }
}
