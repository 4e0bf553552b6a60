using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class ModelNotEvaluated : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.model", "A shading model that the destination does not evaluate", Severity.Warning)
        {
            Expects = "The destination evaluates the model that a material is made with.",
            Why = "It is converted on arrival by somebody else's rules, unmeasured.",
            Source = "The destination.",
            Evidence = "The model of the surface shader. Silent about shaders of no known model and destinations that list no models.",
            Example = Example.Mtl(
                """
                newmtl pot
                Kd 0.8 0.4 0.3
                """
            ) with
            {
                For = "gltf-viewer",
            },
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (scene.Destination.Models.IsEmpty || material.Model is not { } model || scene.Destination.Models.Contains(model.Id))
            yield break;
        var takes = string.Join(" or ", scene.Destination.Models.Select(m => ShadingModels.Find(m)?.Name ?? m));
        yield return Found(
                material,
                $"{material.Name} is made with {model.Name}; {scene.Destination.Name} evaluates {takes}.",
                $"material is made with {model.Name}, which the destination does not evaluate",
                $"materials are made with {model.Name}, which the destination does not evaluate",
                model.Id
            )
            .Decide($"Cross it to {takes}.");
    }
}
