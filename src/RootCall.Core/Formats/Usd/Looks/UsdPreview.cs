using System.Collections.Frozen;

namespace RootCall.Core.Formats.Usd.Looks;

/// <summary>Inputs of UsdPreviewSurface with their defaults ("UsdPreviewSurface Proposal", version 2.6).</summary>
internal static class UsdPreview
{
    private static readonly FrozenDictionary<string, (string Type, double[] Default)> Inputs = new Dictionary<string, (string, double[])>
    {
        ["diffuseColor"] = ("color3", [0.18, 0.18, 0.18]),
        ["emissiveColor"] = ("color3", [0, 0, 0]),
        ["useSpecularWorkflow"] = ("integer", [0]),
        ["specularColor"] = ("color3", [0, 0, 0]),
        ["metallic"] = ("float", [0]),
        ["roughness"] = ("float", [0.5]),
        ["clearcoat"] = ("float", [0]),
        ["clearcoatRoughness"] = ("float", [0.01]),
        ["opacity"] = ("float", [1]),
        ["opacityThreshold"] = ("float", [0]),
        ["ior"] = ("float", [1.5]),
        ["normal"] = ("vector3", [0, 0, 1]),
        ["displacement"] = ("float", [0]),
        ["occlusion"] = ("float", [1]),
    }.ToFrozenDictionary(StringComparer.Ordinal);

    /// <summary>Null for another shader, or an input that it does not have.</summary>
    public static (string Type, double[] Default)? Input(string shader, string input) =>
        shader == "UsdPreviewSurface" && Inputs.TryGetValue(input, out var known) ? known : null;
}
