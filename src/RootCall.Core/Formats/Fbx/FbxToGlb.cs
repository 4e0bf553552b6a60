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
    /// <summary>The unit of files that do not say one.</summary>
    private const double Centimetre = 0.01;

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
        var places = scene.Materials.Select((m, i) => (m.Name, i)).DistinctBy(m => m.Name).ToDictionary(m => m.Name, m => m.i);
        new GlbShapes(scene, source, glb, Centimetre).Write(p => places.GetValueOrDefault(p.Material, -1), CancellationToken.None);
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
}
