using System.Numerics;

namespace RootCall.Core.Rendering.Graphs;

/// <summary>What a graph may ask of the place that is shaded.</summary>
/// <param name="Position">In the space of the object and of the scene, which are one here.</param>
/// <param name="Normal">Geometric, out of the surface, of length 1.</param>
/// <param name="Tangent">To where U grows, of length 1.</param>
/// <param name="Bitangent">To where V grows, of length 1.</param>
/// <param name="Uv">V grows upwards.</param>
/// <param name="Footprint">How far apart the UVs of neighbouring pixels lie; 0 for a point.</param>
/// <param name="View">Towards the viewer, of length 1.</param>
public readonly record struct ShadingPoint(
    Vector3 Position,
    Vector3 Normal,
    Vector3 Tangent,
    Vector3 Bitangent,
    Vector2 Uv,
    float Footprint,
    Vector3 View
)
{
    public Vector3 FromTangentSpace(Vector3 v) => (v.X * Tangent) + (v.Y * Bitangent) + (v.Z * Normal);
}
