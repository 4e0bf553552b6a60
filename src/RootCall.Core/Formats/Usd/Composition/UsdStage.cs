using System.Collections.Immutable;
using RootCall.Core.Formats.Usd.Layers;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Usd.Composition;

/// <summary>The layers that speak with one voice: a layer and its sublayers, strongest first.</summary>
internal sealed record LayerStack(ImmutableArray<LoadedLayer> Layers);

/// <summary>A prefix to exchange for another. Many places share the later ones: a reference adds one to what it stands in.</summary>
internal sealed record Move(string From, string To, Move? Next)
{
    public static Move? Before(Move? first, Move? then) => first is null ? then : first with { Next = Before(first.Next, then) };
}

/// <summary>
/// The specs of one place in one layer stack that speak of a composed prim, and how paths written there are called in the
/// composed scene.
/// </summary>
/// <param name="Source">The prim's path in that stack.</param>
/// <param name="Moves">Prefixes to exchange, one after the other, to come to the composed scene.</param>
internal sealed record UsdSite(LayerStack Stack, string Source, ImmutableArray<(UsdPrimSpec Spec, LoadedLayer Layer)> Specs, Move? Moves)
{
    public UsdSite Child(string name) =>
        this with
        {
            Source = UsdPrim.PathOf(Source, name),
            Specs =
            [
                .. Specs.Select(s => (Spec: s.Spec.Child(name), s.Layer)).Where(s => s.Spec is not null).Select(s => (s.Spec!, s.Layer)),
            ],
        };

    public string Mapped(string path)
    {
        for (var move = Moves; move is not null; move = move.Next)
            if (
                path.StartsWith(move.From, StringComparison.Ordinal)
                && (path.Length == move.From.Length || path[move.From.Length] is '/' or '.')
            )
                path = move.To + path[move.From.Length..];
        return path;
    }
}

/// <summary>
/// Composes prims by the strength order of USD: local opinions, inherits, variants, references, payloads, specializes
/// (OpenUSD documentation, "LIVRPS strength ordering").
/// </summary>
internal sealed class UsdStage
{
    private const int MaxDepth = 48;
    private const int MaxPath = 8192;
    private const int MaxNested = 64;

    // What the layers say may stand in many places, but not in any number of them.
    private const int FreePrims = 20_000;
    private const int PrimsPerSpec = 500;
    private const int MaxTold = 1_000;
    private readonly UsdLayers layers;
    private readonly ReadContext context;
    private readonly List<ReadNote> notes;
    private readonly Dictionary<LoadedLayer, LayerStack> stacks = [];
    private readonly Dictionary<LayerStack, UsdPrim> roots = [];
    private readonly HashSet<string> told = [];
    private readonly HashSet<(UsdPrim, string)> inHand = [];
    private int composed;

    public UsdStage(UsdLayers layers, LoadedLayer root, ReadContext context, List<ReadNote> notes)
    {
        this.layers = layers;
        this.context = context;
        this.notes = notes;
        Root = RootOf(StackOf(root));
        RootLayer = root;
    }

    public UsdPrim Root { get; }

    public LoadedLayer RootLayer { get; }

    public UsdLayers Layers => layers;

    public UsdPrim? Find(string path) => Find(Root, path);

    private static UsdPrim? Find(UsdPrim root, string path)
    {
        UsdPrim? prim = root;
        foreach (var name in path.Split('/', StringSplitOptions.RemoveEmptyEntries))
        {
            prim = prim.Child(name);
            if (prim is null)
                return null;
        }

        return prim;
    }

    private LayerStack StackOf(LoadedLayer layer)
    {
        if (stacks.TryGetValue(layer, out var known))
            return known;
        var list = new List<LoadedLayer>();
        void Add(LoadedLayer next, int depth)
        {
            if (list.Contains(next))
                return;
            list.Add(next);
            if (depth > MaxDepth)
                return;
            foreach (var sub in next.Layer.SubLayers)
                if (layers.Called(next, sub) is { } called)
                    Add(called, depth + 1);
        }

        Add(layer, 0);
        return stacks[layer] = new([.. list]);
    }

