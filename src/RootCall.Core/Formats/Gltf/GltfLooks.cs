using System.Globalization;
using System.Text.Json.Nodes;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats.Json;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Gltf;

/// <summary>Writes edits of looks into the JSON of a glTF file.</summary>
internal sealed class GltfLooks(Scene scene, JsonTree root, GltfCarrier carrier)
{
    private const string Transform = "KHR_texture_transform";
    private readonly JsonPatch patch = new();
    private readonly Dictionary<(JsonTree Material, string Holder, string Key), double[]> factors = [];
    private readonly Dictionary<(JsonTree Material, string Holder, string Key), string?> textures = [];
    private readonly HashSet<string> extensionsUsed = [.. root["extensionsUsed"].Items.Select(i => i.Text ?? string.Empty)];
    private readonly Dictionary<string, int> newImages = [];
    private readonly Dictionary<string, int> materials = Places(scene.Materials.Select(m => m.Name).Concat(scene.Materials.Select(m => m.Id)), scene.Materials.Length);
    private readonly Dictionary<string, int> meshes = Places(scene.Meshes.Select(m => m.Name).Concat(scene.Meshes.Select(m => m.Id)), scene.Meshes.Length);
    private readonly Dictionary<string, int> images = Places(root["images"].Items.Select(i => i["uri"].Text is { } uri && !GltfUri.IsData(uri) ? GltfUri.Decode(uri) : string.Empty), int.MaxValue);

    private JsonSpot Root => new(root, null);

    /// <summary>The edits of the JSON; those of the binary chunk gather in the carrier.</summary>
    public JsonPatch Make(IReadOnlyList<LookEdit> looks)
    {
        foreach (var look in looks)
        {
            switch (look)
            {
                case SetValue value:
                    Value(value);
                    break;
                case SetImage image:
                    Image(image);
                    break;
                case AssignMaterial assign:
                    Assign(assign);
                    break;
                case ExtractImage extract:
                    carrier.Extract(patch, ImageIndex(extract.Image), extract.Written);
                    break;
                case CarryImage carry:
                    carrier.Carry(patch, ImageIndex(carry.Image), carry.File);
                    break;
                case SelectVariant variant:
                    Choose(variant);
                    break;
                case Rename rename:
                    patch.Set(new(Named(rename), null), "name", JsonValue.Create(rename.To)!);
                    break;
                case CopyMaterial copy:
                    var twin = Node(MaterialOf(copy.From)).AsObject();
                    twin["name"] = copy.To;
                    patch.Append(patch.Child(Root, "materials", array: true), twin);
                    break;
                default:
                    throw new CannotUseException($"glTF cannot say this: {look.Describe()}.");
            }
        }

        carrier.Finish(patch);
        return patch;
    }

    /// <summary>Where each name stands first; names and ids of the same things follow each other.</summary>
    private static Dictionary<string, int> Places(IEnumerable<string> names, int count)
    {
        var places = new Dictionary<string, int>(StringComparer.Ordinal);
        foreach (var (name, i) in names.Select((n, i) => (n, i)))
            if (name.Length > 0) places.TryAdd(name, i % count);
        return places;
    }

    private JsonTree MaterialOf(string name) => materials.TryGetValue(name, out var index) && root["materials"][index] is { Exists: true } material
        ? material
        : throw new CannotUseException($"The scene has no material {name}.");

    private JsonTree Named(Rename rename)
    {
        var (list, at) = rename.Kind switch
        {
            "material" => ("materials", materials.GetValueOrDefault(rename.Id, -1)),
            "mesh" => ("meshes", meshes.GetValueOrDefault(rename.Id, -1)),
            _ => ("nodes", root["nodes"].Items.ToList().FindIndex(n => n["name"].Text == rename.From)),
        };
        return root[list][at] is { Exists: true } found ? found : throw new CannotUseException($"The scene has no {rename.Kind} {rename.From}.");
    }

    private JsonSpot Holder(JsonTree material, GltfInput input)
    {
        var spot = new JsonSpot(material, null);
        if (input.Holder.Length == 0) return spot;
        if (!input.IsExtension) return patch.Child(spot, input.Holder);
        Use(input.Holder);
        return patch.Child(patch.Child(spot, "extensions"), input.Holder);
    }

