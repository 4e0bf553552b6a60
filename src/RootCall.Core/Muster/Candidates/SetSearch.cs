using System.Collections.Immutable;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Muster;

/// <summary>
/// Sets move together: when most maps of a material lie in one folder, what is missing of it is looked for there by role,
/// also under another name.
/// </summary>
internal sealed class SetSearch(RootIndex index, SiblingFolders siblings, IReadOnlyDictionary<int, string> found, NameDictionary names)
{
    private readonly HashSet<string> taken = [.. found.Values];

    public IEnumerable<Candidate> For(Asked asked)
    {
        if (MapRole.Of(asked.Reference, names) is not { } role)
            yield break;
        foreach (var (folder, material, here, all) in siblings.SetsOf(asked.Number))
        {
            if (index.Listing(folder) is not { } listing)
                continue;
            var bodies = here.Where(found.ContainsKey)
                .Select(n => FileName.Of(Path.GetFileName(found[n]), names).Body)
                .ToHashSet(StringComparer.Ordinal);
            for (var i = 0; i < listing.Names.Length; i++)
            {
                var file = new IndexedFile(listing, i);
                var name = FileName.Of(file.Name, names);
                if (name.Role != role || taken.Contains(file.Path) || !NameEvidence.Fits(ReferenceKind.Image, asked.Name, name))
                    continue;
                var evidence = ImmutableArray.Create(
                    new Evidence(
                        EvidenceKind.RoleInSet,
                        $"The {role.Word()} map in the folder where {here.Count} of {all} other maps of {material} lie",
                        EvidenceWeights.RoleInSet
                    )
                );
                if (bodies.Contains(name.Body))
                    evidence = evidence.Add(new(EvidenceKind.NamedLikeTheSet, "Named like them", EvidenceWeights.NamedLikeTheSet));
                yield return new Candidate(file.Path, 0, [], file.Stamp).With(evidence);
            }
        }
    }
}