    private UsdPrim RootOf(LayerStack stack)
    {
        if (roots.TryGetValue(stack, out var known))
            return known;
        var site = new UsdSite(stack, "/", [.. stack.Layers.Select(l => (l.Layer.Root, l))], null);
        return roots[stack] = new(this, null, string.Empty, [site], []);
    }

    /// <summary>A child prim with everything that speaks of it; null when nothing does.</summary>
    /// <returns>False when it cannot be told from here: it is being composed, or lies behind too many others that are.</returns>
    public bool TryCompose(UsdPrim parent, string name, out UsdPrim? child)
    {
        child = null;
        if (inHand.Count >= MaxNested || !inHand.Add((parent, name)))
        {
            Tell(
                $"{parent.Path} {name}",
                inHand.Count >= MaxNested
                    ? $"References lead through more than {MaxNested} prims, one in the other; they were followed no further."
                    : "It comes back to itself through its references; the circle was cut there.",
                UsdPrim.PathOf(parent.Path, name)
            );
            return false;
        }

        child = Compose(parent, name);
        inHand.Remove((parent, name));
        return true;
    }

    private void Tell(string key, string what, string place)
    {
        if (told.Count < MaxTold && told.Add(key))
            notes.Add(new(what, place[..Math.Min(place.Length, 200)]));
    }

    private UsdPrim? Compose(UsdPrim parent, string name)
    {
        var path = UsdPrim.PathOf(parent.Path, name);
        // A reference to what holds a reference twice makes twice as many prims of as many letters.
        var most = Math.Min(context.Bounds.ComposedPrims, FreePrims + ((long)PrimsPerSpec * layers.Specs));
        if (++composed > most || path.Length > MaxPath)
        {
            Tell(
                string.Empty,
                composed > most
                    ? Invariant($"More than {most:N0} prims come of the references; the rest were left out.")
                    : Invariant($"A prim's path is longer than {MaxPath:N0} letters; it was left out."),
                path
            );
            return null;
        }

        var work = new Expansion(path, parent);
        foreach (var site in parent.Sites)
            if (site.Child(name) is { Specs.Length: > 0 } child)
                Expand(child, work, 0);
        // What specializes is weaker than all else.
        for (var i = 0; i < work.Late.Count && i < 256; i++)
            Expand(work.Late[i], work, 1);
        return work.Sites.Count == 0 ? null : new(this, parent, name, [.. work.Sites], [.. work.Arcs]);
    }

    private sealed class Expansion(string path, UsdPrim parent)
    {
        public UsdPrim Parent => parent;

        public string Path => path;

        public List<UsdSite> Sites { get; } = [];

        public List<UsdSite> Late { get; } = [];

        public List<string> Arcs { get; } = [];

        /// <summary>Layer stack and path of every place on the way, so that a circle is seen.</summary>
        public HashSet<(LayerStack, string, int)> Seen { get; } = [];
    }

    private void Expand(UsdSite site, Expansion work, int depth)
    {
        if (
            depth > MaxDepth
            || !work.Seen.Add(
                (
                    site.Stack,
                    site.Source,
                    site.Specs.Length == 0 ? 0 : System.Runtime.CompilerServices.RuntimeHelpers.GetHashCode(site.Specs[0].Spec)
                )
            )
        )
        {
            return;
        }

        work.Sites.Add(site);
        foreach (var (arc, _) in Merge(site, s => s.Inherits))
        {
            work.Arcs.Add(site.Mapped(arc.Prim));
            foreach (var at in SitesAt(site.Stack, arc.Prim))
                Expand(Moved(at, arc.Prim, site), work, depth + 1);
        }

        foreach (var set in site.Specs.SelectMany(s => s.Spec.VariantSets.Keys).Distinct().ToList())
        {
            if (Selected(work, set) is not { } variant)
                continue;
            var specs = site
                .Specs.Select(s => (Spec: s.Spec.VariantSets.GetValueOrDefault(set)?.Find(v => v.Name == variant), s.Layer))
                .Where(s => s.Spec is not null)
                .Select(s => (s.Spec!, s.Layer))
                .ToImmutableArray();
            if (specs.Length > 0)
                Expand(site with { Specs = specs }, work, depth + 1);
        }

        foreach (var (arc, layer) in Merge(site, s => s.References).Concat(Merge(site, s => s.Payloads)))
            Follow(arc, layer, site, work, depth);
        foreach (var (arc, _) in Merge(site, s => s.Specializes))
        {
            work.Arcs.Add(site.Mapped(arc.Prim));
            foreach (var at in SitesAt(site.Stack, arc.Prim))
                work.Late.Add(Moved(at, arc.Prim, site));
        }
    }

