using System.Collections.Immutable;
using RootCall.Core.Formats.Json;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Gltf;

/// <summary>Presents glTF materials as graphs.</summary>
/// <param name="images">The reference of each entry of <c>images</c>; null where the entry calls for nothing.</param>
internal sealed class GltfMaterials(JsonTree root, IReadOnlyList<ReferenceKey?> images)
{
    private const int ClampToEdge = 33071;
    private const int MirroredRepeat = 33648;

    public static string NameOf(JsonTree material, int index) => material["name"].Text is { Length: > 0 } n ? n : $"material {index}";

    public Material Read(JsonTree material, int index) =>
        new(NameOf(material, index)) { Id = $"/materials/{index}", Graph = Graph(material) };

    public static string ModelOf(JsonTree material) =>
        material["extensions"][GltfInputs.SpecularGlossinessExtension].Exists
            ? GltfInputs.SpecularGlossiness
            : GltfInputs.MetallicRoughness;

    /// <summary>The object that holds an input; it may not exist.</summary>
    public static JsonTree HolderOf(JsonTree material, GltfInput input) =>
        input.Holder.Length == 0 ? material
        : input.IsExtension ? material["extensions"][input.Holder]
        : material[input.Holder];

    private ShaderGraph Graph(JsonTree material)
    {
        var model = ModelOf(material);
        var graph = new GraphBuilder(model);
        foreach (var input in GltfInputs.Of(model))
        {
            var holder = HolderOf(material, input);
            if (input.IsExtension && !holder.Exists)
                continue;
            var standard = input.Default.IsEmpty ? null : new ShaderValue(input.Default);
            var factor = Factor(holder, input);
            var texture = input.Texture is { } key ? holder[key] : null;
            if (texture is { Exists: true } && Use(texture, input) is { } image)
                graph.Map(input.Name, input.Type, image, factor, standard);
            else
                graph.Value(input.Name, input.Type, factor, standard);
        }

        graph.Value("alphaMode", InputType.Text, TextOf(material["alphaMode"]), ShaderValue.OfText("OPAQUE"));
        graph.Value("doubleSided", InputType.Boolean, Flag(material["doubleSided"]), ShaderValue.OfText("false"));
        if (material["extensions"]["KHR_materials_unlit"].Exists)
            graph.Value("unlit", InputType.Boolean, ShaderValue.OfText("true"), ShaderValue.OfText("false"));
        foreach (var (name, value) in material["extensions"].Members)
        {
            // Kept and named; what it means is not known here.
            if (!IsKnown(name))
                graph.Value(name, InputType.Of("extension"), ShaderValue.OfText($"{value.Members.Count} fields"));
        }

        return graph.Build();
    }

    private static bool IsKnown(string extension) =>
        extension is "KHR_materials_unlit" or GltfInputs.SpecularGlossinessExtension
        || GltfInputs.Extensions.Any(i => i.Holder == extension);

    private static ShaderValue? TextOf(JsonTree value) => value.Text is { } text ? ShaderValue.OfText(text) : null;

    private static ShaderValue? Flag(JsonTree value) =>
        value.Kind switch
        {
            System.Text.Json.JsonValueKind.True => ShaderValue.OfText("true"),
            System.Text.Json.JsonValueKind.False => ShaderValue.OfText("false"),
            _ => null,
        };

    private static ShaderValue? Factor(JsonTree holder, GltfInput input)
    {
        if (input.Factor is null || holder[input.Factor] is not { Exists: true } written)
            return null;
        if (written.Number is { } number)
            return ShaderValue.Of(number);
        var length = input.Type == InputType.Color3 ? 3 : 1;
        var numbers = written.Items.Skip(input.FactorOffset).Take(length).Select(i => i.Number ?? 0).ToImmutableArray();
        return numbers.Length == length ? new(numbers) : null;
    }

    private ImageUse? Use(JsonTree info, GltfInput input)
    {
        if (info["index"].Index is not { } index || root["textures"][index] is not { Exists: true } texture)
            return null;
        var source = texture["source"].Index
            ?? texture["extensions"]["KHR_texture_basisu"]["source"].Index
            ?? texture["extensions"]["EXT_texture_webp"]["source"].Index;
        if (source is not { } image || image >= images.Count || images[image] is not { } reference)
            return null;
        var sampler = texture["sampler"].Index is { } s ? root["samplers"][s] : root["samplers"][-1];
        var transform = info["extensions"]["KHR_texture_transform"];
        var set = transform["texCoord"].Index ?? info["texCoord"].Index ?? 0;
        var strength = input.Strength is { } key ? info[key].Number : null;
        return new(reference)
        {
            Slot = input.Texture!,
            UvSet = $"TEXCOORD_{set}",
            Transform = Transform(transform),
            WrapU = Wrap(sampler["wrapS"]),
            WrapV = Wrap(sampler["wrapT"]),
            EffectiveSpace = input.Colour ? ColourSpace.Srgb : ColourSpace.Data,
            Channels = input.Channels,
            Scale = strength is { } value ? [value] : [],
            Default = [1, 1, 1, 1],
        };
    }

    /// <summary>KHR_texture_transform: scale, then a counter-clockwise rotation in radians, then the offset.</summary>
    private static UvTransform Transform(JsonTree t) =>
        t.Exists
            ? new(
                t["offset"][0].Number ?? 0,
                t["offset"][1].Number ?? 0,
                (t["rotation"].Number ?? 0) * 180 / Math.PI,
                t["scale"][0].Number ?? 1,
                t["scale"][1].Number ?? 1,
                UvTransform.Identity.Order
            )
            : UvTransform.Identity;

    private static WrapMode Wrap(JsonTree mode) =>
        mode.Index switch
        {
            ClampToEdge => WrapMode.Clamp,
            MirroredRepeat => WrapMode.Mirror,
            _ => WrapMode.Repeat,
        };
}
