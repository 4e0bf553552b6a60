using System.Collections.Immutable;
using System.Text.Json.Serialization;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Roles;

[JsonConverter(typeof(JsonStringEnumConverter<EvidenceKind>))]
public enum EvidenceKind
{
    /// <summary>Where it is wired.</summary>
    [JsonStringEnumMemberName("wire")]
    Wire,

    /// <summary>What its values are.</summary>
    [JsonStringEnumMemberName("values")]
    Pixels,

    /// <summary>What the other maps of its set say.</summary>
    [JsonStringEnumMemberName("set")]
    Set,

    /// <summary>What its name says.</summary>
    [JsonStringEnumMemberName("name")]
    Name,
}

/// <param name="Bits">One bit makes the role twice as likely; below 0 it speaks against it.</param>
/// <param name="Sentence">In a person's words, without a full stop.</param>
public sealed record RoleEvidence(EvidenceKind Kind, int Bits, string Sentence);

/// <summary>How much speaks for a map being made for a role.</summary>
/// <param name="Role">Null for an input whose role is not known.</param>
public sealed record RoleScore(Role? Role, ImmutableArray<RoleEvidence> Evidence)
{
    public int Bits => Evidence.Sum(e => e.Bits);

    /// <summary>Two kinds of evidence at least say so, and none says otherwise.</summary>
    public bool IsAgreed => Evidence.All(e => e.Bits > 0) && Evidence.Select(e => e.Kind).Distinct().Count() > 1;

    /// <summary>The bits of one kind.</summary>
    public int Of(EvidenceKind kind) => Evidence.Where(e => e.Kind == kind).Sum(e => e.Bits);

    public bool Has(EvidenceKind kind) => Evidence.Any(e => e.Kind == kind && e.Bits > 0);

    public bool IsAgainst(EvidenceKind kind) => Evidence.Any(e => e.Kind == kind && e.Bits < 0);
}
