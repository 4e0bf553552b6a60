using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class TooManyTriangles : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.triangles", "More triangles than the destination draws", Severity.Blocker)
        {
            Expects = "The scene, each mesh as often as it is placed, stays below the destination's budget.",
            Why = "Frames are dropped, or the scene is refused.",
            Source = "The destination.",
            Evidence = "Counted in the file, each mesh as often as it is placed. Silent about meshes that could not be measured.",
            Example = Example.Gltf("""{ "name": "pot" }""") with { For = "tiny", Meshes = [new("pot", "pot") { Triangles = 400 }] },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        var placed = scene
            .Scene.Nodes.Where(n => n.Mesh >= 0 && n.Mesh < scene.Scene.Meshes.Length)
            .Sum(n => scene.Scene.Meshes[n.Mesh].Triangles * n.Copies);
        if (placed == 0)
            placed = scene.Scene.Meshes.Sum(m => m.Triangles);
        var blocks = placed > scene.Destination.MostTriangles;
        if (!blocks && !(placed > scene.Destination.WarnTriangles))
            yield break;
        var largest = scene.Scene.Meshes.MaxBy(m => m.Triangles)!;
        var finding = Found(
                new Target("scene", Path.GetFileName(scene.Scene.Path)),
                Invariant($"The scene has {placed:N0} triangles; {scene.Destination.Name} ")
                    + $"{(blocks ? $"draws {scene.Destination.MostTriangles:N0}" : $"warns from {scene.Destination.WarnTriangles:N0}")}.",
                "scene has more triangles than the destination draws",
                "scenes have more triangles than the destination draws",
                blocks ? null : "warn"
            )
            .With(
                new NumberEvidence(
                    "triangles",
                    placed,
                    "triangles",
                    null,
                    scene.Destination.MostTriangles ?? scene.Destination.WarnTriangles
                ),
                new TextEvidence(Invariant($"Largest mesh: {largest.Name} with {largest.Triangles:N0}."))
            )
            .Decide("Reduce the largest meshes where they were made.");
        yield return blocks ? finding : finding.At(Severity.Warning);
    }
}