    private void Use(string extension)
    {
        if (extensionsUsed.Add(extension)) patch.Append(patch.Child(Root, "extensionsUsed", array: true), extension);
    }

    private static GltfInput InputOf(JsonTree material, string name) =>
        GltfInputs.Of(GltfMaterials.ModelOf(material)).FirstOrDefault(i => i.Name == name) ?? throw new CannotUseException($"glTF has no input {name}.");

    private void Value(SetValue edit)
    {
        var material = MaterialOf(edit.Material);
        var spot = new JsonSpot(material, null);
        if (edit.Input is "alphaMode" or "doubleSided")
        {
            if (edit.To?.Text is not { } text) patch.Remove(spot, edit.Input);
            else patch.Set(spot, edit.Input, edit.Input == "doubleSided" ? JsonValue.Create(text == "true") : JsonValue.Create(text)!);
            return;
        }

        var input = InputOf(material, edit.Input);
        if (input.Factor is not { } key) throw new CannotUseException($"glTF has no value for {edit.Input}, only a texture.");
        var holder = GltfMaterials.HolderOf(material, input);
        var at = (material, input.Holder, key);
        if (edit.To is null && input.FactorLength == 1)
        {
            if (holder.Exists) patch.Remove(new(holder, null), key);
            return;
        }

        var numbers = edit.To?.Numbers ?? input.Default;
        if (!factors.TryGetValue(at, out var whole))
        {
            whole = [.. Enumerable.Repeat(1.0, input.FactorLength)];
            for (var i = 0; i < whole.Length; i++) whole[i] = holder[key][i].Number ?? whole[i];
            factors[at] = whole;
        }

        for (var i = 0; i < numbers.Length && input.FactorOffset + i < whole.Length; i++) whole[input.FactorOffset + i] = numbers[i];
        patch.Set(Holder(material, input), key, input.FactorLength == 1 ? Number(whole[0]) : new JsonArray([.. whole.Select(Number)]));
    }

    private void Image(SetImage edit)
    {
        var material = MaterialOf(edit.Material);
        var input = InputOf(material, edit.Input);
        if (input.Texture is not { } key) throw new CannotUseException($"glTF has no texture for {edit.Input}.");
        var at = (material, input.Holder, key);
        if (textures.TryGetValue(at, out var chosen) && chosen != edit.To?.Reference.Written)
            throw new CannotUseException($"{edit.Input} shares the texture {key} with another input; they cannot read different images.");
        textures[at] = edit.To?.Reference.Written;
        if (edit.To is not { } image)
        {
            if (GltfMaterials.HolderOf(material, input) is { Exists: true } holder) patch.Remove(new(holder, null), key);
            return;
        }

        var info = patch.Child(Holder(material, input), key);
        patch.Set(info, "index", Texture(image, info.Existing));
        SetInfo(info, input, image);
    }

    private void SetInfo(JsonSpot info, GltfInput input, ImageUse image)
    {
        var set = image.UvSet.StartsWith("TEXCOORD_", StringComparison.Ordinal) && int.TryParse(image.UvSet.AsSpan(9), CultureInfo.InvariantCulture, out var n) ? n : 0;
        var existing = info.Existing?["extensions"][Transform];
        if (set != (info.Existing?["texCoord"].Index ?? 0)) patch.Set(info, "texCoord", set);
        if (existing?["texCoord"].Exists == true) patch.Set(new(existing, null), "texCoord", set);
        if (image.Scale is [var scale, ..] && input.Name is "normal" or "clearcoatNormal" or "occlusion")
            patch.Set(info, input.Name == "occlusion" ? "strength" : "scale", Number(scale));
        var t = image.Transform;
        if (t.IsIdentity && existing?.Exists != true) return;
        Use(Transform);
        var spot = patch.Child(patch.Child(info, "extensions"), Transform);
        patch.Set(spot, "offset", new JsonArray(Number(t.OffsetU), Number(t.OffsetV)));
        patch.Set(spot, "scale", new JsonArray(Number(t.ScaleU), Number(t.ScaleV)));
        if (t.Rotation != 0 || existing?["rotation"].Exists == true) patch.Set(spot, "rotation", Number(t.Rotation * Math.PI / 180));
    }

