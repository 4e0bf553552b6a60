using System.Collections.Immutable;
using System.Globalization;

namespace RootCall.Core.Scenes;

/// <summary>A place where geometry stands that it shares with others.</summary>
/// <param name="Id">What edits call it by: a JSON pointer of a node, or the path of a prim.</param>
public sealed record Instance(string Id, string Name)
{
    /// <summary>The places of a mesh that could become its own; none where it stands once and alone.</summary>
    /// <param name="places">Nodes that show it.</param>
    public static ImmutableArray<Instance> Of(Scene scene, Mesh mesh, IReadOnlyList<SceneNode> places) =>
        Holding(scene.Instances, mesh.Id) is { } root ? [new(root, root[(root.LastIndexOf('/') + 1)..])]
        : places.Count > 1 ? [.. places.Where(n => n.Place >= 0).Select(n => new Instance(IdOf(n), n.Name))]
        : [];

    public static string IdOf(SceneNode node) => string.Create(CultureInfo.InvariantCulture, $"/nodes/{node.Place}");

    /// <summary>Why nothing can be said of a thing; null where it lies in no instance.</summary>
    public static string? WhyNot(ImmutableArray<string> instances, string path, string name) =>
        Holding(instances, path) is { } shared
            ? $"{name} is shared by an instance, {shared}: what is said of it is not heard. Make that its own first."
            : null;

    /// <summary>The outermost instance that a prim lies in: what is said below one is not heard. Null when it lies in none.</summary>
    /// <param name="instances">Paths of prims.</param>
    public static string? Holding(ImmutableArray<string> instances, string path) =>
        instances
            .Where(i => path.Length > i.Length && path[i.Length] == '/' && path.StartsWith(i, StringComparison.Ordinal))
            .MinBy(i => i.Length);
}
