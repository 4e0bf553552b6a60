using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class HeightTwice : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.height-twice", "One height as bump and as displacement", Severity.Warning)
        {
            Expects = "A height is either a bump or a displacement.",
            Why = "The relief is there twice: once in the surface and once in its shading.",
            Source = "Common practice.",
            Evidence = "One file feeds displacement and bump. Silent about two files.",
            Fix = "Disconnects the bump.",
            Example = Example.Mtl(
                """
                newmtl bark
                Kd 0.8 0.8 0.8
                map_Bump textures/bark_height.png
                disp textures/bark_height.png
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (material.Role(Role.Displacement)?.Maps is not [var moved, ..])
            yield break;
        foreach (var bump in material.Maps.Where(m => m.Input.Role is Role.Bump or Role.Normal && m.Use.Reference == moved.Use.Reference))
            yield return Found(
                    bump.Input,
                    $"{bump.FileText} displaces {material.Name} and bumps it too.",
                    "height is there twice",
                    "heights are there twice"
                )
                .With(new PictureEvidence(bump.Use.Reference))
                .Fix($"Disconnect it from {bump.Input.Name}", 0.8, bump.Disconnect());
    }
}