    /// <summary>Index of a texture that reads the image with those wrap modes; one is added when there is none.</summary>
    private int Texture(ImageUse image, JsonTree? now)
    {
        var source = Source(image);
        var (u, v) = (Wrap(image.WrapU), Wrap(image.WrapV));
        bool Reads(JsonTree texture)
        {
            var sampler = texture["sampler"].Index is { } s ? root["samplers"][s] : root["samplers"][-1];
            return texture["source"].Index == source && (sampler["wrapS"].Index ?? 10497) == u && (sampler["wrapT"].Index ?? 10497) == v;
        }

        if (now?["index"].Index is { } current && Reads(root["textures"][current])) return current;
        var known = root["textures"].Items.ToList().FindIndex(Reads);
        if (known >= 0) return known;
        var sampler = patch.Append(patch.Child(Root, "samplers", array: true), new JsonObject { ["wrapS"] = u, ["wrapT"] = v });
        return patch.Append(patch.Child(Root, "textures", array: true), new JsonObject { ["sampler"] = sampler, ["source"] = source });
    }

    private int Source(ImageUse image)
    {
        var known = FindImage(image.Reference);
        if (known >= 0) return known;
        if (newImages.TryGetValue(image.Reference.Written, out var fresh)) return fresh;
        return newImages[image.Reference.Written] = patch.Append(patch.Child(Root, "images", array: true), new JsonObject { ["uri"] = GltfUri.Encode(image.Reference.Written) });
    }

    private int FindImage(ReferenceKey key) => images.TryGetValue(key.Written, out var at) ? at : carrier.FindCarried(scene, key);

    private int ImageIndex(ReferenceKey key) => FindImage(key) is var at && at >= 0 ? at : throw new CannotUseException($"The scene has no image {key.Written}.");

    private void Assign(AssignMaterial edit)
    {
        if (!meshes.TryGetValue(edit.Mesh, out var mesh)) throw new CannotUseException($"The scene has no mesh {edit.Mesh}.");
        var material = materials.GetValueOrDefault(edit.To, -1);
        if (material < 0 && edit.To.Length > 0) throw new CannotUseException($"The scene has no material {edit.To}.");
        foreach (var (primitive, p) in root["meshes"][mesh]["primitives"].Items.Select((v, i) => (v, i)))
        {
            if (edit.Part.Length > 0 && edit.Part != $"primitive {p}") continue;
            if (material < 0) patch.Remove(new(primitive, null), "material");
            else patch.Set(new(primitive, null), "material", material);
        }
    }

    /// <summary>KHR_materials_variants: the primitives take the material that their mapping names for the variant.</summary>
    private void Choose(SelectVariant edit)
    {
        var variant = root["extensions"]["KHR_materials_variants"]["variants"].Items.ToList().FindIndex(v => v["name"].Text == edit.To);
        if (variant < 0) throw new CannotUseException($"The scene has no variant {edit.To}.");
        foreach (var primitive in root["meshes"].Items.SelectMany(m => m["primitives"].Items))
            foreach (var mapping in primitive["extensions"]["KHR_materials_variants"]["mappings"].Items)
                if (mapping["variants"].Items.Any(v => v.Index == variant) && mapping["material"].Index is { } material) patch.Set(new(primitive, null), "material", material);
    }

    private static int Wrap(WrapMode mode) => mode switch { WrapMode.Mirror => 33648, WrapMode.Clamp or WrapMode.Black => 33071, _ => 10497 };

    private static JsonNode Node(JsonTree tree) => tree.Kind switch
    {
        System.Text.Json.JsonValueKind.Object => new JsonObject(tree.Members.Select(m => KeyValuePair.Create(m.Name, (JsonNode?)Node(m.Value)))),
        System.Text.Json.JsonValueKind.Array => new JsonArray([.. tree.Items.Select(Node)]),
        System.Text.Json.JsonValueKind.String => JsonValue.Create(tree.Text!),
        System.Text.Json.JsonValueKind.Number => JsonValue.Create(tree.Number!.Value),
        var kind => JsonValue.Create(kind == System.Text.Json.JsonValueKind.True),
    };

    private static JsonValue Number(double value) => JsonValue.Create(Math.Round(value, 9));
}
