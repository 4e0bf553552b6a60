using System.Collections.Immutable;
using System.Diagnostics.CodeAnalysis;
using RootCall.Core.Files;

namespace RootCall.Core.Audit;

/// <summary>All rules there are: every concrete class of this assembly that is a rule.</summary>
[UnconditionalSuppressMessage("Trimming", "IL2026", Justification = AssemblyParts.Kept)]
[UnconditionalSuppressMessage("Trimming", "IL2067", Justification = AssemblyParts.Kept)]
public static class RuleCatalog
{
    public static ImmutableArray<Rule> All { get; } =
    [
        .. typeof(RuleCatalog)
            .Assembly.GetTypes()
            .Where(t => t.IsSubclassOf(typeof(Rule)) && !t.IsAbstract)
            .Select(t => (Rule)Activator.CreateInstance(t)!)
            .OrderBy(r => Families.IndexOf(r.Descriptor.Family))
            .ThenBy(r => r.Id, StringComparer.Ordinal),
    ];

    /// <summary>In the order they are shown.</summary>
    public static ImmutableArray<string> Families => ["assignment", "wiring", "values", "settings", "sets", "naming", "destination"];

    /// <summary>Null when there is no such rule.</summary>
    public static Rule? Find(string id) => All.FirstOrDefault(r => r.Id == id);
}
