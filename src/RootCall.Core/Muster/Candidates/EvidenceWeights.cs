namespace RootCall.Core.Muster;

/// <summary>
/// What each kind of evidence weighs. A name starts at <see cref="SameName"/> and loses for each difference; places,
/// siblings and contents add to it. docs/candidate-score.md has the table with worked examples, which are tests.
/// </summary>
public static class EvidenceWeights
{
    public const double SameName = 0.60;
    public const double Case = -0.04;
    public const double Separators = -0.16;
    public const double OtherEnding = -0.16;
    public const double OtherRoleSpelling = -0.16;
    public const double OtherResolution = -0.16;
    public const double NewerVersion = -0.16;

    /// <summary>With this or the next, Root Call never settles alone, whatever else speaks for the file.</summary>
    public const double OlderVersion = -0.24;
    public const double OtherVariant = -0.36;
    public const double SaysOnlyItsRole = -0.34;

    /// <summary>Another name, but the only file of that role where the rest of the set lies.</summary>
    public const double RoleInSet = 0.26;
    public const double NamedLikeTheSet = 0.16;

    /// <summary>For each parent folder that agrees, up to <see cref="MostParents"/>.</summary>
    public const double ParentFolder = 0.08;
    public const int MostParents = 3;

    /// <summary>It stands exactly where it is called, but for the case of the path.</summary>
    public const double PlaceButForCase = 0.25;

    /// <summary>Times the share of siblings that have their best match in the same folder.</summary>
    public const double Siblings = 0.14;
    public const double ApprovedRule = 0.25;

    /// <summary>Contents beat every name.</summary>
    public const double SameContents = 0.70;
    public const double OtherContents = -0.20;
    public const double LooksAlike = 0.30;
    public const double LooksDifferent = -0.20;
    public const double PixelsAsLastSeen = 0.06;
    public const double Damaged = -0.40;

    /// <summary>The least score that counts as a candidate at all.</summary>
    public const double Least = 0.22;

    /// <summary>The least score at which Root Call settles alone.</summary>
    public const double Settles = 0.42;

    /// <summary>The least margin between the first two at which Root Call settles alone.</summary>
    public const double Margin = 0.15;

    /// <summary>Of the 64 bits of a look: up to so many differ in pictures that look alike.</summary>
    public const int AlikeBits = 6;

    /// <summary>From so many on they look different; chance alone gives 32.</summary>
    public const int DifferentBits = 20;
}
