using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class EnvironmentMissing : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.environment-missing", "An environment light without its map", Severity.Warning)
        {
            Expects = "An environment light has an image that answers.",
            Why = "The scene is lit by one even colour, or not at all.",
            Source = "UsdLux, DomeLight, texture:file.",
            Evidence =
                "A light from all sides calls no image at all. Silent about one whose image merely did not come: Muster "
                + "tells of that.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    token outputs:surface
                }
                def DomeLight "dusk" {
                    float inputs:intensity = 1
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        foreach (var light in scene.Scene.Lights.Where(l => l.Type.Contains("Dome", StringComparison.OrdinalIgnoreCase)))
            if (!scene.Images.Any(r => Muster.MapRole.Of(r.Reference, scene.Names) == Role.Environment))
                yield return Found(
                        new Target("node", light.Name),
                        $"{light.Name} lights the scene from all sides and has no image.",
                        "environment light has no image",
                        "environment lights have no image"
                    )
                    .Decide("Bring the environment map in.");
    }
}
