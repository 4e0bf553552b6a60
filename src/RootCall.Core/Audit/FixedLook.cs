using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Viewing;

namespace RootCall.Core.Audit;

/// <summary>What the material of a finding would look like with its fix.</summary>
public static class FixedLook
{
    /// <summary>Null for a finding that is about no material or has no fix, and where <see cref="DraftLook"/> has none.</summary>
    public static SwatchOrder? Of(AuditScene scene, Finding finding, SwatchLight light, int side) =>
        finding is { Fixes: [var fix, ..], Target.Material: { } name } ? DraftLook.Of(scene, name, fix.Edits, light, side) : null;
}
