using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Text.Json;
using RootCall.Core.Formats.Json;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Gltf;

/// <summary>Makes a scene out of the JSON of a glTF 2.0 file.</summary>
/// <param name="edited">Where the bytes were read from, when that is not <paramref name="path"/>.</param>
internal sealed class GltfReader(string path, string? edited, JsonTree root, GlbContainer? glb, List<ReadNote> notes)
{
    private readonly string held = edited ?? path;
    private readonly string name = Path.GetFileName(path);
    private readonly string folder = Path.GetDirectoryName(path)!;

    public Scene Read(long bytes, CancellationToken stop)
    {
        var builder = new ReferenceListBuilder(folder, path);
        var uses = ImageUses();
        var images = new List<ReferenceKey?>();
        foreach (var (image, index) in root["images"].Items.Select((v, i) => (v, i)))
        {
            stop.ThrowIfCancellationRequested();
            images.Add(AddImage(builder, image, index, [.. uses[index].Distinct()]));
        }

        foreach (var (buffer, index) in root["buffers"].Items.Select((v, i) => (v, i)))
            AddBuffer(builder, buffer, index);

        TellExtensions();
        var meshes = new GltfMeshes(root, name, notes);
        var looks = new GltfMaterials(root, images);
        var materials = root["materials"]
            .Items.Select((m, i) => looks.Read(m, i) is var read ? read with { Others = Others(m, read, images) } : read)
            .ToImmutableArray();
        var measured = meshes.Meshes();
        var nodes = meshes.Nodes();
        return new Scene(
            path,
            glb is null ? new("gltf", "glTF 2.0") : new("glb", "glTF 2.0 binary"),
            [new SourceFile(path, bytes, null) { Edited = edited }],
            materials,
            builder.ToImmutable(),
            new(nodes.Length, measured.Length, materials.Length, root["images"].Items.Count, measured.Sum(m => m.Triangles)),
            [.. notes]
        )
        {
            Nodes = nodes,
            Meshes = measured,
            MetresPerUnit = 1, // glTF 2.0, 3.4: all linear distances are metres, +Y is up.
            UpAxis = "Y",
            Variants = Variants(),
            Cameras = GltfCameras.Read(root, nodes),
            Lamps = GltfLamps.Read(root, nodes),
            Lights =
            [
                .. root["extensions"]
                    ["KHR_lights_punctual"]["lights"]
                    .Items.Select((l, i) => new SceneLight(l["name"].Text ?? $"light {i}", l["type"].Text ?? "unknown")),
            ],
        };
    }

    /// <summary>What texture fields call besides the images that the graph knows of.</summary>
    private ImmutableArray<OtherUse> Others(JsonTree material, Material read, List<ReferenceKey?> images)
    {
        var known = read.Uses().Select(u => (u.Key, u.Use.Input)).ToHashSet();
        return
        [
            .. TextureInputs(material)
                .SelectMany(t =>
                    Sources(root["textures"][t.Texture]).Select(s => (Image: s < images.Count ? images[s] : null, Field: t.Input))
                )
                .Where(u => u.Image is { } key && !known.Contains((key, u.Field)))
                .Distinct()
                .Select(u => new OtherUse(u.Image!.Value, u.Field)),
        ];
    }

    /// <summary>A texture may name the same picture twice, once in a newer container; each is called for.</summary>
    private static IEnumerable<int> Sources(JsonTree texture) =>
        new[]
        {
            texture["source"],
            texture["extensions"]["KHR_texture_basisu"]["source"],
            texture["extensions"]["EXT_texture_webp"]["source"],
        }
            .Select(s => s.Index)
            .OfType<int>();

    private void TellExtensions()
    {
        foreach (var extension in root["extensionsRequired"].Items)
        {
            if (extension.Text is "KHR_draco_mesh_compression" or "EXT_meshopt_compression")
                notes.Add(
                    new(
                        $"Geometry is compressed with {extension.Text}; it is carried along, its counts are those the file declares.",
                        $"{name}, /extensionsRequired"
                    )
                );
            else if (extension.Text is { } text && !Known.Contains(text))
                notes.Add(new($"The scene requires {text}, which is not known here; it is kept as it is.", $"{name}, /extensionsRequired"));
        }
    }

    private ImmutableArray<VariantChoice> Variants()
    {
        var names = root["extensions"]
            ["KHR_materials_variants"]["variants"]
            .Items.Select((v, i) => v["name"].Text ?? $"variant {i}")
            .ToImmutableArray();
        return names.IsEmpty ? [] : [new(string.Empty, "material variants", names, string.Empty)];
    }

