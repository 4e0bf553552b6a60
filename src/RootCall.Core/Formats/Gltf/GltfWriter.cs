using System.Globalization;
using System.Text.Json.Nodes;
using RootCall.Core.Files;
using RootCall.Core.Formats.Json;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Gltf;

/// <summary>Writes what differs between two states of a scene into the JSON of its glTF file.</summary>
/// <param name="before">The scene as the JSON says it.</param>
internal sealed class GltfWriter(Scene before, Scene now, JsonTree root, JsonPatch patch, GltfCarrier carrier)
{
    private readonly GltfTextures textures = new(before, now, root, patch, carrier);

    private JsonSpot Root => new(root, null);

    /// <exception cref="CannotUseException">Something of it cannot be written; the sentence says what.</exception>
    public void Write()
    {
        for (var i = 0; i < now.Materials.Length; i++)
            Material(now.Materials[i], i);
        for (var i = 0; i < now.Meshes.Length; i++)
        {
            if (i < before.Meshes.Length)
                Mesh(before.Meshes[i], now.Meshes[i], root["meshes"][i]);
            else
                Add(now.Meshes[i]);
        }

        for (var i = 0; i < now.Nodes.Length; i++)
        {
            var spot = new JsonSpot(root["nodes"][now.Nodes[i].Place], null);
            if (now.Nodes[i].Name != before.Nodes[i].Name)
                patch.Set(spot, "name", JsonValue.Create(now.Nodes[i].Name)!);
            if (now.Nodes[i].Mesh != before.Nodes[i].Mesh)
                patch.Set(spot, "mesh", JsonValue.Create(now.Nodes[i].Mesh)!);
        }

        textures.Images();
        carrier.Finish(patch);
    }

    private void Material(Material material, int place)
    {
        if (place < before.Materials.Length)
        {
            if (ReferenceEquals(material, before.Materials[place]))
                return;
            var spot = new JsonSpot(root["materials"][place], null);
            if (material.Name != before.Materials[place].Name)
                patch.Set(spot, "name", JsonValue.Create(material.Name)!);
            new GltfMaterialWriter(spot, before.Materials[place].Graph, material.Graph, patch, textures).Write();
            return;
        }

        if (material.CopyOf is null)
        {
            var fresh = new JsonObject { ["name"] = material.Name };
            patch.Append(patch.Child(Root, "materials", array: true), fresh);
            new GltfMaterialWriter(new(null, fresh), ShaderGraph.Empty, material.Graph, patch, textures).Write();
            return;
        }

        var source = before.Materials.ToList().FindIndex(m => m.Id == material.CopyOf);
        if (source < 0)
            throw new CannotUseException($"The material that {material.Name} was made like is not in the file.");
        var twin = Node(root["materials"][source]).AsObject();
        twin["name"] = material.Name;
        patch.Append(patch.Child(Root, "materials", array: true), twin);
        new GltfMaterialWriter(new(null, twin), before.Materials[source].Graph, material.Graph, patch, textures).Write();
    }

    private void Mesh(Mesh old, Mesh mesh, JsonTree json)
    {
        if (ReferenceEquals(old, mesh))
            return;
        if (old.Name != mesh.Name)
            patch.Set(new(json, null), "name", JsonValue.Create(mesh.Name)!);
        foreach (
            var (part, p) in mesh
                .Parts.Select((part, p) => (part, p))
                .Where(x => x.part.Material != old.Parts[x.p].Material || x.part.MaterialId != old.Parts[x.p].MaterialId)
        )
        {
            var primitive = new JsonSpot(json["primitives"][p], null);
            if (part.Material.Length == 0)
                patch.Remove(primitive, "material");
            else
                patch.Set(primitive, "material", IndexOf(part));
        }
    }

    /// <summary>A mesh like another one: the same accessors, materials of its own.</summary>
    private void Add(Mesh mesh)
    {
        var source = before.Meshes.ToList().FindIndex(m => m.Id == mesh.CopyOf);
        if (source < 0)
            throw new CannotUseException($"The mesh that {mesh.Name} was made like is not in the file.");
        var twin = Node(root["meshes"][source]).AsObject();
        twin["name"] = mesh.Name;
        for (var p = 0; p < mesh.Parts.Length && twin["primitives"] is JsonArray primitives && p < primitives.Count; p++)
        {
            var primitive = primitives[p]!.AsObject();
            if (mesh.Parts[p].Material.Length == 0)
                primitive.Remove("material");
            else
                primitive["material"] = IndexOf(mesh.Parts[p]);
        }

        patch.Append(patch.Child(Root, "meshes", array: true), twin);
    }

    private int IndexOf(MeshPart part)
    {
        var at = now.Materials.ToList().FindIndex(m => part.MaterialId.Length > 0 ? m.Id == part.MaterialId : m.Name == part.Material);
        return at >= 0 ? at : throw new CannotUseException($"The scene has no material {part.Material}.");
    }

    private static JsonNode Node(JsonTree tree) =>
        tree.Kind switch
        {
            System.Text.Json.JsonValueKind.Object => new JsonObject(
                tree.Members.DistinctBy(m => m.Name).Select(m => KeyValuePair.Create(m.Name, (JsonNode?)Node(m.Value)))
            ),
            System.Text.Json.JsonValueKind.Array => new JsonArray([.. tree.Items.Select(Node)]),
            System.Text.Json.JsonValueKind.String => JsonValue.Create(tree.Text!),
            System.Text.Json.JsonValueKind.Number => JsonValue.Create(tree.Number!.Value),
            var kind => JsonValue.Create(kind == System.Text.Json.JsonValueKind.True),
        };

    /// <summary>glTF 2.0, 3.8.2: a name written as an index into texture coordinates.</summary>
    internal static int SetOf(ImageUse image) =>
        image.UvSet.StartsWith("TEXCOORD_", StringComparison.Ordinal)
        && int.TryParse(image.UvSet.AsSpan(9), CultureInfo.InvariantCulture, out var n)
            ? n
            : 0;
}
