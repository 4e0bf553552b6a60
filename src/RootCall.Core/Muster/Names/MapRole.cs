using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Muster;

/// <summary>What an image is for, in the words of the interface: told from the input that reads it, then from its name.</summary>
public static class MapRole
{
    /// <summary>Keys of files that feed several inputs, or that stand for an input under another name.</summary>
    private static readonly Dictionary<string, string> Others = new(StringComparer.OrdinalIgnoreCase)
    {
        ["metallicRoughnessTexture"] = "metallic roughness",
        ["map_Ka"] = "base colour",
        ["map_Ks"] = "specular",
        ["specularTexture"] = "specular",
        ["specularColorTexture"] = "specular",
        ["map_opacity"] = "opacity",
        ["map_AO"] = "occlusion",
        ["map_Kn"] = "normal",
        ["refl"] = "environment",
        ["map_refl"] = "environment",
    };

    public static string Of(Reference reference, NameDictionary? names = null)
    {
        foreach (var use in reference.UsedBy)
            if (OfInput(use.Input) is { } role)
                return role;
        return reference.Kind switch
        {
            ReferenceKind.Image => FileName.Of(WrittenPath.Parse(reference.Written).FileName, names ?? NameDictionary.Standard).Role
                ?? "image",
            ReferenceKind.Buffer => "geometry",
            ReferenceKind.MaterialLibrary => "materials",
            var kind => kind.Word(),
        };
    }

    /// <summary>The role of an input, as the format's file or the graph names it.</summary>
    private static string? OfInput(string input)
    {
        if (Others.TryGetValue(input, out var role))
            return role;
        var name =
            input.StartsWith("map_", StringComparison.OrdinalIgnoreCase) ? input[4..]
            : input.EndsWith("Texture", StringComparison.Ordinal) ? input[..^7]
            : input;
        return InputRoles.Of(name) switch
        {
            "coat normal" => "normal",
            var found => found,
        };
    }
}
