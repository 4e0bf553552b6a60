using RootCall.Core.Edits;

namespace RootCall.Core.Audit.Rules;

public sealed class DuplicateName : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("naming.duplicate", "Two materials or meshes of one name", Severity.Note)
        {
            Expects = "Names tell things apart.",
            Why = "Programs that bind by name give both the look of the first; where the format binds by another id nothing is wrong yet.",
            Source = "glTF 2.0, 3.5 “Indices and Names”: names are not unique; COLLADA 1.4.1: ids bind, names do not.",
            Evidence = "A note: where the format binds by an id or a place, nothing is wrong yet.",
            Fix = "Puts a number behind the second.",
            Example = Example.Gltf(
                """
                { "name": "tin", "pbrMetallicRoughness": { "roughnessFactor": 0.2 } },
                { "name": "tin", "pbrMetallicRoughness": { "roughnessFactor": 0.7 } }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        if (scene.IsUsd)
            yield break; // There a name is part of a path, and paths are unique.
        foreach (var f in Repeated("material", scene.Scene.Materials.Where(m => !m.IsTemplate).Select(m => (m.Name, m.Id)).ToList()))
            yield return f;
        foreach (var f in Repeated("mesh", scene.Scene.Meshes.Select(m => (m.Name, m.Id)).ToList()))
            yield return f;
    }

    private IEnumerable<Finding> Repeated(string kind, List<(string Name, string Id)> things)
    {
        var taken = things.Select(t => t.Name).ToHashSet(StringComparer.Ordinal);
        foreach (var group in things.Where(t => t.Name.Length > 0).GroupBy(t => t.Name).Where(g => g.Count() > 1))
        foreach (var (name, id) in group.Skip(1))
        {
            var n = 2;
            while (!taken.Add($"{name}_{n}"))
                n++;
            yield return Found(
                    new Target(kind, id),
                    $"{group.Count()} {(kind == "mesh" ? "meshes" : "materials")} are called {name}.",
                    $"{kind} has the name of another",
                    $"{(kind == "mesh" ? "meshes" : "materials")} have the name of another",
                    kind
                )
                .With(new ValueEvidence("name", name, $"{name}_{n}"))
                .Fix($"Rename it to {name}_{n}", 0.8, new Rename(kind, id, name, $"{name}_{n}"));
        }
    }
}
