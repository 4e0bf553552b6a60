using System.Globalization;
using System.Text;
using System.Text.Json.Nodes;
using RootCall.Core.Files;
using RootCall.Core.Formats.Gltf;
using RootCall.Core.Formats.Gltf.Authoring;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Codecs;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Fbx;

/// <summary>
/// Writes an FBX scene as a GLB, so that it can be relinked and packed. Geometry, hierarchy and the maps whose roles both
/// have go over as they are; nothing is converted: a glossiness stays behind.
/// </summary>
public static class FbxToGlb
{
    /// <param name="call">The path to write for an image; null to carry its bytes inside.</param>
    public static void Write(Scene scene, Stream output, Func<Reference, string?> call, Bounds bounds)
    {
        var document = FbxReader.Open(scene.Path, bounds);
        using var glb = new GlbAuthor();
        var images = new Dictionary<ReferenceKey, int>();
        foreach (var reference in scene.References.Where(r => r.Kind == ReferenceKind.Image))
        {
            if (call(reference) is { } written)
                images[reference.Key] = glb.Image(written);
            else if (Carried(reference) is { } carried)
                images[reference.Key] = glb.Image(reference.Written, carried.Bytes, carried.Mime);
        }

        foreach (var material in scene.Materials)
            glb.Materials.Add((JsonNode)Material(material, images, glb));
        // glTF is in metres with Y up: one node above all turns and scales what FBX has otherwise.
        var up = scene.UpAxis == "Z" ? Transforms.Rotation(1, 0, 0, -90) : Transforms.Identity;
        var metres = scene.MetresPerUnit ?? 0.01;
        glb.Node(Path.GetFileNameWithoutExtension(scene.Path), -1, -1, Transforms.Multiply(up, Transforms.Scaling(metres, metres, metres)));
        var meshes = new Dictionary<int, int>();
        foreach (var node in scene.Nodes)
        {
            var mesh = -1;
            if (node.Mesh >= 0 && !meshes.TryGetValue(node.Mesh, out mesh))
                meshes[node.Mesh] = mesh = Mesh(document, scene, scene.Meshes[node.Mesh], glb);
            glb.Node(node.Name, node.Parent + 1, mesh, node.Transform);
        }

        glb.Write(output);
    }

    private static (byte[] Bytes, string Mime)? Carried(Reference reference)
    {
        if (reference.Carried is not { } carried)
            return null;
        using var stream = new FbxFormat().OpenCarried(carried);
        using var copy = new MemoryStream();
        stream.CopyTo(copy);
        copy.Position = 0;
        return ImageProbe.Stream(copy, null).Facts is { } facts && ImageCodecs.Of(facts.Format) is { InGltf: GltfCarriage.Core } codec
            ? (copy.ToArray(), codec.MediaType)
            : null;
    }

    private static JsonObject Material(Material material, Dictionary<ReferenceKey, int> images, GlbAuthor glb)
    {
        var json = new JsonObject { ["name"] = material.Name };
        JsonObject Holder(GltfInput input)
        {
            if (input.Holder.Length == 0)
                return json;
            var parent = json;
            if (input.IsExtension)
            {
                glb.Extensions.Add(input.Holder);
                if (json["extensions"] is not JsonObject extensions)
                    json["extensions"] = extensions = [];
                parent = extensions;
            }

            if (parent[input.Holder] is not JsonObject holder)
                parent[input.Holder] = holder = [];
            return holder;
        }

        var (from, to) = (
            ShadingModels.OfType(material.Graph.SurfaceNode?.Type ?? string.Empty),
            ShadingModels.OfType(GltfInputs.MetallicRoughness)!
        );
        foreach (var input in material.Graph.SurfaceNode?.Inputs ?? [])
        {
            if (from?.Input(input.Name)?.Role is not { } role || to.Input(role)?.Name is not { } name)
                continue;
            var known = GltfInputs.Of(GltfInputs.MetallicRoughness).First(i => i.Name == name);
            // Metalness and roughness share one image in glTF, alpha stands in that of base colour: separate ones would be a conversion.
            if (
                material.Graph.ImagesOf(input).FirstOrDefault() is { } image
                && known.Texture is { } key
                && name is not ("metallic" or "roughness" or "alpha")
                && images.TryGetValue(image.Reference, out var index)
            )
                Holder(known)[key] = Texture(image, index, glb);
            else if (input.Value is { Numbers: [var r, var g, var b] } && name == "baseColor")
                Holder(known)["baseColorFactor"] = new JsonArray(Unit(r), Unit(g), Unit(b), 1);
            else if (input.Value is { Numbers: [var er, var eg, var eb] } && name == "emissive")
                json["emissiveFactor"] = new JsonArray(Unit(er), Unit(eg), Unit(eb));
        }

        if (json["emissiveTexture"] is not null && json["emissiveFactor"] is null)
            json["emissiveFactor"] = new JsonArray(1, 1, 1);
        // FBX materials are not metals unless they say so; glTF's default is a metal.
        if (json[GltfInputs.Pbr] is not JsonObject pbr)
            json[GltfInputs.Pbr] = pbr = [];
        pbr["metallicFactor"] ??= 0;
        return json;
    }

