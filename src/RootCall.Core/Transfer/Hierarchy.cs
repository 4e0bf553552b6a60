using System.Text.RegularExpressions;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Transfer;

/// <summary>Compares the hierarchies by names: what hangs elsewhere, and how many levels of detail an object has.</summary>
internal static partial class Hierarchy
{
    public static void Compare(Scene a, Scene b, List<TransferRow> rows)
    {
        var (parentsA, parentsB) = (Parents(a), Parents(b));
        // A format without a hierarchy lost it as a whole: one row says so.
        if (parentsA.Values.Any(p => p.Length > 0) && parentsB.Count > 0 && parentsB.Values.All(p => p.Length == 0))
        {
            rows.Add(
                new(
                    "scene",
                    Path.GetFileName(b.Path),
                    "hierarchy",
                    Invariant($"{parentsA.Values.Count(p => p.Length > 0):N0} of {parentsA.Count:N0} nodes hang below others"),
                    "all nodes lie side by side"
                )
                {
                    WhyNot = "nodes are not moved",
                }
            );
        }
        else
        {
            foreach (var (node, parent) in parentsA)
                if (parentsB.TryGetValue(node, out var other) && other != parent)
                    rows.Add(new("node", node, "parent", Word(parent), Word(other)) { WhyNot = "nodes are not moved" });
        }

        var (levelsA, levelsB) = (Levels(a), Levels(b));
        foreach (var (name, count) in levelsA)
            if (levelsB.GetValueOrDefault(name) != count)
                rows.Add(
                    new("mesh", name, "lods", $"{count}", $"{levelsB.GetValueOrDefault(name)}") { WhyNot = "geometry is not changed" }
                );
    }

    private static string Word(string parent) => parent.Length > 0 ? parent : "the top";

    /// <summary>The nearest named ancestor that both formats can have; names that occur twice say nothing.</summary>
    private static Dictionary<string, string> Parents(Scene scene) =>
        scene
            .Nodes.GroupBy(n => n.Name)
            .Where(g => g.Count() == 1)
            .Select(g => g.First())
            .ToDictionary(n => n.Name, n => n.Parent >= 0 ? scene.Nodes[n.Parent].Name : string.Empty, StringComparer.Ordinal);

    /// <summary>Levels of detail are told by the ending of a node's name: common practice.</summary>
    private static Dictionary<string, int> Levels(Scene scene) =>
        scene
            .Nodes.Select(n => Lod().Match(n.Name))
            .Where(m => m.Success)
            .GroupBy(m => m.Groups[1].Value)
            .ToDictionary(g => g.Key, g => g.Select(m => m.Value).Distinct().Count(), StringComparer.Ordinal);

    [GeneratedRegex("^(.+?)[_.-]?lod[_-]?([0-9]+)$", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Lod();
}
