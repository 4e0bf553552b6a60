using System.Collections.Immutable;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>A thing and its place in the scene's list.</summary>
public sealed record Placed<T>(int Place, T Thing);

/// <summary>
/// Puts back what another edit changed: the opposite of one that took more away than it says. It holds only what differs.
/// </summary>
/// <param name="Count">Number of materials afterwards.</param>
/// <param name="References">All references; null when they are the same.</param>
public sealed record RestoreScene(
    ImmutableArray<Placed<Material>> Materials,
    int Count,
    ImmutableArray<Placed<Mesh>> Meshes,
    ImmutableArray<Placed<SceneNode>> Nodes,
    ImmutableArray<VariantChoice> Variants,
    ImmutableArray<SourceFile> Files,
    ImmutableArray<Reference>? References
) : Edit
{
    /// <summary>Number of meshes afterwards; null when it is the same.</summary>
    public int? MeshCount { get; init; }

    /// <summary>Null when they are the same.</summary>
    public ImmutableArray<string>? Instances { get; init; }

    public override string Target => Materials.Length == 1 ? $"material {Materials[0].Thing.Name}" : "scene";

    public override EditText Text => new("scene", Materials.Length == 1 ? Materials[0].Thing.Name : "scene", "as edited", "as it was");

    public override string Word => "restore";

    public override string Describe() => $"Restore {(Materials.Length == 1 ? Materials[0].Thing.Name : "what was changed")} as it was";

    /// <summary>What leads from one state of a scene to another.</summary>
    public static RestoreScene Between(Scene from, Scene to) =>
        new(
            Differing(from.Materials, to.Materials),
            to.Materials.Length,
            Differing(from.Meshes, to.Meshes),
            Differing(from.Nodes, to.Nodes),
            to.Variants,
            to.Files,
            from.References == to.References ? null : to.References
        )
        {
            MeshCount = from.Meshes.Length == to.Meshes.Length ? null : to.Meshes.Length,
            Instances = from.Instances == to.Instances ? null : to.Instances,
        };

    internal override string? Change(SceneDraft draft)
    {
        var now = draft.Build(Capabilities(draft).References);
        if (
            Materials.Any(m => m.Place > now.Materials.Length)
            || Meshes.Any(m => m.Place >= Math.Max(now.Meshes.Length, MeshCount ?? 0))
            || Nodes.Any(n => n.Place >= now.Nodes.Length)
        )
            return "The scene is not the one that it was taken from.";
        var materials = Put(now.Materials, Materials, Count);
        var meshes = Put(now.Meshes, Meshes, MeshCount ?? now.Meshes.Length);
        var references = References ?? now.References;
        draft.Become(
            now with
            {
                Materials = materials,
                Meshes = meshes,
                Instances = Instances ?? now.Instances,
                Nodes = Put(now.Nodes, Nodes, now.Nodes.Length),
                Variants = Variants,
                Files = Files,
                References = references,
                Counts = now.Counts with
                {
                    Meshes = now.Counts.Meshes + meshes.Length - now.Meshes.Length,
                    Triangles = now.Counts.Triangles + meshes.Sum(m => m.Triangles) - now.Meshes.Sum(m => m.Triangles),
                    Materials = now.Counts.Materials + materials.Count(m => !m.IsTemplate) - now.Materials.Count(m => !m.IsTemplate),
                    Images =
                        now.Counts.Images
                        + references.Count(r => r.Kind == ReferenceKind.Image)
                        - now.References.Count(r => r.Kind == ReferenceKind.Image),
                },
            }
        );
        return null;
    }

    protected override Edit? Reverse() => null;

    private static ImmutableArray<Placed<T>> Differing<T>(ImmutableArray<T> from, ImmutableArray<T> to)
        where T : class =>
        [
            .. to.Select((thing, i) => new Placed<T>(i, thing))
                .Where(p => p.Place >= from.Length || !ReferenceEquals(from[p.Place], p.Thing)),
        ];

    private static ImmutableArray<T> Put<T>(ImmutableArray<T> list, ImmutableArray<Placed<T>> things, int count)
    {
        if (things.IsEmpty && list.Length == count)
            return list;
        var result = list.ToBuilder();
        foreach (var (place, thing) in things)
        {
            if (place < result.Count)
                result[place] = thing;
            else
                result.Add(thing);
        }

        result.Count = Math.Min(count, result.Count);
        return result.ToImmutable();
    }
}