    private static double Unit(double value) => Math.Clamp(value, 0, 1);

    private static JsonObject Texture(ImageUse image, int index, GlbAuthor glb)
    {
        static int Wrap(WrapMode mode) => mode == WrapMode.Clamp ? 33071 : 10497;
        glb.Samplers.Add((JsonNode)new JsonObject { ["wrapS"] = Wrap(image.WrapU), ["wrapT"] = Wrap(image.WrapV) });
        glb.Textures.Add((JsonNode)new JsonObject { ["sampler"] = glb.Samplers.Count - 1, ["source"] = index });
        var info = new JsonObject { ["index"] = glb.Textures.Count - 1 };
        if (image.Transform.IsIdentity)
            return info;
        glb.Extensions.Add("KHR_texture_transform");
        var t = image.Transform;
        // v runs down in glTF: an offset upward is one the other way.
        info["extensions"] = new JsonObject
        {
            ["KHR_texture_transform"] = new JsonObject
            {
                ["scale"] = new JsonArray(t.ScaleU, t.ScaleV),
                ["offset"] = new JsonArray(t.OffsetU, 1 - t.ScaleV - t.OffsetV),
                ["rotation"] = t.Rotation * Math.PI / 180,
            },
        };
        return info;
    }

    private static int Mesh(FbxDocument document, Scene scene, Mesh mesh, GlbAuthor glb)
    {
        if (!document.Objects.TryGetValue(mesh.Id, out var model) || FbxHierarchy.GeometryOf(document, model) is not { } node)
            return -1;
        var geometry = new FbxGeometry(node);
        var materials = FbxHierarchy.MaterialsOf(document, model);
        var (slots, corners, points) = (geometry.Slots(), geometry.Corners, geometry.Points);
        var normals = geometry.NormalLayer is { } n ? geometry.PerCorner(n, "Normals", "NormalsIndex", 3) : null;
        var uvs = geometry.UvLayers.Select(u => geometry.PerCorner(u, "UV", "UVIndex", 2)).OfType<float[]>().ToList();
        var bySlot = new SortedDictionary<int, Welded>();
        int first = 0,
            face = 0;
        for (var c = 0; c < corners.Length; c++)
        {
            if (corners[c] >= 0)
                continue;
            var slot = slots(face++);
            if (!bySlot.TryGetValue(slot, out var welded))
                bySlot[slot] = welded = new(points, normals, uvs);
            for (var k = first + 1; k + 1 <= c; k++)
                foreach (var corner in (int[])[first, k, k + 1])
                    welded.Add(corner, corners[corner] < 0 ? -(int)corners[corner] - 1 : (int)corners[corner]);
            first = c + 1;
        }

        var primitives = bySlot
            .Where(s => s.Value.Any)
            .Select(s =>
                s.Value.Primitive(
                    s.Key >= 0 && s.Key < materials.Count ? scene.Materials.ToList().FindIndex(m => m.Name == materials[s.Key]) : -1
                )
            )
            .ToList();
        return primitives.Count == 0 ? -1 : glb.Mesh(mesh.Name, primitives);
    }

    /// <summary>Corners that carry the same of everything become one vertex.</summary>
    private sealed class Welded(double[] points, float[]? normals, List<float[]> uvs)
    {
        private readonly Dictionary<string, uint> known = new(StringComparer.Ordinal);
        private readonly List<float> positions = [];
        private readonly List<float> ownNormals = [];
        private readonly List<float>[] ownUvs = [.. uvs.Select(_ => new List<float>())];
        private readonly List<uint> indices = [];

        public bool Any => indices.Count > 0;

        private string Key(int corner, int point)
        {
            var key = new StringBuilder().Append(CultureInfo.InvariantCulture, $"{point}");
            if (normals is not null)
                Add(normals.AsSpan(corner * 3, 3));
            foreach (var uv in uvs)
                Add(uv.AsSpan(corner * 2, 2));
            return key.ToString();

            void Add(ReadOnlySpan<float> numbers)
            {
                foreach (var number in numbers)
                    key.Append(CultureInfo.InvariantCulture, $" {number:R}");
            }
        }

        public void Add(int corner, int point)
        {
            if (point < 0 || (point * 3) + 2 >= points.Length)
                return;
            var key = Key(corner, point);
            if (!known.TryGetValue(key, out var index))
            {
                known[key] = index = (uint)(positions.Count / 3);
                for (var i = 0; i < 3; i++)
                    positions.Add((float)points[(point * 3) + i]);
                for (var i = 0; i < 3 && normals is not null; i++)
                    ownNormals.Add(normals[(corner * 3) + i]);
                for (var set = 0; set < uvs.Count; set++)
                    ownUvs[set].AddRange([uvs[set][corner * 2], 1 - uvs[set][(corner * 2) + 1]]);
            }

            indices.Add(index);
        }

        public GlbPrimitive Primitive(int material) =>
            new([.. positions], normals is null ? null : [.. ownNormals], [.. ownUvs.Select(u => u.ToArray())], [.. indices], material);
    }
}
