using System.Collections.Immutable;
using RootCall.Core.Formats.Json;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Gltf;

/// <summary>Measures meshes and the hierarchy from the JSON alone: accessors declare counts and bounds.</summary>
internal sealed class GltfMeshes(JsonTree root, string name, List<ReadNote> notes)
{
    private const int MaxNodes = 10_000_000;

    public ImmutableArray<Mesh> Meshes() => [.. root["meshes"].Items.Select(ReadMesh)];

    /// <summary>Nodes with parents first. A node that is its own ancestor is placed once and told.</summary>
    public ImmutableArray<SceneNode> Nodes()
    {
        var items = root["nodes"].Items;
        var nodes = ImmutableArray.CreateBuilder<SceneNode>(items.Count);
        var placed = new bool[items.Count];
        var isChild = new bool[items.Count];
        foreach (var node in items)
        foreach (var child in node["children"].Items)
            if (child.Index is { } c && c < items.Count)
                isChild[c] = true;

        // Roots first; then whatever only a cycle holds together.
        foreach (var start in Enumerable.Range(0, items.Count).OrderBy(i => isChild[i]))
        {
            if (placed[start])
                continue;
            if (isChild[start])
                notes.Add(new($"Node {start} is its own ancestor; it was placed at the top.", $"{name}, /nodes/{start}"));
            var open = new Stack<(int Node, int Parent)>([(start, -1)]);
            while (open.TryPop(out var step) && nodes.Count < MaxNodes)
            {
                if (placed[step.Node])
                    continue;
                placed[step.Node] = true;
                nodes.Add(ReadNode(items[step.Node], step.Node, step.Parent));
                var parent = nodes.Count - 1;
                foreach (var child in items[step.Node]["children"].Items.Reverse())
                    if (child.Index is { } c && c < items.Count)
                        open.Push((c, parent));
            }
        }

        return nodes.ToImmutable();
    }

    private SceneNode ReadNode(JsonTree node, int index, int parent)
    {
        var instances = node["extensions"]["EXT_mesh_gpu_instancing"]["attributes"].Members;
        var copies =
            instances.Count > 0 && instances[0].Value.Index is { } accessor
                ? (int)Math.Clamp(root["accessors"][accessor]["count"].Number ?? 1, 0, int.MaxValue)
                : 1;
        var mesh = node["mesh"].Index ?? -1;
        if (mesh >= root["meshes"].Items.Count)
        {
            notes.Add(new($"Node {index} calls for mesh {mesh}, which is not there.", $"{name}, /nodes/{index}"));
            mesh = -1;
        }

        return new(node["name"].Text ?? $"node {index}", parent, mesh)
        {
            Place = index,
            Transform = Transform(node),
            Copies = copies,
        };
    }

    private static ImmutableArray<double> Transform(JsonTree node)
    {
        // Column-major for column vectors, as glTF writes it, is row-major for row vectors.
        if (node["matrix"].Items is { Count: 16 } matrix)
            return Transforms.Pack([.. matrix.Select(m => m.Number ?? 0)]);
        double At(string key, int i, double standard) => node[key][i].Number ?? standard;
        var scale = Transforms.Scaling(At("scale", 0, 1), At("scale", 1, 1), At("scale", 2, 1));
        var turn = Transforms.Quaternion(At("rotation", 0, 0), At("rotation", 1, 0), At("rotation", 2, 0), At("rotation", 3, 1));
        var move = Transforms.Translation(At("translation", 0, 0), At("translation", 1, 0), At("translation", 2, 0));
        return Transforms.Pack(Transforms.Multiply(Transforms.Multiply(scale, turn), move));
    }

