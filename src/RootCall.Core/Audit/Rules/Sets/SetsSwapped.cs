using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Muster;

namespace RootCall.Core.Audit.Rules;

public sealed class SetsSwapped : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("sets.sets-swapped", "Two materials that read each other's maps", Severity.Warning)
        {
            Expects = "A material reads the set that bears its name.",
            Why = "The leaf is made of brass and the gate of leaves; each map by itself is right.",
            Source = "Common practice.",
            Evidence =
                "Both materials read maps of one set each, and each set bears the other material's name. Two maps of each make a warning, "
                + "one a note that asks. Silent where the names differ in numbers alone, and where a set bears its own material's name.",
            Fix = "Exchanges the maps, input by input, when both materials read the same inputs.",
            Example = Example.Mtl(
                """
                newmtl leaf
                map_Kd textures/brass_basecolor.png
                norm textures/brass_normal.png
                newmtl brass
                map_Kd textures/leaf_basecolor.png
                norm textures/leaf_normal.png
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        var named = new Dictionary<string, Dressed?>(StringComparer.Ordinal);
        var dressed = new List<Dressed>();
        foreach (var material in scene.Materials)
            if (ThingName.Of(material.Material.Name, scene.Names) is { } thing && SetOf(material) is { } set)
            {
                dressed.Add(new(material, thing, set));
                // Of two materials of one name neither can be told from the other.
                foreach (var spelling in ThingName.Spellings(thing))
                    named[spelling.Thing] = named.ContainsKey(spelling.Thing) ? null : dressed[^1];
            }

        foreach (var one in dressed)
            if (
                named.GetValueOrDefault(one.Set.Thing) is { } other
                && string.CompareOrdinal(one.Material.Name, other.Material.Name) < 0
                && ThingName.IsSame(one.Thing, other.Set)
                && ThingName.IsSame(other.Thing, one.Set)
                && !DifferInNumbers(one.Thing.Thing, other.Thing.Thing)
            )
                yield return Told(one, other);
    }

    private Finding Told(Dressed one, Dressed other)
    {
        var (a, b) = (one.Material, other.Material);
        var finding = Found(
                a,
                $"{a.Name} reads the maps of {one.Set.Thing}, and {b.Name} those of {other.Set.Thing}.",
                "pair of materials reads each other's maps",
                "pairs of materials read each other's maps"
            )
            .With(new PairEvidence("material", a.Name, b.Name, "the set that each reads"))
            .With([.. a.Maps.Concat(b.Maps).Take(4).Select(m => new PictureEvidence(m.Use.Reference))])
            .At(Math.Min(a.Maps.Length, b.Maps.Length) > 1 ? Severity.Warning : Severity.Note);
        var edits = ImmutableArray.CreateBuilder<Edit>();
        foreach (var map in a.Maps)
            if (b.Maps.FirstOrDefault(m => m.Input.Name == map.Input.Name) is { } there)
            {
                edits.Add(map.Read(u => u with { Reference = there.Use.Reference }));
                edits.Add(there.Read(u => u with { Reference = map.Use.Reference }));
            }

        return edits.Count == a.Maps.Length + b.Maps.Length
            ? finding.Fix("Exchange their maps", 0.8, edits.ToImmutable())
            : finding.Decide("They read different inputs: assign the one where the other is worn, or wire them by hand.");
    }

    /// <summary>The name of a map whose set all maps of a material are of; null for several sets, and for none.</summary>
    private static FileName? SetOf(MaterialView material) =>
        material.Maps.Select(m => m.Name).FirstOrDefault(n => n.Thing.Length > 0 && material.Maps.All(m => m.Name.IsOf(n.Thing)));

    private static bool DifferInNumbers(string a, string b) => a.Where(char.IsLetter).SequenceEqual(b.Where(char.IsLetter));

    private sealed record Dressed(MaterialView Material, FileName Thing, FileName Set);
}