    private static readonly FrozenSet<string> Known = FrozenSet.Create(
        StringComparer.Ordinal,
        [
            .. GltfInputs.Extensions.Select(i => i.Holder),
            GltfInputs.SpecularGlossinessExtension,
            "KHR_materials_unlit",
            "KHR_materials_variants",
            "KHR_texture_transform",
            "KHR_texture_basisu",
            "EXT_texture_webp",
            "KHR_lights_punctual",
            "EXT_mesh_gpu_instancing",
            "KHR_mesh_quantization",
        ]
    );

    private ReferenceKey? AddImage(ReferenceListBuilder builder, JsonTree image, int index, ImmutableArray<ReferenceUse> uses)
    {
        var place = $"{name}, /images/{index}";
        var label = image["name"].Text is { Length: > 0 } n ? n : $"image {index}";
        if (image["uri"].Text is { } uri)
        {
            var site = Site(image["uri"]);
            return GltfUri.IsData(uri)
                ? builder.AddCarried(label, new(held, -1, GltfFormat.DataLength(uri), site), uses)
                : builder.Add(ReferenceKind.Image, GltfUri.Decode(uri), site, uses, carriedName: label);
        }

        if (image["bufferView"].Index is not { } viewIndex)
        {
            notes.Add(new($"Image {index} names neither a file nor a buffer view; it was left out.", place));
            return null;
        }

        var view = root["bufferViews"][viewIndex];
        if (view["buffer"].Index is not { } bufferIndex || view["byteLength"].Number is not > 0)
        {
            notes.Add(new($"Image {index} calls for buffer view {viewIndex}, which is not there; it was left out.", place));
            return null;
        }

        var offset = (long)(view["byteOffset"].Number ?? 0);
        var length = (long)view["byteLength"].Number!.Value;
        var isBin = glb is { BinStart: >= 0 } && bufferIndex == 0 && !root["buffers"][0]["uri"].Exists;
        if (isBin && offset + length > glb!.BinLength)
        {
            notes.Add(new($"Image {index} reaches past the end of the BIN chunk; only part of it is there.", place));
            length = Math.Max(0, glb.BinLength - offset);
        }

        // An image in an outside buffer is carried by that buffer: it answers when the buffer does.
        return builder.AddCarried(label, isBin ? new(held, glb!.BinStart + offset, length) : new(string.Empty, offset, length), uses);
    }

    private void AddBuffer(ReferenceListBuilder builder, JsonTree buffer, int index)
    {
        if (buffer["uri"].Text is not { } uri)
        {
            if (glb is null || index > 0)
                notes.Add(new($"Buffer {index} names no file; it was left out.", $"{name}, /buffers/{index}"));
            return;
        }

        if (!GltfUri.IsData(uri))
            builder.Add(
                ReferenceKind.Buffer,
                GltfUri.Decode(uri),
                Site(buffer["uri"]),
                [new(string.Empty, $"buffer {index}")],
                (long)(buffer["byteLength"].Number ?? 0)
            );
    }

    private ReferenceSite Site(JsonTree value) =>
        new(0, (glb?.JsonStart ?? 0) + value.Start, value.End - value.Start, SiteNotation.JsonUri);

    /// <summary>
    /// For each image, the material inputs that read it. A texture info is whatever carries an index under a key that
    /// ends in Texture.
    /// </summary>
    private ILookup<int, ReferenceUse> ImageUses()
    {
        var uses = new List<(int Image, ReferenceUse Use)>();
        foreach (var (material, index) in root["materials"].Items.Select((m, i) => (m, i)))
        {
            var materialName = GltfMaterials.NameOf(material, index);
            foreach (var (input, texture) in TextureInputs(material))
            {
                var entry = root["textures"][texture];
                if (!entry.Exists)
                {
                    notes.Add(
                        new($"{materialName}.{input} calls for texture {texture}, which is not there.", $"{name}, /materials/{index}")
                    );
                    continue;
                }

                foreach (var image in Sources(entry))
                    uses.Add((image, new(materialName, input) { Role = GltfInputs.RoleOf(input) }));
            }
        }

        return uses.ToLookup(u => u.Image, u => u.Use);
    }

    private static IEnumerable<(string Input, int Texture)> TextureInputs(JsonTree value)
    {
        foreach (var (key, member) in value.Members)
        {
            if (key.EndsWith("Texture", StringComparison.Ordinal) && member["index"].Index is { } texture)
                yield return (key, texture);
            else if (member.Kind == JsonValueKind.Object)
                foreach (var inner in TextureInputs(member))
                    yield return inner;
        }
    }
}
