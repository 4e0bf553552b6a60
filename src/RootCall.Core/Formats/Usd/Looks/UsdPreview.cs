using System.Collections.Frozen;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Usd.Looks;

/// <summary>Inputs of UsdPreviewSurface with their defaults ("UsdPreviewSurface Proposal", version 2.6).</summary>
internal static class UsdPreview
{
    private static readonly FrozenDictionary<string, (string Type, ShaderValue Default)> Inputs = new Dictionary<
        string,
        (string, ShaderValue)
    >
    {
        ["diffuseColor"] = ("color3", ShaderValue.Of(0.18, 0.18, 0.18)),
        ["emissiveColor"] = ("color3", ShaderValue.Of(0, 0, 0)),
        ["useSpecularWorkflow"] = ("integer", ShaderValue.Of(0)),
        ["specularColor"] = ("color3", ShaderValue.Of(0, 0, 0)),
        ["metallic"] = ("float", ShaderValue.Of(0)),
        ["roughness"] = ("float", ShaderValue.Of(0.5)),
        ["clearcoat"] = ("float", ShaderValue.Of(0)),
        ["clearcoatRoughness"] = ("float", ShaderValue.Of(0.01)),
        ["opacity"] = ("float", ShaderValue.Of(1)),
        ["opacityMode"] = ("string", ShaderValue.OfText("transparent")),
        ["opacityThreshold"] = ("float", ShaderValue.Of(0)),
        ["ior"] = ("float", ShaderValue.Of(1.5)),
        ["normal"] = ("vector3", ShaderValue.Of(0, 0, 1)),
        ["displacement"] = ("float", ShaderValue.Of(0)),
        ["occlusion"] = ("float", ShaderValue.Of(1)),
    }.ToFrozenDictionary(StringComparer.Ordinal);

    /// <summary>Null for another shader, or an input that it does not have.</summary>
    public static (string Type, ShaderValue Default)? Input(string shader, string input) =>
        shader == "UsdPreviewSurface" && Inputs.TryGetValue(input, out var known) ? known : null;
}
