using RootCall.Core.Edits;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Collada;
using RootCall.Core.Formats.Gltf;
using RootCall.Core.Formats.Wavefront;

namespace RootCall.Core.Audit;

/// <summary>What a format cannot say, told before an edit is offered; the writers refuse the same things.</summary>
internal static class FormatLimits
{
    /// <summary>Null when the scene's format can write the edit.</summary>
    public static string? WhyNot(AuditScene scene, Edit edit)
    {
        if (edit is not LookEdit look) return null;
        if (SceneFormats.For(scene.Scene.Path)?.ReadOnlyBecause is { } readOnly) return $"{readOnly}.";
        return scene.Scene.Format.Id switch
        {
            "gltf" or "glb" => Gltf(scene, look),
            "obj" => Wavefront(look),
            "dae" => Collada(scene, look),
            "mtlx" => look is Rename { Kind: not "material" } or CopyMaterial ? "MaterialX names geometry that lies elsewhere." : null,
            _ => look switch
            {
                Rename => "A name in USD is part of every path that leads through it; it is changed where the layers are made.",
                CopyMaterial => "A material of USD may be spread over layers; it is copied where the layers are made.",
                _ => null,
            },
        };
    }

    private static string? Gltf(AuditScene scene, LookEdit look)
    {
        GltfInput? Input(string material, string name) => GltfInputs.Of(scene.Everything.FirstOrDefault(m => m.Name == material)?.Type ?? string.Empty).FirstOrDefault(i => i.Name == name);
        return look switch
        {
            SetValue { Input: "alphaMode" or "doubleSided" } => null,
            SetValue value when Input(value.Material, value.Input)?.Factor is null => $"glTF has no value for {value.Input}, only a texture.",
            SetImage { To: not null } image when Input(image.Material, image.Input)?.Texture is null => $"glTF has no texture for {image.Input}.",
            SetImage { To: { } to, From: var from } when to.Bias.Length > 0 || (to.Channels != from?.Channels && from is not null) => "glTF fixes which channels an input reads, and reads them as they are.",
            RemoveMaterial => "glTF numbers its materials; taking one out would renumber the others.",
            _ => null,
        };
    }

    private static string? Wavefront(LookEdit look) => look switch
    {
        SetValue value when !MtlMaterials.Values.ContainsKey(value.Input) => $"MTL has no statement for the value of {value.Input}.",
        SetImage { To: not null } image when !MtlMaterials.StatementsOf(image.Input).Any() => $"MTL has no map for {image.Input}.",
        AssignMaterial => "An OBJ assigns materials face by face.",
        Rename { Kind: not "material" } => "Only materials of an OBJ are renamed.",
        CopyMaterial => "An OBJ assigns materials face by face, so a copy could not be assigned.",
        _ => null,
    };

    private static string? Collada(AuditScene scene, LookEdit look)
    {
        bool Has(string material, string input) => scene.Everything.FirstOrDefault(m => m.Name == material)?.Input(input) is not null;
        return look switch
        {
            SetValue value when !ColladaMaterials.IsInput(value.Input) || value.Input == "bump" => $"The common profile of COLLADA has no value {value.Input}.",
            SetImage { To: not null } image when !ColladaMaterials.IsInput(image.Input) || (image.Input == "bump" && !Has(image.Material, "bump")) => $"The common profile of COLLADA has no input {image.Input}.",
            SetImage { To: { } to, From: { } from } when to.Channels != from.Channels || to.WrapU != from.WrapU || to.WrapV != from.WrapV => "The common profile of COLLADA picks no channels, and its samplers are shared.",
            Rename or CopyMaterial or RemoveMaterial => "Names and materials of a COLLADA document are left as they are.",
            _ => null,
        };
    }
}
