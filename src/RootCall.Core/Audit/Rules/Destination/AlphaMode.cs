using RootCall.Core.Edits;
using RootCall.Core.Scenes;

namespace RootCall.Core.Audit.Rules;

public sealed class AlphaMode : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.alpha-mode", "An alpha mode that the destination does not have", Severity.Warning)
        {
            Expects = "The destination draws the material's alpha mode.",
            Why = "Glass is drawn solid, or not at all.",
            Source = "The destination; glTF 2.0, 3.9.4.",
            Evidence =
                "The mode that the file writes beside the modes that the destination lists. Silent about destinations "
                + "that list none, and outside glTF.",
            Fix = "Sets the nearest mode that it has.",
            Example = Example.Gltf(
                """{ "name": "glass", "alphaMode": "BLEND", "pbrMetallicRoughness": { "baseColorFactor": [1, 1, 1, 0.4] } }"""
            ) with
            {
                For = "lantern-headset",
            },
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (scene.Destination.AlphaModes.IsEmpty || !material.IsGltf)
            yield break;
        var mode = material.Text("alphaMode") switch
        {
            "BLEND" => "blend",
            "MASK" => "cut-out",
            _ => "opaque",
        };
        if (scene.Destination.AlphaModes.Contains(mode))
            yield break;
        var (word, to) = mode == "blend" && scene.Destination.AlphaModes.Contains("cut-out") ? ("cut-out", "MASK") : ("opaque", "OPAQUE");
        var finding = Found(
                material,
                $"{material.Name} is {Word(mode)}; {scene.Destination.Name} has {string.Join(" and ", scene.Destination.AlphaModes)}.",
                $"material is {Word(mode)}, which the destination does not draw",
                $"materials are {Word(mode)}, which the destination does not draw",
                mode
            )
            .With(new ValueEvidence("alphaMode", material.Text("alphaMode")!, to));
        yield return finding.Fix(
            $"Make it {word}",
            0.6,
            new SetValue(material.Name, "alphaMode", material.Input("alphaMode")!.Input.Value, ShaderValue.OfText(to))
        );
    }

    private static string Word(string mode) =>
        mode switch
        {
            "blend" => "blended",
            "cut-out" => "cut out",
            _ => mode,
        };
}
