using RootCall.Core.Edits;

namespace RootCall.Core.Audit.Rules;

/// <summary>Names of one kind of thing against the house's pattern.</summary>
public abstract class PatternRule(string kind, string plural) : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new($"naming.pattern-{kind}", $"{char.ToUpperInvariant(plural[0])}{plural[1..]} against the house's pattern", Severity.Note)
        {
            Expects = $"Names of {plural} fit the pattern of the house rules.",
            Why = "Scripts and people find things by their names.",
            Source = "The house rules.",
            Evidence = "The name beside the pattern of the house. Silent while the house has no pattern.",
            Fix = "Writes the name in lower case with underscores when that fits the pattern; otherwise the artist decides.",
            Example =
                kind == "texture"
                    ? Example.Gltf("""{ "name": "tin", "normalTexture": { "index": "textures/Tin Normal.png" } }""")
                    : Example.Gltf("""{ "name": "Tin Leaf" }""") with
                    {
                        Meshes = [new("Big Leaf", "Tin Leaf")],
                    },
        };

    protected abstract IEnumerable<(string Name, string Id)> Names(AuditScene scene);

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        if (scene.House.Pattern(kind) is not { } pattern)
            yield break;
        foreach (var (name, id) in Names(scene).Distinct().Where(n => n.Name.Length > 0 && !pattern.IsMatch(n.Name)))
        {
            var tidy = Tidy(name);
            var finding = Found(
                    new Target(kind == "texture" ? "image" : kind, name),
                    $"{name} does not fit {pattern}.",
                    $"{kind} name does not fit the house's pattern",
                    $"{kind} names do not fit the house's pattern"
                )
                .With(new ValueEvidence("name", name, pattern.IsMatch(tidy) ? tidy : null));
            yield return kind != "texture" && tidy != name && pattern.IsMatch(tidy)
                ? finding.Fix($"Rename it to {tidy}", 0.75, new Rename(kind, id, name, tidy))
                : finding.Decide(
                    kind == "texture"
                        ? "Rename the file; Send-off can place it under another name in the package."
                        : "Give it a name that fits."
                );
        }
    }

    private static string Tidy(string name)
    {
        var text = new System.Text.StringBuilder();
        foreach (var c in name)
        {
            if (char.IsLetterOrDigit(c))
            {
                if (char.IsUpper(c) && text.Length > 0 && char.IsLower(name[name.IndexOf(c, StringComparison.Ordinal) - 1]))
                    text.Append('_');
                text.Append(char.ToLowerInvariant(c));
            }
            else if (text.Length > 0 && text[^1] != '_')
                text.Append('_');
        }

        return text.ToString().Trim('_');
    }
}
