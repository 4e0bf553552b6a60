using System.Runtime.CompilerServices;
using RootCall.Core.Rendering.Shapes;
using RootCall.Core.Scenes;
using RootCall.Core.Viewing;
using RootCall.Data.Stores;

namespace RootCall.Web.Features.Bench;

/// <summary>Views of scenes as they stand, each read once.</summary>
internal sealed class Views(DiskStore disk)
{
    /// <summary>Kept for as long as the state itself.</summary>
    private sealed record Kept(string Folder)
    {
        public ViewedScene? View { get; set; }
    }

    private readonly ConditionalWeakTable<CurrentState, Kept> known = [];

    /// <summary>Null before a worker has made it of the scene's geometry as it stands.</summary>
    public (string Folder, ViewedScene? View) Of(CurrentState state)
    {
        var kept = known.GetValue(state, s => new(disk.View(s.Arrival.SceneId, ViewedScene.PrintOf(s.Report))));
        return (kept.Folder, kept.View ??= ViewedScene.Of(kept.Folder));
    }

    /// <summary>The same look on another shape.</summary>
    /// <param name="word">
    /// <c>sphere</c>, <c>slab</c>, <c>drape</c>, <c>own</c> for what wears it, <c>object-N</c> for that node of the scene. The sphere
    /// stands in where there is no such object, or geometry was not made ready.
    /// </param>
    public SwatchOrder On(SwatchOrder order, string? word, CurrentState state, Material material)
    {
        if (Enum.TryParse<SwatchShape>(word, ignoreCase: true, out var shape))
            return order with { Shape = shape };
        int? node =
            word?.StartsWith("object-", StringComparison.Ordinal) == true && int.TryParse(word["object-".Length..], out var n) ? n : null;
        if ((word != "own" && node is null) || Of(state) is not (var folder, { } view))
            return order;
        return order with { On = OrderedMesh.Of(state.Report.Scene, view, folder, material, node) };
    }
}
