using RootCall.Core.Formats.Usd.Composition;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Usd;

/// <summary>
/// Which material a prim shows (UsdShadeMaterialBindingAPI): the nearest binding up the hierarchy, unless one further up
/// says it is stronger than those below; a binding through a collection wins over a direct one on the same prim.
/// </summary>
internal sealed class UsdBindings(UsdStage stage)
{
    // Every mesh asks all prims above it.
    private readonly Dictionary<UsdPrim, bool> binds = [];

    private static readonly string[] Purposes = ["material:binding:full", "material:binding", "material:binding:preview"];

    /// <summary>The part with the material it shows, or the path that is bound and not there; an empty one when nothing is bound.</summary>
    public MeshPart PartOf(UsdPrim prim, string name, long triangles)
    {
        var (path, by) = Of(prim);
        return new(name, path is null ? string.Empty : path[(path.LastIndexOf('/') + 1)..], triangles)
        {
            MaterialId = path ?? string.Empty,
            Bound = by,
        };
    }

    private (string? Path, BoundBy By) Of(UsdPrim prim)
    {
        string? bound = null;
        var by = BoundBy.Above;
        for (var at = prim; at is not null; at = at.Parent)
        {
            var (path, strong) = On(at, prim);
            if (path is null || (bound is not null && !strong))
                continue;
            // A plain binding of the prim's own is the one that an edit writes.
            by =
                at != prim
                    ? strong
                        ? BoundBy.Stronger
                        : bound is null
                            ? BoundBy.Above
                            : by
                    : IsPlain(prim, path)
                        ? BoundBy.Itself
                        : BoundBy.Stronger;
            bound = path;
        }

        return (bound, by);
    }

    private static bool IsPlain(UsdPrim prim, string path) =>
        prim.Targets("material:binding:full").Count == 0
        && !prim.PropertyNames.Any(p => p.StartsWith("material:binding:collection:", StringComparison.Ordinal))
        && (prim.Targets("material:binding") is not [var own, ..] || own == path);

    private (string? Path, bool Strong) On(UsdPrim holder, UsdPrim prim)
    {
        if (!binds.TryGetValue(holder, out var any))
            binds[holder] = any = holder.PropertyNames.Any(p => p.StartsWith("material:binding", StringComparison.Ordinal));
        if (!any)
            return (null, false);
        foreach (var property in holder.PropertyNames.Where(p => p.StartsWith("material:binding:collection:", StringComparison.Ordinal)))
            if (holder.Targets(property) is [var collection, var material, ..] && Includes(collection, prim.Path))
                return (material, IsStrong(holder, property));
        foreach (var property in Purposes)
            if (holder.Targets(property) is [var material, ..])
                return (material, IsStrong(holder, property));
        return (null, false);
    }

    private static bool IsStrong(UsdPrim holder, string property) =>
        holder.Property(property)?.Spec.Metadata.GetValueOrDefault("bindMaterialAs")?.AsText == "strongerThanDescendants";

    /// <summary>
    /// A collection includes its targets and, unless it expands them otherwise, all below; the nearest of what it
    /// includes and excludes decides.
    /// </summary>
    private bool Includes(string collection, string path)
    {
        var dot = collection.LastIndexOf('.');
        if (dot < 0 || stage.Find(collection[..dot]) is not { } holder)
            return false;
        var name = collection[(dot + 1)..];
        var rule = holder.Value($"{name}:expansionRule")?.AsText ?? "expandPrims";
        if (
            holder.Value($"{name}:includeRoot")?.AsNumbers is [1]
            && path.StartsWith('/')
            && !Under(holder.Targets($"{name}:excludes"), path, rule)
        )
            return true;
        var included = Nearest(holder.Targets($"{name}:includes"), path, rule);
        var excluded = Nearest(holder.Targets($"{name}:excludes"), path, rule);
        return included >= 0 && included > excluded;
    }

    private static bool Under(IEnumerable<string> targets, string path, string rule) => Nearest(targets, path, rule) >= 0;

    private static int Nearest(IEnumerable<string> targets, string path, string rule)
    {
        var nearest = -1;
        foreach (var target in targets)
            if (
                path == target
                || (rule != "explicitOnly" && path.StartsWith(target == "/" ? target : target + "/", StringComparison.Ordinal))
            )
                nearest = Math.Max(nearest, target.Length);
        return nearest;
    }
}
