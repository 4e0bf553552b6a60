using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Muster;

/// <summary>Facts of a reference's file from when it was last looked at.</summary>
/// <param name="Path">Where it was found then.</param>
/// <param name="Width">Pixels; 0 for what is no image.</param>
/// <param name="Hash">SHA-256 in lower-case hex, or null when it was not made.</param>
/// <param name="Look">How the picture looked (<see cref="Imaging.Pixels.PictureLook"/>), or null when it was not made.</param>
/// <param name="Relinked">The ledger called it: once that is undone, it speaks for no candidate.</param>
public sealed record LastSeen(string Path, FileStamp Stamp, int Width, int Height, string? Hash, ulong? Look = null, bool Relinked = false)
{
    /// <summary>Changed files as they are now, to be taken over.</summary>
    /// <param name="numbers">References it is about; null for all.</param>
    /// <exception cref="CannotUseException">None of them has changed.</exception>
    public static ImmutableDictionary<ReferenceKey, LastSeen> Changed(MusterReport report, IReadOnlySet<int>? numbers)
    {
        var changed = report
            .References.Where(r =>
                r is { Resolved: not null, Stamp: not null }
                && r.Flags.HasFlag(ReferenceFlags.Changed)
                && numbers?.Contains(r.Number) != false
            )
            .ToImmutableDictionary(
                r => r.Reference.Key,
                r => new LastSeen(r.Resolved!, r.Stamp!.Value, r.Facts?.Width ?? 0, r.Facts?.Height ?? 0, null)
                {
                    Relinked = report.Scene.Answers.GetValueOrDefault(r.Reference.Key)?.File is not null,
                }
            );
        return changed.IsEmpty ? throw new CannotUseException("None of these files has changed since it was last looked at.") : changed;
    }
}
