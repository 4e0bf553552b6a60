using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using RootCall.Core.Scenes;

namespace RootCall.Core.Audit;

/// <summary>
/// What the last audit of a scene found in each material. States of a scene share what no edit touched, so a material that is the
/// same object, with the same answers and the same meshes, is what it was. Not for several threads that audit at once.
/// </summary>
public sealed class AuditMemory
{
    private ImmutableArray<MaterialView> last = [];
    private ConcurrentDictionary<string, ImmutableArray<Finding>[]> known = new();
    private ConcurrentDictionary<string, ImmutableArray<Finding>[]> now = new();
    private int[] same = [];
    private object? conditions;
    private int ran;

    /// <summary>What came of trying the fixes of findings that are still the same.</summary>
    internal ConditionalWeakTable<Finding, Finding> Tried { get; } = [];

    /// <summary>Looks at materials that a rule was run for in the last audit.</summary>
    public int Ran { get; private set; }

    /// <summary>Another destination, other house rules or other files beside the images make everything new.</summary>
    internal void Begin(AuditScene scene)
    {
        var beside = scene.Report.Beside.IsDefault ? 0 : scene.Report.Beside.Length;
        var under = (scene.Destination, scene.House, beside, scene.HasEnvironment, scene.OtherScales);
        if (!under.Equals(conditions))
            last = [];
        (conditions, now, ran) = (under, new(), 0);
        var places = new Dictionary<Material, int>(last.Length, ReferenceEqualityComparer.Instance);
        for (var i = 0; i < last.Length; i++)
            places[last[i].Material] = i;
        same = [.. scene.Materials.Select(m => places.TryGetValue(m.Material, out var at) && IsAsItWas(m, last[at]) ? at : -1)];
        last = scene.Materials;
    }

    internal void End() => (known, Ran) = (now, ran);

    internal IEnumerable<Finding> Of(MaterialRule rule, AuditScene scene)
    {
        var before = known.GetValueOrDefault(rule.Id);
        var found = now[rule.Id] = new ImmutableArray<Finding>[same.Length];
        for (var i = 0; i < same.Length; i++)
        {
            if (same[i] >= 0 && before is not null && !before[same[i]].IsDefault)
                found[i] = before[same[i]];
            else
            {
                Interlocked.Increment(ref ran);
                found[i] = [.. rule.Inspect(scene.Materials[i], scene)];
            }
        }

        return found.SelectMany(f => f);
    }

    private static bool IsAsItWas(MaterialView a, MaterialView b) =>
        ReferenceEquals(a, b)
        || a.Name == b.Name
            && a.Maps.Length == b.Maps.Length
            && a.Maps.Zip(b.Maps)
                .All(m => ReferenceEquals(m.First.Pixels, m.Second.Pixels) && AnswersAlike(m.First.Answer, m.Second.Answer))
            && a.Users.SequenceEqual(b.Users, SameUse.Instance);

    private static bool AnswersAlike(Muster.MusteredReference? a, Muster.MusteredReference? b) =>
        ReferenceEquals(a, b)
        || (
            a is not null
            && b is not null
            && (a.State, a.Resolved, a.Stamp, a.Damage) == (b.State, b.Resolved, b.Stamp, b.Damage)
            && a.Facts == b.Facts
            && (a.Tiles.IsDefaultOrEmpty ? b.Tiles.IsDefaultOrEmpty : !b.Tiles.IsDefault && a.Tiles.SequenceEqual(b.Tiles))
        );
}
