using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Fbx;

/// <summary>Presents materials as graphs: every property under its own name, textures where they are connected.</summary>
internal sealed class FbxMaterials(FbxDocument document, IReadOnlyDictionary<string, ReferenceKey> images)
{
    public Material Read(FbxObject material)
    {
        var type = material.Node.TextOf("ShadingModel") is { Length: > 0 } model ? model : "unknown";
        var graph = new GraphBuilder(type.ToLowerInvariant());
        var fed = new HashSet<string>(StringComparer.Ordinal);
        foreach (var (texture, property) in document.Into(material.Id))
        {
            if (
                property.Length == 0
                || TextureOf(texture) is not { } found
                || !images.TryGetValue(found.Id, out var key)
                || !fed.Add(property)
            )
                continue;
            var value = material.Numbers(property);
            graph.Map(
                property,
                value.Length >= 3 || IsColour(property) ? InputType.Color3
                    : property.Contains("Normal", StringComparison.Ordinal) ? InputType.Vector3
                    : InputType.Float,
                Use(key, found, property)
            );
        }

        foreach (var (name, property) in material.Values)
        {
            if (fed.Contains(name))
                continue;
            var numbers = FbxObject.NumbersOf(property);
            var declared = property.Text(1);
            if (numbers.Length >= 3)
                graph.Value(name, InputType.Color3, new([.. numbers.Take(3)]));
            else if (numbers.Length > 0)
                graph.Value(
                    name,
                    declared is "bool" or "Bool" ? InputType.Boolean
                        : declared is "int" or "Integer" or "enum" ? InputType.Integer
                        : InputType.Float,
                    new([.. numbers.Take(1)])
                );
            else if (FbxObject.TextOf(property) is { Length: > 0 } text)
                graph.Value(name, InputType.Text, ShaderValue.OfText(text));
        }

        return new(material.Name) { Id = material.Id, Graph = graph.Build() };
    }

    private static bool IsColour(string property) =>
        property.Contains("Color", StringComparison.OrdinalIgnoreCase)
        || property.Contains("Diffuse", StringComparison.Ordinal)
        || property.Contains("Emissive", StringComparison.Ordinal);

    /// <summary>The texture itself, or the first of a layered one.</summary>
    private FbxObject? TextureOf(FbxObject connected) =>
        connected.Node.Name switch
        {
            "Texture" => connected,
            "LayeredTexture" => document.Into(connected.Id).Select(i => i.Object).FirstOrDefault(o => o.Node.Name == "Texture"),
            _ => null,
        };

    private static ImageUse Use(ReferenceKey key, FbxObject texture, string property)
    {
        double At(string child, string name, int i, double standard)
        {
            var numbers = texture.Numbers(name);
            if (numbers.Length > i)
                return numbers[i];
            var direct = texture.Node.Child(child)?.Numbers() ?? [];
            return direct.Length > i ? direct[i] : standard;
        }

        WrapMode Wrap(string name) => texture.Numbers(name) is [1, ..] ? WrapMode.Clamp : WrapMode.Repeat;
        var colour = IsColour(property);
        return new(key)
        {
            UvSet =
                texture.Values.TryGetValue("UVSet", out var set) && FbxObject.TextOf(set) is var name and not "default"
                    ? name
                    : string.Empty,
            Transform = new(
                At("ModelUVTranslation", "Translation", 0, 0),
                At("ModelUVTranslation", "Translation", 1, 0),
                At(string.Empty, "Rotation", 2, 0),
                At("ModelUVScaling", "Scaling", 0, 1),
                At("ModelUVScaling", "Scaling", 1, 1),
                "scale rotate offset"
            ),
            WrapU = Wrap("WrapModeU"),
            WrapV = Wrap("WrapModeV"),
            EffectiveSpace = colour ? ColourSpace.Srgb : ColourSpace.Data,
            Channels = colour || property.Contains("Normal", StringComparison.Ordinal) ? Channels.Rgb : Channels.R,
        };
    }
}
