using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class FileTooLarge : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.bytes", "More bytes than the destination takes", Severity.Blocker)
        {
            Expects = "Each file, and all of them together, fit the destination.",
            Why = "The upload is refused at the very end.",
            Source = "The destination.",
            Evidence = "Sizes of the files that answered. Silent about files that did not come: their size is not known.",
            Example = Example.Gltf("""{ "name": "pot", "normalTexture": { "index": "textures/pot_normal.png" } }""") with { For = "tiny" },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        var files = scene
            .Report.References.Where(r => r.Stamp is not null)
            .Select(r => (Name: Path.GetFileName(r.Resolved ?? r.Reference.Written), r.Stamp!.Value.Bytes))
            .Concat(scene.Scene.Files.Select(f => (Name: Path.GetFileName(f.Path), f.Bytes)))
            .Distinct()
            .ToList();
        if (scene.Destination.FileBytes is { } most)
            foreach (var (name, bytes) in files.Where(f => f.Bytes > most))
                yield return Found(
                        new Target("reference", name),
                        Invariant($"{name} has {bytes:N0} bytes; {scene.Destination.Name} takes {most:N0}."),
                        "file is larger than the destination takes",
                        "files are larger than the destination takes",
                        "file"
                    )
                    .With(new NumberEvidence("bytes", bytes, "B", null, most))
                    .Decide("Switch to a smaller size, or send it in another format.");
        var sum = files.Sum(f => f.Bytes);
        if (scene.Destination.PackageBytes is { } whole && sum > whole)
            yield return Found(
                    new Target("scene", Path.GetFileName(scene.Scene.Path)),
                    Invariant($"The scene with its files has {sum:N0} bytes; {scene.Destination.Name} takes {whole:N0}."),
                    "scene is larger than the destination takes",
                    "scenes are larger than the destination takes",
                    "scene"
                )
                .With(new NumberEvidence("bytes in all", sum, "B", null, whole))
                .Decide("Send-off shows what each saving is worth.");
    }
}
