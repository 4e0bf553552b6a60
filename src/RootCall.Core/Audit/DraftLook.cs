using RootCall.Core.Edits;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Scenes;
using RootCall.Core.Viewing;

namespace RootCall.Core.Audit;

/// <summary>What a material would look like with edits that nobody has put into the ledger yet.</summary>
public static class DraftLook
{
    /// <param name="material">As edits call it.</param>
    /// <returns>
    /// A picture of it, held beside what it looks like now. Null where there is no such material, where an edit cannot be made, and
    /// where the edits take the material out.
    /// </returns>
    public static SwatchOrder? Of(AuditScene scene, string material, IEnumerable<Edit> edits, SwatchLight light, int side)
    {
        if (!scene.Index.Places.TryGetValue(material, out var at) || scene.Index.Materials[at] is not { Graph.SurfaceNode: not null } now)
            return null;
        var draft = new SceneDraft(scene.Index);
        foreach (var edit in edits)
            if (edit.Change(draft) is not null)
                return null;
        var place = Enumerable.Range(0, draft.Materials.Count).FirstOrDefault(i => draft.WasAt(i) == at, -1);
        return place < 0
            ? null
            : SwatchOrder.Of(draft.Materials[place], scene.Report, light, side) with
            {
                Before = SwatchOrder.Of(now, scene.Report, light, side),
            };
    }
}
