using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class MirrorWithoutEnvironment : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("values.mirror-without-environment", "A mirror with nothing to reflect", Severity.Warning)
        {
            Expects = "Where a surface reflects everything there is an environment to be reflected.",
            Why = "It renders black.",
            Source = "Wavefront MTL, “illum” 3 and “refl”; UsdLux, DomeLight; common practice.",
            Evidence =
                "By the formula of the model: in COLLADA the reflective colour times the reflectivity, so that no colour "
                + "is no mirror.",
            Example = Example.Mtl(
                """
                newmtl mirror
                Kd 0 0 0
                Ks 1 1 1
                Ns 900
                illum 3
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (scene.HasEnvironment || material.Users.IsEmpty)
            yield break;
        // Only where the scene could hold an environment; a glTF is lit by its viewer.
        var mirror =
            material.Type.StartsWith("mtl-", StringComparison.Ordinal)
                ? material.Input("illum")?.Number is >= 3 and <= 7
                    && material.Input("Kd")?.Largest is < 0.05
                    && material.Role(Role.Reflection) is null
            : material.Type == "collada-common"
                // What is reflected is the colour times the reflectivity; without a colour there is none.
                ? material.Role(Role.Reflection) is { IsConnected: false, Input.Value: not null, Largest: { } colour }
                    && colour * (material.Input("reflectivity")?.Number ?? 0) >= 0.99
            : scene.IsUsd
                && scene.Scene.Lights.Length > 0
                && material.Number(Role.Metalness) == 1
                && material.Number(Role.Roughness) is < 0.05;
        if (!mirror)
            yield break;
        yield return Found(
                material,
                $"{material.Name} reflects everything, and the scene has no environment.",
                "mirror has nothing to reflect",
                "mirrors have nothing to reflect"
            )
            .Decide("Bring an environment map in, or lower the reflection.");
    }
}
