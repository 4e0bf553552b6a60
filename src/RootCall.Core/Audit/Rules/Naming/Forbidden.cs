using RootCall.Core.Edits;

namespace RootCall.Core.Audit.Rules;

public sealed class Forbidden : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("naming.forbidden", "Names that the destination forbids", Severity.Warning)
        {
            Expects = "No name has a character that the destination refuses, or is longer than it takes.",
            Why = "It is cut or changed on arrival, and what called it by name finds nothing.",
            Source = "The destination.",
            Evidence =
                "The name holds a character that the destination refuses, or is too long for it. Silent about "
                + "destinations without such limits.",
            Fix = "Puts an underscore in place of each forbidden character, and cuts what is too long.",
            Example = Example.Gltf("""{ "name": "tin leaf" }""") with { For = "lantern-headset" },
        };

    public override bool AsksDestination => true;

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        var limits = scene.Destination.Names;
        if (limits.Forbidden.Length == 0 && limits.MostBytes is null)
            yield break;
        var things = scene
            .Materials.Select(m => (Kind: "material", m.Material.Name, m.Material.Id))
            .Concat(scene.Scene.Meshes.Select(m => (Kind: "mesh", m.Name, m.Id)));
        var taken = things.Select(t => (t.Kind, t.Name)).ToHashSet();
        foreach (var (kind, name, id) in things)
        {
            var bytes = System.Text.Encoding.UTF8.GetByteCount(name);
            if (!name.Any(limits.Forbidden.Contains) && (limits.MostBytes is null || bytes <= limits.MostBytes))
                continue;
            var allowed = string.Concat(name.Select(c => limits.Forbidden.Contains(c) ? '_' : c));
            while (limits.MostBytes is { } most && System.Text.Encoding.UTF8.GetByteCount(allowed) > most)
                allowed = allowed[..^1];
            var stem = allowed;
            for (var n = 2; !taken.Add((kind, allowed)); n++)
                allowed = $"{stem[..Math.Min(stem.Length, (limits.MostBytes ?? int.MaxValue) - 3)]}_{n}";
            yield return Found(
                    new Target(kind, name),
                    $"{scene.Destination.Name} refuses the {kind} name "
                        + $"{name}{(bytes > limits.MostBytes ? $" ({bytes} bytes; {limits.MostBytes} are allowed)" : string.Empty)}.",
                    "name is refused by the destination",
                    "names are refused by the destination"
                )
                .With(new ValueEvidence("name", name, allowed))
                .Fix($"Rename it to {allowed}", 0.9, new Rename(kind, id, name, allowed));
        }
    }
}
