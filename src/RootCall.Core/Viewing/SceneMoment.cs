using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Viewing;

/// <summary>Which moment of a scene.</summary>
public enum MomentKind
{
    /// <summary>With the applied entries of its ledger.</summary>
    Now,

    /// <summary>Without its ledger.</summary>
    Arrived,

    /// <summary>With its ledger up to an entry, that one too, whether it is applied or not.</summary>
    Entry,

    /// <summary>As another version of it arrived.</summary>
    Version,
}

/// <summary>A scene at a moment, so that two of them can be held beside each other.</summary>
/// <param name="Entry">The last entry that counts; set for <see cref="MomentKind.Entry"/> alone.</param>
/// <param name="Version">Number of the arrival; set for <see cref="MomentKind.Version"/> alone.</param>
public sealed record SceneMoment(Guid SceneId, MomentKind Kind, Guid? Entry = null, int? Version = null)
{
    /// <summary>As an address writes it: <c>now</c>, <c>arrived</c>, <c>entry-ID</c>, <c>version-N</c>, <c>scene-ID</c>.</summary>
    /// <param name="here">The scene that is in hand.</param>
    /// <exception cref="CannotUseException">It is none of these.</exception>
    public static SceneMoment Of(string word, Guid here)
    {
        var (kind, rest) = word.IndexOf('-') is > 0 and var at ? (word[..at], word[(at + 1)..]) : (word, string.Empty);
        return (kind, rest) switch
        {
            ("now", "") => new(here, MomentKind.Now),
            ("arrived", "") => new(here, MomentKind.Arrived),
            ("entry", _) when Guid.TryParse(rest, out var entry) => new(here, MomentKind.Entry, entry),
            ("version", _) when int.TryParse(rest, out var version) => new(here, MomentKind.Version, Version: version),
            ("scene", _) when Guid.TryParse(rest, out var other) => new(other, MomentKind.Now),
            _ => throw new CannotUseException($"“{word}” is no moment of a scene; it is now, arrived, entry-ID, version-N or scene-ID."),
        };
    }

    public string Word(Guid here) =>
        Kind switch
        {
            MomentKind.Arrived => "arrived",
            MomentKind.Entry => $"entry-{Entry}",
            MomentKind.Version => Invariant($"version-{Version}"),
            _ => SceneId == here ? "now" : $"scene-{SceneId}",
        };

    /// <summary>What of the ledger was made by then, all of it applied.</summary>
    /// <exception cref="CannotUseException">The entry was taken back.</exception>
    public Ledger Of(Ledger ledger) =>
        Kind switch
        {
            MomentKind.Now => new([.. ledger.Applied]),
            MomentKind.Entry => ledger.Entries.Any(e => e.Id == Entry)
                ? ledger.UndoTo(Entry!.Value).ApplyPending()
                : throw new CannotUseException("That entry of the ledger was taken back."),
            _ => Ledger.Empty,
        };

    /// <summary>The same material at this moment; null when there is none.</summary>
    /// <param name="material">Of the scene in hand, as it is now.</param>
    /// <param name="there">The scene at this moment.</param>
    public Material? Counterpart(Material material, Scene there, Guid here)
    {
        var named = there.Called(material.Name);
        // What was made like another, or renamed, was that one before.
        var known =
            SceneId != here
                ? null
                : there.Called(material.CopyOf ?? material.Id) ?? (material.Arrived is { } arrived ? there.Called(arrived) : null);
        return Kind == MomentKind.Arrived ? known ?? named : named ?? known;
    }
}
