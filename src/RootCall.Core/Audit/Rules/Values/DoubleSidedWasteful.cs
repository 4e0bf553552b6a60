using RootCall.Core.Edits;
using RootCall.Core.Scenes;

namespace RootCall.Core.Audit.Rules;

public sealed class DoubleSidedWasteful : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.double-sided-wasteful", "Double-sided although it is a volume", Severity.Note)
        {
            Expects = "A material with a volume is one-sided: its mesh is closed.",
            Why = "Inner faces are shaded and never seen as they should be.",
            Source = "KHR_materials_volume: the mesh must be closed; doubleSided with a thickness has no meaning.",
            Evidence = "The material has a thickness, so its mesh is meant to be closed. Silent about materials without one.",
            Fix = "Takes doubleSided back.",
            Example = Example.Gltf(
                """
                {
                  "name": "jar",
                  "doubleSided": true,
                  "extensions": {
                    "KHR_materials_transmission": { "transmissionFactor": 1 },
                    "KHR_materials_volume": { "thicknessFactor": 0.02 }
                  }
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (
            !material.IsGltf
            || material.Text("doubleSided") != "true"
            || material.Input("thickness") is not { } thickness
            || (thickness.Number is not > 0 && !thickness.IsConnected)
        )
            yield break;
        yield return Found(material, $"{material.Name} is a volume and double-sided.", "volume is double-sided", "volumes are double-sided")
            .With(new ValueEvidence("doubleSided", "true", "false"))
            .Fix(
                "Make it one-sided",
                0.85,
                new SetValue(material.Name, "doubleSided", material.Input("doubleSided")!.Input.Value, ShaderValue.OfText("false"))
            );
    }
}
