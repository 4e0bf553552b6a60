using RootCall.Core.Scenes;

namespace RootCall.Core.Muster;

/// <summary>
/// Where the siblings of a reference were found: the other maps of its materials, and what was called from the same
/// written folder. Files of a set move together (common practice), so a folder that holds the siblings is evidence.
/// </summary>
internal sealed class SiblingFolders
{
    private readonly Dictionary<string, List<int>> byMaterial = new(StringComparer.Ordinal);
    private readonly Dictionary<string, List<int>> byWrittenFolder = new(StringComparer.Ordinal);
    private readonly Dictionary<string, Dictionary<string, int>> folderCounts = new(StringComparer.Ordinal);
    private readonly Dictionary<int, HashSet<string>> folders = [];

    public SiblingFolders(Scene scene, IReadOnlyDictionary<int, string> answered, IReadOnlyDictionary<int, List<Candidate>> candidates)
    {
        foreach (var reference in scene.References.Where(r => r.Carried is null))
        {
            if (answered.TryGetValue(reference.Number, out var path)) folders[reference.Number] = [Path.GetDirectoryName(path)!];
            else if (candidates.TryGetValue(reference.Number, out var found) && found.Count > 0)
            {
                var best = found.Max(c => c.Score);
                folders[reference.Number] = [.. found.Where(c => c.Score >= best - EvidenceWeights.Margin).Select(c => Path.GetDirectoryName(c.Path)!)];
            }

            foreach (var group in Groups(reference))
            {
                Put(group.IsMaterial ? byMaterial : byWrittenFolder, group.Key, reference.Number);
                var counts = folderCounts.TryGetValue(group.Id, out var c) ? c : folderCounts[group.Id] = new(StringComparer.Ordinal);
                foreach (var folder in folders.GetValueOrDefault(reference.Number, [])) counts[folder] = counts.GetValueOrDefault(folder) + 1;
            }
        }
    }

    /// <summary>The stronger of the two kinds of siblings, or null when none was found in the folder.</summary>
    public Evidence? For(Reference reference, string folder)
    {
        Evidence? best = null;
        var own = folders.GetValueOrDefault(reference.Number)?.Contains(folder) == true ? 1 : 0;
        foreach (var group in Groups(reference))
        {
            var all = (group.IsMaterial ? byMaterial : byWrittenFolder)[group.Key].Count - 1;
            var here = folderCounts[group.Id].GetValueOrDefault(folder) - own;
            if (all <= 0 || here <= 0) continue;
            var reason = group.IsMaterial
                ? $"{here} of {all} other maps of {group.Key} can be found here"
                : all == 1 ? "The other file called from the same folder can be found here"
                : $"{here} of {all} others called from the same folder can be found here";
            var weight = Math.Round(EvidenceWeights.Siblings * here / all, 3);
            if (best is null || weight > best.Weight) best = new(reason, weight);
        }

        return best;
    }

    private static IEnumerable<(bool IsMaterial, string Key, string Id)> Groups(Reference reference)
    {
        foreach (var material in reference.UsedBy.Select(u => u.Material).Where(m => m.Length > 0).Distinct(StringComparer.Ordinal))
            yield return (true, material, "m" + material);
        var written = FileName.Fold(WrittenPath.Parse(reference.Written).Folder);
        yield return (false, written, "f" + written);
    }

    private static void Put(Dictionary<string, List<int>> groups, string key, int number)
    {
        if (!groups.TryGetValue(key, out var members)) groups[key] = members = [];
        members.Add(number);
    }
}
