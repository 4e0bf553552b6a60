using RootCall.Core.Scenes;

namespace RootCall.Core.Muster;

/// <summary>What an image is for, in the words of the interface: told from the input that reads it, then from its name.</summary>
public static class MapRole
{
    /// <summary>Inputs of glTF 2.0 with its KHR_materials extensions, and of Wavefront MTL.</summary>
    private static readonly Dictionary<string, string> Inputs = new(StringComparer.OrdinalIgnoreCase)
    {
        ["baseColorTexture"] = "base colour",
        ["diffuseTexture"] = "base colour",
        ["map_Kd"] = "base colour",
        ["map_Ka"] = "base colour",
        ["metallicRoughnessTexture"] = "metallic roughness",
        ["normalTexture"] = "normal",
        ["norm"] = "normal",
        ["map_norm"] = "normal",
        ["map_Kn"] = "normal",
        ["clearcoatNormalTexture"] = "normal",
        ["occlusionTexture"] = "occlusion",
        ["map_AO"] = "occlusion",
        ["emissiveTexture"] = "emission",
        ["map_Ke"] = "emission",
        ["map_Pr"] = "roughness",
        ["map_Pm"] = "metalness",
        ["map_Ks"] = "specular",
        ["specularTexture"] = "specular",
        ["specularColorTexture"] = "specular",
        ["map_Ns"] = "glossiness",
        ["map_d"] = "opacity",
        ["map_Tr"] = "opacity",
        ["bump"] = "bump",
        ["map_bump"] = "bump",
        ["disp"] = "displacement",
        ["map_disp"] = "displacement",
        ["refl"] = "environment",
        ["map_refl"] = "environment",
    };

    public static string Of(Reference reference)
    {
        foreach (var use in reference.UsedBy)
            if (Inputs.TryGetValue(use.Input, out var role)) return role;
        return reference.Kind == ReferenceKind.Image
            ? FileName.Of(WrittenPath.Parse(reference.Written).FileName).Role ?? "image"
            : reference.Kind == ReferenceKind.Buffer ? "geometry" : "materials";
    }
}
