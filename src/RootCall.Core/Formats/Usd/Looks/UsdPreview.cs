using System.Collections.Frozen;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Usd.Looks;

/// <summary>Inputs of UsdPreviewSurface with their defaults ("UsdPreviewSurface Proposal", version 2.6).</summary>
internal static class UsdPreview
{
    private static readonly FrozenDictionary<string, (InputType Type, ShaderValue Default)> Inputs = new Dictionary<
        string,
        (InputType, ShaderValue)
    >
    {
        ["diffuseColor"] = (InputType.Color3, ShaderValue.Of(0.18, 0.18, 0.18)),
        ["emissiveColor"] = (InputType.Color3, ShaderValue.Of(0, 0, 0)),
        ["useSpecularWorkflow"] = (InputType.Integer, ShaderValue.Of(0)),
        ["specularColor"] = (InputType.Color3, ShaderValue.Of(0, 0, 0)),
        ["metallic"] = (InputType.Float, ShaderValue.Of(0)),
        ["roughness"] = (InputType.Float, ShaderValue.Of(0.5)),
        ["clearcoat"] = (InputType.Float, ShaderValue.Of(0)),
        ["clearcoatRoughness"] = (InputType.Float, ShaderValue.Of(0.01)),
        ["opacity"] = (InputType.Float, ShaderValue.Of(1)),
        ["opacityMode"] = (InputType.Text, ShaderValue.OfText("transparent")),
        ["opacityThreshold"] = (InputType.Float, ShaderValue.Of(0)),
        ["ior"] = (InputType.Float, ShaderValue.Of(1.5)),
        ["normal"] = (InputType.Vector3, ShaderValue.Of(0, 0, 1)),
        ["displacement"] = (InputType.Float, ShaderValue.Of(0)),
        ["occlusion"] = (InputType.Float, ShaderValue.Of(1)),
    }.ToFrozenDictionary(StringComparer.Ordinal);

    /// <summary>Null for another shader, or an input that it does not have.</summary>
    public static (InputType Type, ShaderValue Default)? Input(string shader, string input) =>
        shader == "UsdPreviewSurface" && Inputs.TryGetValue(input, out var known) ? known : null;
}