    private Mesh ReadMesh(JsonTree mesh, int index)
    {
        var parts = ImmutableArray.CreateBuilder<MeshPart>();
        var uvs = new SortedSet<string>(StringComparer.Ordinal);
        var counted = new HashSet<int>();
        var box = new BoxBuilder();
        long vertices = 0,
            faces = 0;
        bool normals = false,
            colours = false;
        string? unmeasured = null;
        foreach (var (primitive, p) in mesh["primitives"].Items.Select((v, i) => (v, i)))
        {
            var attributes = primitive["attributes"];
            normals |= attributes["NORMAL"].Exists;
            colours |= attributes["COLOR_0"].Exists;
            foreach (var (key, _) in attributes.Members)
                if (key.StartsWith("TEXCOORD_", StringComparison.Ordinal))
                    uvs.Add(key);
            if (attributes["POSITION"].Index is { } position)
            {
                var accessor = root["accessors"][position];
                // Primitives may share their points; they are counted once.
                if (counted.Add(position))
                    vertices += (long)(accessor["count"].Number ?? 0);
                Grow(ref box, accessor);
            }

            if (primitive["extensions"]["KHR_draco_mesh_compression"].Exists)
                unmeasured = "KHR_draco_mesh_compression";
            var triangles = Triangles(primitive);
            faces += triangles;
            var material = primitive["material"].Index is { } m ? MaterialName(m, index, p) : string.Empty;
            parts.Add(
                new(mesh["primitives"].Items.Count > 1 ? $"primitive {p}" : string.Empty, material, triangles)
                {
                    MaterialId = material.Length > 0 ? $"/materials/{primitive["material"].Index}" : string.Empty,
                    ByVariant = ByVariant(primitive),
                    WithoutUvs = attributes.Members.Any(a => a.Name.StartsWith("TEXCOORD_", StringComparison.Ordinal)) ? 0 : triangles,
                }
            );
        }

        return new(
            mesh["name"].Text is { Length: > 0 } n ? n : $"mesh {index}",
            vertices,
            faces,
            faces,
            [.. uvs],
            parts.Count > 0 ? parts.ToImmutable() : [new(string.Empty, string.Empty, 0) { Bound = BoundBy.Stronger }]
        )
        {
            Id = $"/meshes/{index}",
            HasNormals = normals,
            HasColours = colours,
            Bounds = box.Box,
            Unmeasured = unmeasured,
        };
    }

    /// <summary>KHR_materials_variants: the material that each variant gives the primitive, by its id.</summary>
    private ImmutableDictionary<string, string> ByVariant(JsonTree primitive)
    {
        var mappings = primitive["extensions"]["KHR_materials_variants"]["mappings"].Items;
        if (mappings.Count == 0)
            return ImmutableDictionary<string, string>.Empty;
        var names = root["extensions"]["KHR_materials_variants"]["variants"].Items;
        var chosen = ImmutableDictionary.CreateBuilder<string, string>(StringComparer.Ordinal);
        foreach (var mapping in mappings)
        foreach (var variant in mapping["variants"].Items)
            if (
                variant.Index is { } v
                && v < names.Count
                && names[v]["name"].Text is { } text
                && mapping["material"].Index is { } material
                && material < root["materials"].Items.Count
            )
                chosen[text] = $"/materials/{material}";
        return chosen.ToImmutable();
    }

    private string MaterialName(int material, int mesh, int primitive)
    {
        var entry = root["materials"][material];
        if (entry.Exists)
            return GltfMaterials.NameOf(entry, material);
        notes.Add(new($"Material {material} is assigned, but is not there.", $"{name}, /meshes/{mesh}/primitives/{primitive}"));
        return $"material {material}";
    }

    private static void Grow(ref BoxBuilder box, JsonTree accessor)
    {
        foreach (var corner in new[] { accessor["min"].Items, accessor["max"].Items })
            if (corner is [{ Number: { } x }, { Number: { } y }, { Number: { } z }])
                box.Add(x, y, z);
    }

    private long Triangles(JsonTree primitive)
    {
        var accessor = primitive["indices"].Index ?? primitive["attributes"]["POSITION"].Index;
        var count = (long)Math.Clamp(accessor is { } a ? root["accessors"][a]["count"].Number ?? 0 : 0, 0, long.MaxValue);
        // glTF 2.0, primitive.mode: 4 triangles (the default), 5 strip, 6 fan; the others draw none.
        return (int)(primitive["mode"].Number ?? 4) switch
        {
            4 => count / 3,
            5 or 6 => Math.Max(0, count - 2),
            _ => 0,
        };
    }
}
