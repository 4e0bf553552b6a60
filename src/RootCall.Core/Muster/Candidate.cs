using System.Collections.Immutable;
using RootCall.Core.Imaging;

namespace RootCall.Core.Muster;

/// <summary>A file that could answer a reference.</summary>
/// <param name="Path">Absolute.</param>
/// <param name="Score">0 to 1, the sum of <see cref="Evidence"/>, clipped.</param>
/// <param name="Evidence">Why, strongest first.</param>
/// <param name="Facts">Filled for images among the first candidates.</param>
/// <param name="Damage">Why the file will not read; null when nothing is wrong.</param>
public sealed record Candidate(
    string Path, double Score, ImmutableArray<Evidence> Evidence, FileStamp Stamp, ImageFacts? Facts = null, string? Damage = null)
{
    public IEnumerable<string> Reasons => Evidence.Select(e => e.Reason);
}

/// <summary>One reason with its weight.</summary>
public sealed record Evidence(string Reason, double Weight);

/// <summary>
/// What each kind of evidence weighs. The order is what matters: a name outweighs everything else, and no sum of small
/// reasons outweighs the contents. docs/decisions/candidate-score.md tells how they were chosen.
/// </summary>
public static class EvidenceWeights
{
    public const double ExactName = 0.60;
    public const double NameWithoutCase = 0.55;
    public const double OtherEnding = 0.42;
    public const double OtherResolutionOrVersion = 0.36;
    public const double OtherRoleSpelling = 0.33;
    public const double OtherEndingPenalty = -0.06;

    /// <summary>For each parent folder that agrees, up to three.</summary>
    public const double ParentFolder = 0.08;
    public const int MostParents = 3;

    /// <summary>It stands exactly where it is called, but for the case of the path.</summary>
    public const double PlaceWithoutCase = 0.25;

    /// <summary>Times the share of siblings that have their best name match in the same folder.</summary>
    public const double Siblings = 0.12;
    public const double ContentAsLastSeen = 0.40;
    public const double PixelsAsLastSeen = 0.06;
    public const double Damaged = -0.40;

    /// <summary>The least score that counts as a candidate at all.</summary>
    public const double Least = 0.25;

    /// <summary>The least margin between the first two at which Root Call settles alone.</summary>
    public const double Margin = 0.15;
}
