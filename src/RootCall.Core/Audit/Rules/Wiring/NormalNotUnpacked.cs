using System.Collections.Immutable;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class NormalNotUnpacked : MapRule
{
    private static readonly ImmutableArray<double> Two = [2, 2, 2, 1],
        MinusOne = [-1, -1, -1, 0];

    public override RuleDescriptor Descriptor { get; } =
        new("wiring.normal-not-unpacked", "A normal map read without scale 2 and bias -1", Severity.Blocker)
        {
            Expects = "UsdUVTexture reads an integer normal map with scale (2, 2, 2, 1) and bias (-1, -1, -1, 0).",
            Why = "UsdPreviewSurface expects values from -1 to 1; without them the normals all point up and to one side.",
            Source = "UsdPreviewSurface Proposal 2.6, “UsdUVTexture”: scale and bias for 8-bit normal maps.",
            Evidence =
                "The reading node's scale and bias are not those that unpack an integer normal map. Silent about floats, "
                + "and where green is turned while it is unpacked.",
            Fix = "Sets both.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    normal3f inputs:normal.connect = </Looks/tin/map.outputs:rgb>
                    token outputs:surface
                }
                def Shader "map" {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @textures/tin_normal.png@
                    token inputs:sourceColorSpace = "raw"
                    float3 outputs:rgb
                }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (
            !map.Material.IsPreview
            || map.Input.Role != Role.Normal
            || map.Node.Type != "UsdUVTexture"
            || map.Facts?.IsFloat == true
            || (Is(map.Use.Scale, Two) && Is(map.Use.Bias, MinusOne))
            // Unpacked with green turned: right for a map that was made for the other direction.
            || (Is(map.Use.Scale, [2, -2, 2]) && Is(map.Use.Bias, [-1, 1, -1]))
        )
            yield break;
        yield return Found(
                map.Input,
                $"{map.FileText} of {map.Material.Name} is read with scale {Show(map.Use.Scale, "1")} and bias {Show(map.Use.Bias, "0")}.",
                "normal map is read without scale 2 and bias -1",
                "normal maps are read without scale 2 and bias -1"
            )
            .With(
                new ValueEvidence("scale", Show(map.Use.Scale, "1"), "2 2 2 1"),
                new ValueEvidence("bias", Show(map.Use.Bias, "0"), "-1 -1 -1 0")
            )
            .Fix("Set scale to 2 and bias to -1", 0.97, map.Read(u => u with { Scale = Two, Bias = MinusOne }));
    }

    private static bool Is(ImmutableArray<double> a, ImmutableArray<double> b) => a.Length >= 3 && a.Take(3).SequenceEqual(b.Take(3));

    private static string Show(ImmutableArray<double> numbers, string standard) =>
        numbers.IsDefaultOrEmpty ? standard : string.Join(' ', numbers);
}
