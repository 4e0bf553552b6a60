using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Roles;

/// <summary>
/// What an image is made for, by where it is wired, what its pixels are, what its set says and what its name says, in this order of
/// weight. A sum of bits that anybody can do again: docs/map-roles.md.
/// </summary>
/// <param name="Wired">What speaks for the input that it feeds.</param>
/// <param name="Rival">What speaks for the likeliest other role; null when nothing speaks for any.</param>
/// <param name="Named">What its name says; null for nothing.</param>
/// <param name="NameCounts">Its set says it in the same manner, and feeds what it says.</param>
public sealed record MapReading(RoleScore Wired, RoleScore? Rival, Role? Named, bool NameCounts)
{
    /// <summary>The sums, for whoever looks at the finding.</summary>
    internal ReadingEvidence Evidence =>
        new([
            new(Rival!.Role!.Value.Word(), Rival.Bits, Rival.Evidence),
            new(Wired.Role?.Word() ?? "the input", Wired.Bits, Wired.Evidence),
        ]);

    /// <summary>How much more speaks for the rival, in bits.</summary>
    public int Lead => Rival is null ? int.MinValue : Rival.Bits - Wired.Bits;

    /// <summary>It stands in the wrong input.</summary>
    public bool IsMisplaced => Rival is not null && Lead >= RoleWeights.Margin;

    /// <summary>Only its name speaks against the wire, and nothing for the wire but the wire.</summary>
    public bool IsQuestion =>
        Rival is not null
        && !IsMisplaced
        && Lead >= RoleWeights.Question
        && Rival.Has(EvidenceKind.Name)
        && Rival.Of(EvidenceKind.Pixels) >= Wired.Of(EvidenceKind.Pixels)
        && !Wired.Has(EvidenceKind.Name);

    /// <summary>What it is, by all there is.</summary>
    public Role? Meant =>
        IsMisplaced ? Rival!.Role
        : Named is { } named && Wired.Has(EvidenceKind.Name) ? named
        : Wired.Role;
}
