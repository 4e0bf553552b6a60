using RootCall.Core.Audit;
using RootCall.Core.Bench;
using RootCall.Core.Edits;
using RootCall.Core.Scenes;

namespace RootCall.Core.SendOff;

/// <summary>What a report for people is made of: the scene as it stands, and what was found, decided and proven.</summary>
/// <param name="Title">What people call the scene.</param>
/// <param name="Audit">With the muster and the destination.</param>
public sealed record ReadableScene(string Title, AuditScene Audit, AuditReport Found, Ledger Ledger, DateTimeOffset At)
{
    /// <summary>Where and when it arrived, in words; empty when nobody knows.</summary>
    public string Arrived { get; init; } = string.Empty;

    /// <summary>By key of the cause.</summary>
    public IReadOnlyDictionary<string, Waiver> Waivers { get; init; } = new Dictionary<string, Waiver>();

    /// <summary>What those who looked at materials said of them.</summary>
    public IReadOnlyList<MaterialMark> Marks { get; init; } = [];

    /// <summary>Packages that were built, the last first.</summary>
    public IReadOnlyList<ReadableProof> Proofs { get; init; } = [];

    /// <summary>A PNG of a material on a sphere; null where there is none.</summary>
    public Func<string, byte[]?> Swatch { get; init; } = _ => null;

    /// <summary>A PNG of an image that the scene calls for; null where there is none.</summary>
    public Func<ReferenceKey, byte[]?> Picture { get; init; } = _ => null;
}

/// <summary>A package, opened again alone.</summary>
/// <param name="Resolved">References that answer inside it.</param>
/// <param name="Unresolved">Those that do not, a line each.</param>
/// <param name="Frames">How far the frame from the package lies from the one before, in words, or why there is none.</param>
public sealed record ReadableProof(
    string Name,
    DateTimeOffset BuiltAt,
    int Files,
    long Bytes,
    int Resolved,
    IReadOnlyList<string> Unresolved,
    string Frames
);
