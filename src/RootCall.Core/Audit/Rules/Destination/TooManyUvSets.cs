namespace RootCall.Core.Audit.Rules;

public sealed class TooManyUvSets : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.uv-sets", "A UV set that the destination does not carry", Severity.Warning)
        {
            Expects = "Materials read only UV sets that the destination keeps.",
            Why = "What reads the second set is laid out by the first.",
            Source = "The destination.",
            Evidence = "The place of the set among those of the meshes. Silent where no mesh that wears the material was measured.",
            Example = Example.Gltf(
                """{ "name": "pot", "occlusionTexture": { "index": "textures/pot_occlusion.png", "texCoord": 1 } }"""
            ) with
            {
                For = "lantern-headset",
                Meshes = [new("pot", "pot", 2)],
            },
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        if (scene.Destination.UvSets is not { } most)
            yield break;
        foreach (var set in material.Maps.Select(m => m.Use.UvSet).Where(s => s.Length > 0).Distinct())
        {
            var at = material.Users.Select(u => u.Mesh.UvSets.IndexOf(set)).DefaultIfEmpty(-1).Max();
            if (at < most)
                continue;
            yield return Found(
                    material,
                    $"{material.Name} reads UV set {set}, the {(at == 1 ? "second" : $"{at + 1}th")}; "
                        + $"{scene.Destination.Name} keeps {most}.",
                    "material reads a UV set that the destination does not keep",
                    "materials read UV sets that the destination does not keep"
                )
                .With(new NumberEvidence("UV set", at + 1, string.Empty, 1, most))
                .Decide("Bake that map into the first set, or leave it out.");
        }
    }
}
