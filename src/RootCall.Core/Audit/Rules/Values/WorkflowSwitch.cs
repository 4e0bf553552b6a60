using RootCall.Core.Edits;
using RootCall.Core.Scenes;

namespace RootCall.Core.Audit.Rules;

public sealed class WorkflowSwitch : Rule
{
    private const string Switch = "useSpecularWorkflow";

    public override RuleDescriptor Descriptor { get; } =
        new("values.workflow-switch", "A switch that overrides what the material says", Severity.Blocker)
        {
            Expects = "A material that has a metalness is not switched to the specular workflow.",
            Why = "The metalness is ignored: brass becomes plastic, in every instance of the template that holds the switch.",
            Source = "UsdPreviewSurface Proposal 2.6, “useSpecularWorkflow”: metallic is ignored when it is 1.",
            Evidence =
                "The switch is on, the metalness is connected or not 0, and nothing is said of the specular colour that "
                + "is read instead. Silent where that is said.",
            Fix = "Switches it off, at the template when the switch stands there, with the number of materials that reaches.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    int inputs:useSpecularWorkflow = 1
                    float inputs:metallic = 1
                    token outputs:surface
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        var templates = scene.Everything.DistinctBy(m => m.Material.Id).ToDictionary(m => m.Material.Id, StringComparer.Ordinal);
        bool IsOn(MaterialView m) => m.Input(Switch)?.Number == 1;
        bool Ignores(MaterialView m) =>
            IsOn(m)
            && m.Input("metallic") is { } metallic
            && (metallic.IsConnected || metallic.Input.Value is { Numbers: [not 0, ..] })
            && m.Input("specularColor") is not ({ IsConnected: true } or { Input.Value: not null });
        foreach (
            var group in scene
                .Materials.Where(m => m.IsPreview && Ignores(m))
                .GroupBy(m => m.Material.Template is { } t && templates.TryGetValue(t, out var holder) && IsOn(holder) ? holder : null)
        )
        {
            if (group.Key is { } template)
            {
                var reached = scene.Materials.Count(m => m.Material.Template == template.Material.Id);
                var names = string.Join(", ", group.Take(6).Select(m => m.Name));
                yield return Found(
                        template,
                        $"{template.Name} switches the metalness of {group.Count()} materials off: {names}.",
                        "template switch overrides its instances",
                        "template switches override their instances",
                        "template"
                    )
                    .With(
                        new ValueEvidence($"{Switch}, at the template", "1", "0"),
                        new NumberEvidence("materials it reaches", reached, "materials")
                    )
                    .Fix(
                        $"Switch it off at the template; that reaches {reached} materials",
                        0.9,
                        new SetValue(template.Name, Switch, ShaderValue.Of(1), ShaderValue.Of(0))
                    );
            }
            else
            {
                foreach (var material in group)
                    yield return Found(
                            material,
                            $"{Switch} of {material.Name} is 1, so its metalness is ignored.",
                            "material has its metalness switched off",
                            "materials have their metalness switched off"
                        )
                        .With(new ValueEvidence(Switch, "1", "0"))
                        .Fix("Switch it off", 0.9, new SetValue(material.Name, Switch, ShaderValue.Of(1), ShaderValue.Of(0)));
            }
        }
    }
}
