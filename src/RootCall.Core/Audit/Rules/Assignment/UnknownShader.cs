using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class UnknownShader : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.unknown-shader", "A shader type that is not known here", Severity.Blocker)
        {
            Expects = "The surface shader's type is known, or the registry says where it comes from.",
            Why = "A renderer without the library or plug-in shows a flat colour or nothing.",
            Source = "Common practice; the registry of shader types is data (house rules add to it).",
            Evidence =
                "No model and no entry of the registry knows the type; one that the registry knows is a warning. Silent "
                + "about materials without a shader.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "clockwork_skin"
                    token outputs:surface
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (material.Type.Length == 0 || material.Model is not null)
            yield break;
        var known = ShaderTypes.Find(material.Type, scene.House.ShaderTypes);
        if (known is { Status: not "available" })
            yield break; // assignment.retired-shader says it.
        var message = known is null
            ? $"{material.Name} is made with {material.Type}; no library or plug-in is known for it."
            : $"{material.Name} is made with {material.Type} of {known.Provider}.";
        var advice = known?.Advice
            ?? "Ask who sent the scene which library brings it, and put it into the registry; assigning another material is "
                + "the last resort.";
        var crossing = known?.Model is { } model
            ? $" It can be carried over as {ShadingModels.Find(model)?.Name ?? model}."
            : " There is no crossing from it.";
        var finding = Found(
                material,
                message,
                $"material is made with {material.Type}",
                $"materials are made with {material.Type}",
                material.Type
            )
            .With(new TextEvidence($"Provider: {known?.Provider ?? "unknown"}. Status: {known?.Status ?? "unknown"}."))
            .Decide(advice + crossing);
        yield return known is null ? finding : finding.At(Severity.Warning);
    }
}
