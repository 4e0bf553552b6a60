using RootCall.Core.Files;

namespace RootCall.Core.Geometry;

/// <summary>
/// The geometry of a scene, mesh by mesh and only when it is asked for. What is read is bounded (<see
/// cref="Bounds.GeometryBytes"/>) and not kept. For one thread at a time.
/// </summary>
public interface IGeometrySource : IDisposable
{
    /// <param name="mesh">Index into <c>Scene.Meshes</c>.</param>
    /// <exception cref="CannotUseException">It is gone, needs a file that does not answer, or is more than is read.</exception>
    MeshGeometry Read(int mesh, CancellationToken stop = default);
}

/// <summary>Decodes compressed geometry; it does so behind a wall, since what it is given may be broken.</summary>
public interface IMeshDecoder
{
    /// <summary>The bytes of a buffer view that EXT_meshopt_compression packed.</summary>
    /// <exception cref="CannotUseException">They do not decode.</exception>
    byte[] UnpackView(ReadOnlySpan<byte> packed, MeshoptView view, CancellationToken stop);

    /// <summary>A primitive that KHR_draco_mesh_compression packed.</summary>
    /// <param name="attributes">Unique ids of the attributes that are wanted.</param>
    /// <exception cref="CannotUseException">It does not decode, or lacks one of them.</exception>
    DracoMesh UnpackMesh(ReadOnlySpan<byte> packed, IReadOnlyList<int> attributes, CancellationToken stop);
}

/// <summary>How a buffer view is packed (glTF extension EXT_meshopt_compression).</summary>
/// <param name="Count">Elements.</param>
/// <param name="Stride">Bytes of one.</param>
public readonly record struct MeshoptView(int Count, int Stride, MeshoptMode Mode, MeshoptFilter Filter);

public enum MeshoptMode
{
    Attributes,
    Triangles,
    Indices,
}

public enum MeshoptFilter
{
    None,
    Octahedral,
    Quaternion,
    Exponential,
}

/// <param name="Points">Vertices.</param>
/// <param name="Indices">Three for each triangle.</param>
/// <param name="Attributes">The wanted ones: numbers in one value, and all values as they are stored, integers not normalised.</param>
public sealed record DracoMesh(int Points, int[] Indices, IReadOnlyList<(int Width, float[] Values)> Attributes);
