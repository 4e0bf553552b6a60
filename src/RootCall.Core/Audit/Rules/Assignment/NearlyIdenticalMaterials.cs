namespace RootCall.Core.Audit.Rules;

public sealed class NearlyIdenticalMaterials : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("assignment.nearly-identical-materials", "Materials that differ in one value", Severity.Note)
        {
            Expects = "Materials of one look that differ in one value differ on purpose.",
            Why = "A value that was changed in one copy and not in the other is a look that drifted.",
            Source = "Common practice.",
            Evidence = "All inputs but one are the same. Silent where an image did not come: what is not known may differ.",
            Example = Example.Gltf(
                """
                { "name": "brass_a", "pbrMetallicRoughness": { "baseColorFactor": [0.8, 0.6, 0.2, 1], "roughnessFactor": 0.3 } },
                { "name": "brass_b", "pbrMetallicRoughness": { "baseColorFactor": [0.8, 0.6, 0.2, 1], "roughnessFactor": 0.32 } }
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        // Candidates share everything but one input: a bucket for each material with that input left out.
        var buckets = new Dictionary<(string Type, string Left, UInt128 Others), List<MaterialView>>();
        foreach (
            var material in scene.Materials.Where(m => m.IsWhole && m.Inputs.Count(i => i.Input.Value is not null || i.IsConnected) >= 2)
        )
        {
            // A sum of hashes stands for all inputs in any order, and one taken off for all but that.
            var each = material.Print.Inputs;
            var whole = each.Aggregate(UInt128.Zero, (sum, hash) => unchecked(sum + hash));
            foreach (var (input, at) in material.Inputs.Select((i, at) => (i, at)).Where(i => !i.i.IsConnected))
            {
                var rest = unchecked(whole - each[at]);
                var key = (material.Type, input.Name, rest);
                if (buckets.TryGetValue(key, out var bucket))
                    bucket.Add(material);
                else
                    buckets[key] = [material];
            }
        }

        var told = new HashSet<(MaterialView, MaterialView)>();
        foreach (var ((_, name, _), same) in buckets.Where(b => b.Value.Count > 1).OrderBy(b => b.Value[0].Name, StringComparer.Ordinal))
        {
            var first = same[0];
            foreach (var other in same.Skip(1))
            {
                var (a, b) = (first.Input(name)!.Numbers, other.Input(name)!.Numbers);
                if (a.SequenceEqual(b) || !told.Add((first, other)))
                    continue;
                yield return Found(
                        other,
                        $"{other.Name} is {first.Name} but for {name}: {Show(b)} beside {Show(a)}.",
                        "material differs from another in one value",
                        "materials differ from others in one value"
                    )
                    .With(new PairEvidence("material", first.Name, other.Name, $"{name}: {Show(a)} and {Show(b)}"))
                    .Decide("Look at both side by side; if one was meant, give both its value, and they become identical.");
            }
        }
    }

    private static string Show(IEnumerable<double> numbers) =>
        string.Join(" ", numbers.Select(n => n.ToString("0.###", System.Globalization.CultureInfo.InvariantCulture)));
}
