using RootCall.Core.Files;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Fbx;

/// <summary>The polygons of an FBX file's models.</summary>
internal sealed class FbxShapes(FbxDocument document, Scene scene, Bounds bounds) : IGeometrySource
{
    public void Dispose() { }

    public MeshGeometry Read(int mesh, CancellationToken stop = default)
    {
        var measured = scene.Meshes[mesh];
        if (!document.Objects.TryGetValue(measured.Id, out var model) || FbxHierarchy.GeometryOf(document, model) is not { } geometry)
            throw new CannotUseException($"The mesh {measured.Name} is not in the file any more.");
        stop.ThrowIfCancellationRequested();
        return new FbxGeometry(geometry).Read(new(bounds, measured.Name));
    }
}
