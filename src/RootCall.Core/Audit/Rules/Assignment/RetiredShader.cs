using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class RetiredShader : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.retired-shader", "A shader type that was superseded or retired", Severity.Warning)
        {
            Expects = "Shader types are still maintained by who provides them.",
            Why = "A retired plug-in stops loading with the next version of the program that hosts it.",
            Source = "The registry of shader types (data; house rules add to it).",
            Evidence =
                "The registry of shader types says that it is superseded or retired. Silent about types that the "
                + "registry or a model knows otherwise.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "lanternworks_wax"
                    token outputs:surface
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (
            material.Model is not null
            || ShaderTypes.Find(material.Type, scene.House.ShaderTypes) is not { Status: "superseded" or "retired" } known
        )
            yield break;
        var crossing = known.Model is { } model ? $" It can be carried over as {ShadingModels.Find(model)?.Name ?? model}." : string.Empty;
        yield return Found(
                material,
                $"{material.Name} is made with {material.Type}, which {known.Provider} has {known.Status}.",
                $"material is made with a {known.Status} shader, {material.Type}",
                $"materials are made with a {known.Status} shader, {material.Type}",
                material.Type
            )
            .With(new TextEvidence($"Provider: {known.Provider}. Status: {known.Status}."))
            .Decide(known.Advice + crossing);
    }
}
