using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Rendering.Frames;
using RootCall.Core.Scenes;

namespace RootCall.Core.Viewing;

/// <summary>An object of a scene that a material is shown on, in the place of a shape.</summary>
/// <param name="File">Absolute path of the file of a view that holds it (<see cref="ViewedScene"/>).</param>
/// <param name="Places">Of its nodes in that file.</param>
/// <param name="UvSet">The set that the material's images lie on, as glTF calls it.</param>
public sealed record OrderedMesh(string File, ImmutableArray<int> Places, string UvSet)
{
    /// <summary>Triangles of an object that swatches are drawn on; one picture of a larger one would take too long.</summary>
    private const long MostTriangles = 300_000;

    /// <summary>The largest object that wears a material, or one that was chosen; null where there is none, or it is too large.</summary>
    /// <param name="folder">Of the view.</param>
    /// <param name="node">The chosen object; null for one that wears the material.</param>
    public static OrderedMesh? Of(Scene scene, ViewedScene view, string folder, Material material, int? node)
    {
        bool Wears(ViewedPiece piece) =>
            scene.Meshes[scene.Nodes[piece.Node].Mesh].Parts.ElementAtOrDefault(piece.Part) is { } part
            && (part.MaterialId.Length > 0 ? part.MaterialId == material.Id : part.Material == material.Name);
        var found = view
            .Pieces.Where(p => node is { } chosen ? p.Node == chosen : Wears(p))
            .GroupBy(p => (p.Node, p.File))
            .Select(g => (g.Key, Triangles: g.Sum(p => p.Triangles), Pieces: g.ToList()))
            .Where(g => g.Triangles <= MostTriangles)
            .OrderByDescending(g => g.Triangles)
            .FirstOrDefault();
        if (found.Pieces is null)
            return null;
        var sets = scene.Meshes[scene.Nodes[found.Key.Node].Mesh].UvSets;
        var read = material.Graph.Nodes.Select(n => n.Image?.UvSet).OfType<string>().Where(s => s.Length > 0);
        var set = Math.Max(0, sets.IndexOf(read.FirstOrDefault() ?? string.Empty));
        // Nodes stand in a file in the order of its pieces.
        var inFile = view.Pieces.Where(p => p.File == found.Key.File).ToList();
        return new(
            ViewedScene.Place(folder, found.Key.File),
            [.. found.Pieces.Select(p => inFile.IndexOf(p))],
            FormattableString.Invariant($"TEXCOORD_{set}")
        );
    }

    /// <summary>Its triangles, all of the first material, and where they are seen from.</summary>
    /// <exception cref="CannotUseException">It is not there any more.</exception>
    public (FrameGeometry Geometry, FrameCamera Camera) Made(CancellationToken stop)
    {
        var context = new ReadContext(new RootScope([Path.GetDirectoryName(File)!]), Bounds.Default);
        var read = SceneFormats.Read(File, context);
        var scene = read with { Nodes = [.. read.Nodes.Select(n => Places.Contains(n.Place) ? n : n with { Mesh = -1 })] };
        using var source = SceneFormats.Of(File).Geometry(read, context, null);
        var drawn = DrawnGeometry.Of(scene, source, _ => 0, _ => UvSet, context.Bounds, stop);
        return (drawn.Geometry, FrameCamera.Around(drawn.Box.Min, drawn.Box.Max, 1));
    }
}
