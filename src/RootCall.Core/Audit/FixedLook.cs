using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Scenes;
using RootCall.Core.Viewing;

namespace RootCall.Core.Audit;

/// <summary>What the material of a finding would look like with its fix.</summary>
public static class FixedLook
{
    /// <summary>
    /// A picture of it, held beside what it looks like now. Null for a finding that is about no material, that has no fix, or whose fix
    /// takes the material out.
    /// </summary>
    public static SwatchOrder? Of(AuditScene scene, Finding finding, SwatchLight light, int side)
    {
        if (
            finding is not { Fixes: [var fix, ..], Target.Material: { } name }
            || !scene.Index.Places.TryGetValue(name, out var at)
            || scene.Index.Materials[at] is not { Graph.SurfaceNode: not null } material
        )
            return null;
        var draft = new SceneDraft(scene.Index);
        foreach (var edit in fix.Edits)
            if (edit.Change(draft) is not null)
                return null;
        var place = Enumerable.Range(0, draft.Materials.Count).FirstOrDefault(i => draft.WasAt(i) == at, -1);
        return place < 0
            ? null
            : SwatchOrder.Of(draft.Materials[place], scene.Report, light, side) with
            {
                Before = SwatchOrder.Of(material, scene.Report, light, side),
            };
    }
}
