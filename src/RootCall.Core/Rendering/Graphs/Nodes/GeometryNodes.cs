using System.Numerics;

namespace RootCall.Core.Rendering.Graphs.Nodes;

/// <summary>MaterialX 1.39, “Geometric Nodes” and “Normal map”: the space of the object and of the scene are one here.</summary>
internal static class GeometryNodes
{
    /// <summary>What heighttonormal scales its slopes by, as the traditional filter over 3 x 3 texels does.</summary>
    public const float SlopeScale = 1 / 16f;

    public static IEnumerable<NodeKind> All =>
        [
            NodeKind.Of("position", "", (_, in p) => Values.Of(p.Position)),
            NodeKind.Of("normal", "", (_, in p) => Values.Of(p.Normal)),
            NodeKind.Of("tangent", "", (_, in p) => Values.Of(p.Tangent)),
            NodeKind.Of("bitangent", "", (_, in p) => Values.Of(p.Bitangent)),
            NodeKind.Of("viewdirection", "", (_, in p) => Values.Of(-p.View)),
            NodeKind.Of("texcoord", "", (_, in p) => Values.Of(p.Uv.X, p.Uv.Y)),
            NodeKind.Of("geomcolor", "", (_, in _) => Vector4.One),
            NodeKind.Of("frame", "", (_, in _) => Vector4.One),
            NodeKind.Of("time", "", (_, in _) => Vector4.Zero),
            NodeKind.Of("transformpoint", "in=0", (i, in _) => i[0]),
            NodeKind.Of("transformvector", "in=0", (i, in _) => i[0]),
            NodeKind.Of("transformnormal", "in=0,0,1", (i, in _) => i[0]),
            NodeKind.Of("normalmap", "in=0.5,0.5,1 scale=1 normal=normal tangent=tangent bitangent=bitangent", (i, in _) =>
            {
                var v = Values.Three(i[0]) is var stored && stored == Vector3.Zero ? Vector3.UnitZ : (stored * 2) - Vector3.One;
                var n = (Values.Three(i[3]) * (v.X * i[1].X)) + (Values.Three(i[4]) * (v.Y * i[1].Y)) + (Values.Three(i[2]) * v.Z);
                return n.LengthSquared() > 0 ? Values.Of(Vector3.Normalize(n)) : i[2];
            }),
        ];

    /// <summary>A height's slopes as a vector in tangent space that points out of the surface.</summary>
    /// <param name="alongU">How much the height changes for each unit of U.</param>
    public static Vector3 FromSlopes(float alongU, float alongV) => Vector3.Normalize(new(-alongU, -alongV, 1));
}
