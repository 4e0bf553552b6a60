using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class AlphaTwice : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.alpha-twice", "Alpha multiplied twice", Severity.Warning)
        {
            Expects = "An alpha reaches the opacity on one way.",
            Why = "Half transparent becomes a quarter; edges shrink and darken.",
            Source = "Common practice; Porter and Duff, “Compositing Digital Images” (1984): alpha multiplies once.",
            Evidence = "The same image reaches the opacity on two ways, followed through the graph. Silent about two images.",
            Fix = "Takes out the second statement in MTL; elsewhere the artist decides.",
            Example = Example.Mtl(
                """
                newmtl leaf
                Kd 0.8 0.8 0.8
                map_d textures/leaf_opacity.png
                map_Tr textures/leaf_opacity.png
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        foreach (
            var twice in material.Maps.Where(m =>
                IsAlpha(m) && m.Times > 1 && m.Through.Any(t => t.Contains("multiply", StringComparison.Ordinal))
            )
        )
            yield return Tell(twice).Decide("Take one of the two ways out where the material was made.");
        var opacities = material.Maps.Where(IsAlpha).ToList();
        foreach (
            var (first, second) in opacities
                .SelectMany((a, i) => opacities.Skip(i + 1).Select(b => (a, b)))
                .Where(p => p.a.Input.Name != p.b.Input.Name && p.a.Use.Reference == p.b.Use.Reference)
        )
            yield return Tell(second).Fix($"Disconnect it from {second.Input.Name}; {first.Input.Name} keeps it", 0.9, second.Disconnect());
    }

    private static bool IsAlpha(MapView map) => map.Input.Role is Role.Opacity or Role.Transparency;

    private Finding Tell(MapView map) =>
        Found(
                map.Input,
                $"The opacity of {map.Material.Name} is multiplied by {map.FileText} twice.",
                "material multiplies its alpha twice",
                "materials multiply their alpha twice"
            )
            .With(new PictureEvidence(map.Use.Reference, map.Channel));
}
