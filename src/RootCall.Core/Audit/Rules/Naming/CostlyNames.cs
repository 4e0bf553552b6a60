using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class CostlyNames : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("naming.costly", "Names that cost bytes", Severity.Note)
        {
            Expects = "Where a destination counts every byte, names are short.",
            Why = "Names are stored as they are; a thousand long ones are a texture.",
            Source = "The destination.",
            Evidence = "The average length of all names. Silent unless the destination counts bytes.",
            Thresholds = [new("bytes", 32, "B", "Average length of a name.")],
            Example = Example.Gltf("""{ "name": "glasshouse_corner_left_big_tin_leaf_material" }""") with
            {
                For = "lantern-headset",
                Meshes = [new("glasshouse_corner_left_big_tin_leaf_mesh", "glasshouse_corner_left_big_tin_leaf_material")],
            },
        };

    public override bool AsksDestination => true;

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        if (!scene.Destination.Names.CountsBytes)
            yield break;
        var lengths = scene
            .Scene.Materials.Select(m => m.Name)
            .Concat(scene.Scene.Meshes.Select(m => m.Name))
            .Concat(scene.Scene.Nodes.Select(n => n.Name))
            .Select(n => System.Text.Encoding.UTF8.GetByteCount(n))
            .ToList();
        if (lengths.Count == 0 || lengths.Average() <= Limit(scene, "bytes"))
            yield break;
        yield return Found(
                new Target("scene", Path.GetFileName(scene.Scene.Path)),
                Invariant($"{lengths.Count} names take {lengths.Sum()} bytes, {lengths.Average():0} on average."),
                "set of names costs bytes",
                "sets of names cost bytes"
            )
            .With(new NumberEvidence("average length of a name", Math.Round(lengths.Average(), 1), "B", 0, Limit(scene, "bytes")))
            .Decide("Shorten them where they were made.");
    }
}
