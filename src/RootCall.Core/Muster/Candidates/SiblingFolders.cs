namespace RootCall.Core.Muster;

/// <summary>
/// Where the siblings of a reference were found: the other maps of its materials, and what was called from the same
/// written folder. Files of a set move together (common practice), so a folder that holds the siblings is evidence.
/// </summary>
internal sealed class SiblingFolders
{
    private readonly Dictionary<string, Group> byMaterial = new(StringComparer.Ordinal);
    private readonly Dictionary<string, Group> byWrittenFolder = new(StringComparer.Ordinal);
    private readonly Dictionary<int, List<Group>> groupsOf = [];
    private readonly Dictionary<int, List<string>> foldersOf = [];

    /// <param name="answered">Paths of the files that answer, by reference.</param>
    /// <param name="candidates">By reference, best first or not.</param>
    public SiblingFolders(
        IEnumerable<Asked> asked,
        IReadOnlyDictionary<int, string> answered,
        IReadOnlyDictionary<int, List<Candidate>> candidates
    )
    {
        foreach (var call in asked.Where(a => a.Reference.Carried is null))
        {
            var folders = Folders(call.Number, answered, candidates);
            foldersOf[call.Number] = folders;
            var mine = groupsOf[call.Number] = [Find(byWrittenFolder, FileName.Fold(call.Path.Folder), null)];
            foreach (var use in call.Reference.UsedBy)
                if (use.Material.Length > 0 && !mine.Exists(g => g.Material == use.Material))
                    mine.Insert(mine.Count - 1, Find(byMaterial, use.Material, use.Material));
            foreach (var group in mine)
            {
                group.Members.Add(call.Number);
                foreach (var folder in folders)
                    group.Counts[folder] = group.Counts.GetValueOrDefault(folder) + 1;
            }
        }
    }

    /// <summary>The stronger of the two kinds of siblings, or null when none was found in the folder.</summary>
    public Evidence? For(int number, string folder)
    {
        Evidence? best = null;
        foreach (var group in groupsOf[number])
        {
            var all = group.Members.Count - 1;
            var here = Here(group, number, folder);
            if (all <= 0 || here <= 0)
                continue;
            var weight = Math.Round(EvidenceWeights.Siblings * here / all, 3);
            if (best is not null && weight <= best.Weight)
                continue;
            best = new(
                EvidenceKind.Siblings,
                group.Material is { } material ? $"{here} of {all} other maps of {material} can be found here"
                    : all == 1 ? "The other file called from the same folder can be found here"
                    : $"{here} of {all} others called from the same folder can be found here",
                weight
            );
        }

        return best;
    }

    /// <summary>Folders in which most of the other maps of one of its materials lie, with that material and those maps.</summary>
    public IEnumerable<(string Folder, string Material, IReadOnlyList<int> Here, int All)> SetsOf(int number)
    {
        foreach (var group in groupsOf[number].Where(g => g.Material is not null && g.Members.Count > 2))
        foreach (var folder in group.Counts.Keys)
        {
            var here = group.Members.Where(m => m != number && foldersOf[m].Contains(folder)).ToList();
            if (here.Count >= 2 && here.Count * 2 >= group.Members.Count - 1)
                yield return (folder, group.Material!, here, group.Members.Count - 1);
        }
    }

    private int Here(Group group, int number, string folder) =>
        group.Counts.GetValueOrDefault(folder) - (foldersOf[number].Contains(folder) ? 1 : 0);

    private static List<string> Folders(
        int number,
        IReadOnlyDictionary<int, string> answered,
        IReadOnlyDictionary<int, List<Candidate>> candidates
    )
    {
        if (answered.TryGetValue(number, out var path))
            return [Path.GetDirectoryName(path)!];
        if (!candidates.TryGetValue(number, out var found) || found.Count == 0)
            return [];
        var best = found.Max(c => c.Score);
        return
        [
            .. found
                .Where(c => c.Score >= best - EvidenceWeights.Margin)
                .Select(c => Path.GetDirectoryName(c.Path)!)
                .Distinct(StringComparer.Ordinal),
        ];
    }

    private static Group Find(Dictionary<string, Group> groups, string key, string? material)
    {
        if (!groups.TryGetValue(key, out var group))
            groups[key] = group = new(material);
        return group;
    }

    private sealed record Group(string? Material)
    {
        public List<int> Members { get; } = [];

        public Dictionary<string, int> Counts { get; } = new(StringComparer.Ordinal);
    }
}
