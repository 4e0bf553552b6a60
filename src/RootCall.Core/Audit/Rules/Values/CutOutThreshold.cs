using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class CutOutThreshold : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.cut-out-threshold", "A cut-out without a useful threshold", Severity.Warning)
        {
            Expects = "A cut-out has a threshold between 0 and 1.",
            Why = "At 0 nothing is cut, above 1 everything is; in UsdPreviewSurface 0 means that it is blended.",
            Source = "glTF 2.0, 3.9.4 “alphaCutoff” (0.5 by default); UsdPreviewSurface Proposal 2.6, “opacityThreshold”.",
            Evidence =
                "In glTF the mode says that it is a cut-out, and the threshold cuts nothing or all. In USD a threshold above 1 "
                + "cuts all; where nearly all opacity values are 0 or 1 and no threshold is set it is blended, which may be meant: a note.",
            Fix = "Sets 0.5.",
            Example = Example.Gltf(
                """
                {
                  "name": "leaf",
                  "alphaMode": "MASK",
                  "doubleSided": true,
                  "alphaCutoff": 0,
                  "pbrMetallicRoughness": { "baseColorTexture": { "index": "textures/leaf_basecolor.png#cutout" } }
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        var (name, now) = material.IsGltf
            ? ("alphaCutoff", material.Input("alphaCutoff"))
            : ("opacityThreshold", material.Input("opacityThreshold"));
        var value = now?.Number ?? (material.IsGltf ? 0.5 : 0);
        var wrong = material.IsGltf
            ? material.Text("alphaMode") == "MASK" && value is <= 0 or > 1
            : material.IsPreview
                && now?.IsConnected != true
                && material.Role(Role.Opacity)?.Maps is [var map, ..]
                && (value > 1 || (value == 0 && map.Stats is { IsTwoValued: true }));
        if (!wrong)
            yield break;
        var sure = material.IsGltf || value > 1;
        yield return Found(
                material,
                Invariant($"{name} of {material.Name} is {value:0.###}."),
                "cut-out has no useful threshold",
                "cut-outs have no useful threshold"
            )
            // Blended leaves are slow and badly sorted, and not wrong: so may they have been meant.
            .At(sure ? Severity.Warning : Severity.Note)
            .With(new NumberEvidence(name, value, string.Empty, 0.01, 1), new ValueEvidence(name, Invariant($"{value:0.###}"), "0.5"))
            .Fix($"Set {name} to 0.5", sure ? 0.9 : 0.7, new SetValue(material.Name, name, now?.Input.Value, ShaderValue.Of(0.5)));
    }
}
