using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class NormalWithoutNode : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.normal-without-node", "A normal map without a normal-map node", Severity.Blocker)
        {
            Expects = "A tangent-space normal map passes a normal-map node on its way to the normal.",
            Why = "Stored values from 0 to 1 are taken for directions: the whole surface leans to one side.",
            Source = "MaterialX 1.38, standard nodes, “normalmap”.",
            Evidence =
                "No normal-map node lies on the way from the image to the normal. The fix is sure where name and values "
                + "say that it is a normal map. Silent in models that unpack it themselves.",
            Fix = "Connects the image through a normal-map node.",
            Example = Example.Mtlx(
                """
                <image name="bumps" type="vector3"><input name="file" type="filename" value="textures/tin_normal.png"/></image>
                <standard_surface name="SR_tin" type="surfaceshader">
                  <input name="normal" type="vector3" nodename="bumps"/>
                </standard_surface>
                <surfacematerial name="tin" type="material">
                  <input name="surfaceshader" type="surfaceshader" nodename="SR_tin"/>
                </surfacematerial>
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        // UsdPreviewSurface takes tangent-space normals itself; fixed-function formats imply the node.
        if (
            !map.Input.Role.IsNormal()
            || map.Material.IsPreview
            || !scene.IsFormat("mtlx", "usda", "usdc", "usdz")
            || map.PassesNormalMap
            || map.Through.Any(t => t.Contains("bump", StringComparison.OrdinalIgnoreCase))
        )
            yield break;
        if (map.Role is Role.Displacement or Role.Bump && map.Pixels?.LooksLikeNormals != true)
            yield break; // wiring.height-as-normal
        var fits = map.Role == Role.Normal && map.Pixels?.LooksLikeNormals == true;
        ImmutableArray<Edit> edits = scene.IsFormat("mtlx") ? [new SetImage(map.Material.Name, map.Input.Name, null, map.Use)] : [];
        yield return Found(
                map.Input,
                $"{map.FileText} is wired straight to {map.Input.Name} of {map.Material.Name}.",
                "normal map has no normal-map node",
                "normal maps have no normal-map node"
            )
            .With(new WireEvidence(map.Use.Reference, map.Channel, map.Input.Name, map.Input.Name))
            .Fix("Put a normal-map node in between", fits ? 0.95 : 0.6, edits);
    }
}
