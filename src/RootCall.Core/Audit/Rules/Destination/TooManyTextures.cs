namespace RootCall.Core.Audit.Rules;

public sealed class TooManyTextures : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.textures-per-material", "More textures than the destination samples", Severity.Warning)
        {
            Expects = "A material reads no more images than the destination has samplers for.",
            Why = "The last ones are dropped, or the material is not compiled.",
            Source = "The destination.",
            Evidence = "Images that reach the inputs, each counted once. Silent about destinations without a limit.",
            Example = Example.Gltf(
                """
                {
                  "name": "pot",
                  "pbrMetallicRoughness": {
                    "baseColorTexture": { "index": "textures/pot_basecolor.png" },
                    "metallicRoughnessTexture": { "index": "textures/pot_metallicroughness.png" }
                  },
                  "normalTexture": { "index": "textures/pot_normal.png" },
                  "occlusionTexture": { "index": "textures/pot_occlusion.png" },
                  "emissiveFactor": [1, 1, 1],
                  "emissiveTexture": { "index": "textures/pot_emissive.png" }
                }
                """
            ) with
            {
                For = "lantern-headset",
            },
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (scene.Destination.TexturesPerMaterial is not { } most)
            yield break;
        var images = material.Maps.Select(m => m.Use.Reference).Distinct().Count();
        if (images <= most)
            yield break;
        yield return Found(
                material,
                $"{material.Name} reads {images} images; {scene.Destination.Name} samples {most}.",
                "material reads more images than the destination samples",
                "materials read more images than the destination samples"
            )
            .With(new NumberEvidence("images", images, "images", 0, most))
            .Decide("Pack maps into the channels of one image, or leave one out.");
    }
}
