using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class NoMaterial : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.no-material", "A mesh without a material", Severity.Warning)
        {
            Expects = "Every mesh has a material.",
            Why = "What a renderer shows instead is its own choice: grey, white, or nothing at all.",
            Source = "glTF 2.0, 3.9.6 “Default Material”; UsdShade, “Material Binding”: the fallback is up to the renderer.",
            Evidence =
                "A scene without any material is told once, as a note. Meshes without points, and formats that know no "
                + "materials, are left alone.",
            Fix = "Assigns the scene's only material; with several, the artist decides.",
            Example = Example.Gltf("""{ "name": "tin" }""") with { Meshes = [new("lid", "tin"), new("handle", string.Empty)] },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        if (scene.IsFormat("stl", "ply"))
            yield break; // Formats that know no materials.
        // What has no points shows nothing, with a material or without.
        var without = scene.Scene.Meshes.Where(m => m.Vertices > 0 && m.Parts.All(p => p.Material.Length == 0)).ToList();
        // Geometry alone is delivered on purpose; that is told once.
        if (scene.Everything.IsEmpty && without.Count == scene.Scene.Meshes.Count(m => m.Vertices > 0) && without.Count > 0)
        {
            yield return Found(
                    new Target("scene", Path.GetFileName(scene.Scene.Path)),
                    Invariant($"The scene has {without.Count:N0} meshes and no material."),
                    "scene has no material at all",
                    "scenes have no material at all",
                    "scene"
                )
                .At(Severity.Note)
                .Decide("Give it materials where it was made, or take it as geometry alone.");
            yield break;
        }

        foreach (var mesh in without)
        {
            var finding = Found(
                new Target("mesh", mesh.Name),
                $"{mesh.Name} has no material.",
                "mesh has no material",
                "meshes have no material"
            );
            yield return scene.Materials is [var only]
                ? finding.Fix($"Assign {only.Name}", 0.7, new Edits.AssignMaterial(mesh.Id, string.Empty, string.Empty, only.Name))
                : finding.Decide("Choose a material for it.");
        }
    }
}
