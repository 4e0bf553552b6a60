using System.Globalization;
using System.Text;
using System.Text.Json.Nodes;
using RootCall.Core.Files;
using RootCall.Core.Formats.Gltf;
using RootCall.Core.Formats.Gltf.Authoring;
using RootCall.Core.Geometry;
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
        using var source = new FbxShapes(FbxReader.Open(scene.Path, bounds), scene, bounds);
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
                meshes[node.Mesh] = mesh = Mesh(source, node.Mesh, scene, glb);
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

    private static int Mesh(FbxShapes source, int index, Scene scene, GlbAuthor glb)
    {
        var (mesh, geometry) = (scene.Meshes[index], source.Read(index));
        var primitives = new List<GlbPrimitive>();
        for (var part = 0; part < mesh.Parts.Length; part++)
        {
            var welded = new Welded(geometry);
            foreach (var corner in geometry.Triangles(part))
                welded.Add(corner);
            if (welded.Any)
                primitives.Add(welded.Primitive(scene.Materials.ToList().FindIndex(m => m.Name == mesh.Parts[part].Material)));
        }

        return primitives.Count == 0 ? -1 : glb.Mesh(mesh.Name, primitives);
    }

    /// <summary>Corners that carry the same of everything become one vertex.</summary>
    private sealed class Welded(MeshGeometry geometry)
    {
        private readonly GeometryStream? normals = geometry.Stream(GeometryUse.Normal);
        private readonly List<GeometryStream> uvs = [.. geometry.Streams.Where(s => s.Use == GeometryUse.Uv)];
        private readonly Dictionary<string, uint> known = new(StringComparer.Ordinal);
        private readonly List<float> positions = [];
        private readonly List<float> ownNormals = [];
        private readonly List<List<float>> ownUvs =
        [
            .. geometry.Streams.Where(s => s.Use == GeometryUse.Uv).Select(_ => new List<float>()),
        ];
        private readonly List<uint> indices = [];

        public bool Any => indices.Count > 0;

        public void Add(int corner)
        {
            var point = geometry.Corners.Span[corner];
            var key = Key(corner, point);
            if (!known.TryGetValue(key, out var index))
            {
                known[key] = index = (uint)(positions.Count / 3);
                positions.AddRange(geometry.Points.Span.Slice(point * 3, 3));
                if (normals is not null)
                    ownNormals.AddRange(At(normals, corner));
                for (var set = 0; set < uvs.Count; set++)
                {
                    var uv = At(uvs[set], corner);
                    ownUvs[set].AddRange([uv[0], 1 - uv[1]]);
                }
            }

            indices.Add(index);
        }

        public GlbPrimitive Primitive(int material) =>
            new([.. positions], normals is null ? null : [.. ownNormals], [.. ownUvs.Select(u => u.ToArray())], [.. indices], material);

        private string Key(int corner, int point)
        {
            var key = new StringBuilder().Append(CultureInfo.InvariantCulture, $"{point}");
            foreach (var stream in normals is null ? uvs : [normals, .. uvs])
            foreach (var number in At(stream, corner))
                key.Append(CultureInfo.InvariantCulture, $" {number:R}");
            return key.ToString();
        }

        /// <summary>A corner without a value has zeros.</summary>
        private ReadOnlySpan<float> At(GeometryStream stream, int corner) =>
            stream.At(geometry, corner) is { IsEmpty: false } value ? value : new float[stream.Width];
    }
}
