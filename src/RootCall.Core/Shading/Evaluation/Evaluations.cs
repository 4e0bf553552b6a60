namespace RootCall.Core.Shading.Evaluation;

/// <summary>Which models are evaluated, by their id.</summary>
public static class Evaluations
{
    /// <summary>Null for a model whose look is not worked out here: closures put together by hand.</summary>
    public static IShadingModel? Of(ShadingModel model, Slots slots) =>
        model.Id switch
        {
            "gltf-metallic-roughness" => new GltfMetallicRoughness(slots),
            "gltf-specular-glossiness" => new GltfSpecularGlossiness(slots),
            "usd-preview-surface" => new UsdPreviewSurface(slots),
            "open-pbr" => new OpenPbr(slots),
            "standard-surface" => new StandardSurface(slots),
            "principled" => new Principled(slots),
            "materialx-gltf-pbr" => new MaterialXGltfPbr(slots),
            "materialx-unlit" => new MaterialXUnlit(slots),
            "mtl-phong" => new MtlPhong(slots),
            "mtl-pbr" => new MtlPbr(slots),
            "collada-common" => new ColladaCommon(slots),
            "fbx-phong" => new FbxPhong(slots),
            _ => null,
        };
}
