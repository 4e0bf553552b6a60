using System.Collections.Immutable;
using System.Text.Json.Serialization;
using RootCall.Core.Imaging;

namespace RootCall.Core.Muster;

/// <summary>A file that could answer a reference.</summary>
/// <param name="Path">Absolute; of a tiled image or a sequence, its first file.</param>
/// <param name="Score">0 to 1, the sum of <see cref="Evidence"/>, clipped.</param>
/// <param name="Evidence">Why, the strongest first.</param>
/// <param name="Facts">Filled for images among the first candidates.</param>
/// <param name="Damage">Why the file will not read; null when nothing is wrong.</param>
public sealed record Candidate(
    string Path,
    double Score,
    ImmutableArray<Evidence> Evidence,
    FileStamp Stamp,
    ImageFacts? Facts = null,
    string? Damage = null
)
{
    /// <summary>Of a tiled image or a sequence: the path that stands for all its files; null for a single file.</summary>
    public string? Pattern { get; init; }

    /// <summary>The path that a reference calls when this answers it.</summary>
    [JsonIgnore]
    public string Called => Pattern ?? Path;

    [JsonIgnore]
    public IEnumerable<string> Reasons => Evidence.Select(e => e.Reason);

    internal Candidate With(Evidence? more) => more is null ? this : With([more]);

    internal Candidate With(IEnumerable<Evidence> more)
    {
        var evidence = Evidence.AddRange(more);
        var sum = 0.0;
        foreach (var one in evidence)
            sum += one.Weight;
        return this with { Evidence = evidence, Score = Math.Round(Math.Clamp(sum, 0, 1), 3) };
    }
}

/// <summary>One reason with its weight.</summary>
public sealed record Evidence(EvidenceKind Kind, string Reason, double Weight);

/// <summary>The kinds of evidence, in the order of the table in docs/candidate-score.md.</summary>
public enum EvidenceKind
{
    SameName,
    Case,
    Separators,
    OtherEnding,
    OtherRoleSpelling,
    OtherResolution,
    NewerVersion,
    OlderVersion,
    OtherVariant,
    SaysOnlyItsRole,
    RoleInSet,
    NamedLikeTheSet,
    ParentFolders,
    PlaceButForCase,
    Siblings,
    ApprovedRule,
    SameContents,
    OtherContents,
    LooksAlike,
    LooksDifferent,
    PixelsAsLastSeen,
    Damaged,
}