    private void Follow(UsdArc arc, LoadedLayer layer, UsdSite site, Expansion work, int depth)
    {
        var stack = site.Stack;
        if (arc.Asset is { } asset)
        {
            if (layers.Called(layer, asset) is not { } called)
                return; // Muster tells its state.
            stack = StackOf(called);
        }

        var prim = arc.Prim.Length > 0 ? arc.Prim : DefaultPrim(stack);
        if (prim is null)
        {
            Tell(
                arc.Asset?.Path ?? work.Path,
                $"{work.Path} references {arc.Asset?.Path}, which names no default prim; nothing came of it.",
                layer.Label
            );
            return;
        }

        if (IsCircle(stack, prim, site, work.Parent))
        {
            Tell(site.Source, $"{work.Path} comes back to {prim} through its references; the circle was cut there.", layer.Label);
            return;
        }

        if (arc.Asset is null)
            work.Arcs.Add(site.Mapped(prim));
        else
            work.Arcs.Add($"{arc.Asset.Path}<{prim}>");
        foreach (var at in SitesAt(stack, prim))
            Expand(Moved(at, prim, site), work, depth + 1);
    }

    /// <summary>The target is the referring prim itself, or one of those it lies under.</summary>
    private static bool IsCircle(LayerStack stack, string prim, UsdSite site, UsdPrim? parent)
    {
        if (site.Stack == stack && site.Source == prim)
            return true;
        for (; parent is not null; parent = parent.Parent)
            if (parent.Sites.Any(s => s.Stack == stack && s.Source == prim))
                return true;
        return false;
    }

    private static string? DefaultPrim(LayerStack stack) =>
        stack.Layers[0].Layer.Metadata.GetValueOrDefault("defaultPrim")?.AsText is { } name ? "/" + name.TrimStart('/') : null;

    /// <summary>The places that speak of a path in a stack: its own specs, and what its ancestors bring along.</summary>
    private IEnumerable<UsdSite> SitesAt(LayerStack stack, string path)
    {
        var cut = path.LastIndexOf('/');
        var name = path[(cut + 1)..];
        if (cut <= 0)
            return RootOf(stack).Sites.Select(s => s.Child(name)).Where(s => s.Specs.Length > 0);
        return Find(RootOf(stack), path[..cut])?.Sites.Select(s => s.Child(name)).Where(s => s.Specs.Length > 0) ?? [];
    }

    private static UsdSite Moved(UsdSite target, string from, UsdSite site) =>
        target with
        {
            Moves = Move.Before(target.Moves, new(from, site.Source, site.Moves)),
        };

    private string? Selected(Expansion work, string set)
    {
        if (context.Chosen.TryGetValue((work.Path, set), out var chosen))
            return chosen;
        foreach (var site in work.Sites)
        foreach (var (spec, _) in site.Specs)
            if (spec.Selections.TryGetValue(set, out var selected))
                return selected;
        return null;
    }

    /// <summary>The list that the layers of a place make together, weakest first and edited by each stronger one.</summary>
    private static List<(UsdArc Arc, LoadedLayer Layer)> Merge(UsdSite site, Func<UsdPrimSpec, UsdListOp<UsdArc>?> list)
    {
        var merged = new List<(UsdArc, LoadedLayer)>();
        foreach (var (spec, layer) in site.Specs.Reverse())
        {
            if (list(spec) is not { } op)
                continue;
            if (op.IsExplicit)
                merged.Clear();
            merged.RemoveAll(m => op.Deleted.Any(d => d.Prim == m.Item1.Prim && d.Asset?.Path == m.Item1.Asset?.Path));
            merged.InsertRange(0, op.Prepended.Select(a => (a, layer)));
            merged.AddRange(op.Appended.Select(a => (a, layer)));
        }

        return merged;
    }
}
