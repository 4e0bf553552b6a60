using System.Collections.Immutable;
using RootCall.Core.Imaging.Codecs;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Muster;

/// <summary>Compares the name a scene asks for with a file's: what is the same, and each difference with its weight.</summary>
internal static class NameEvidence
{
    /// <summary>Images answer for images whatever their ending; other kinds of files keep theirs.</summary>
    public static bool Fits(ReferenceKind kind, FileName asked, FileName file) =>
        asked.Extension == file.Extension || (kind == ReferenceKind.Image && ImageCodecs.Promised(file.Folded) is not null);

    /// <returns>Null when the file is another map, tile or frame.</returns>
    public static ImmutableArray<Evidence>? Of(FileName asked, FileName file)
    {
        if (asked.Text == file.Text)
            return [Same("Exact name"), .. OnlyRole(asked)];
        if (asked.Folded == file.Folded)
            return
            [
                Same("Same name without case"),
                new(EvidenceKind.Case, "The case of the name differs", EvidenceWeights.Case),
                .. OnlyRole(asked),
            ];
        if (asked.Family != file.Family || !SamePart(asked.Tile, file.Tile) || !SamePart(asked.Frame, file.Frame))
            return null;
        var evidence = ImmutableArray.CreateBuilder<Evidence>();
        evidence.Add(
            Same(
                asked.IsPattern ? "Same name, tile by tile"
                : asked.Stem == file.Stem ? "Same name but for its ending"
                : "Same map by its name"
            )
        );
        if (asked.RoleToken != file.RoleToken)
            evidence.Add(
                new(
                    EvidenceKind.OtherRoleSpelling,
                    $"Same role, {file.Role?.Word()}, spelled another way",
                    EvidenceWeights.OtherRoleSpelling
                )
            );
        if (asked.Resolution != file.Resolution)
            evidence.Add(
                new(EvidenceKind.OtherResolution, $"Another resolution, {file.Resolution ?? "none named"}", EvidenceWeights.OtherResolution)
            );
        if (asked.Version != file.Version)
            evidence.Add(Version(asked.Version, file.Version));
        if (asked.Colour != file.Colour || asked.Skin != file.Skin)
        {
            var variant = file.Colour is null && file.Skin is null ? "none named" : $"{file.Colour} {file.Skin}".Trim();
            evidence.Add(new(EvidenceKind.OtherVariant, $"Another variant, {variant}", EvidenceWeights.OtherVariant));
        }

        if (evidence.Count == 1 && asked.Stem != file.Stem && !asked.IsPattern)
            evidence.Add(new(EvidenceKind.Separators, "Other separators or case", EvidenceWeights.Separators));
        if (asked.Extension != file.Extension)
            evidence.Add(new(EvidenceKind.OtherEnding, $"Another ending, {file.Extension}", EvidenceWeights.OtherEnding));
        evidence.AddRange(OnlyRole(asked));
        return evidence.ToImmutable();
    }

    private static Evidence Same(string reason) => new(EvidenceKind.SameName, reason, EvidenceWeights.SameName);

    private static IEnumerable<Evidence> OnlyRole(FileName asked) =>
        asked.SaysOnlyItsRole && asked.Role is not null
            ? [new(EvidenceKind.SaysOnlyItsRole, "The name says only its role, which many sets use", EvidenceWeights.SaysOnlyItsRole)]
            : [];

    private static Evidence Version(int? asked, int? file) =>
        file < asked || (file is null && asked is not null)
            ? new(EvidenceKind.OlderVersion, file is null ? "No version named" : $"An older version, {file}", EvidenceWeights.OlderVersion)
            : new(EvidenceKind.NewerVersion, $"A newer version, {file}", EvidenceWeights.NewerVersion);

    /// <summary>A pattern is answered by any tile or frame of its kind, anything else by the same one.</summary>
    private static bool SamePart(string? asked, string? file) =>
        asked switch
        {
            null => file is null,
            "<udim>" => file is ['1', ..],
            "<uvtile>" => file is ['u', ..],
            ['<' or '#' or '%', ..] => file is not null,
            _ => asked == file,
        };
}
