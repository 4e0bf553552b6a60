using System.Numerics;
using System.Runtime.InteropServices;
using RootCall.Core.Geometry;

namespace RootCall.Core.Viewing;

/// <summary>What a view of a scene takes of a mesh.</summary>
internal static class ViewGeometry
{
    /// <summary>Farther out single precision holds no forms any more.</summary>
    public const double Farthest = 1e15;

    /// <summary>What of it shows: a cage's surface is smooth, and nobody asked for colours of vertices.</summary>
    public static MeshGeometry Shown(MeshGeometry read)
    {
        var streams = read.Streams.RemoveAll(s => s.Use is GeometryUse.Colour or GeometryUse.Tangent);
        if (read.IsSmoothCage && read.Stream(GeometryUse.Normal) is null)
        {
            var values = MemoryMarshal.Cast<Vector3, float>(read.SmoothNormals()).ToArray();
            streams = streams.Add(new(GeometryUse.Normal, string.Empty, 3, values, ReadOnlyMemory<int>.Empty));
        }

        return read with
        {
            Streams = streams,
        };
    }

    /// <summary>Triangles that lie at a place; how many do not.</summary>
    /// <param name="triangles">Three corners each.</param>
    public static (List<int> Kept, int Astray) Finite(MeshGeometry read, int[] triangles)
    {
        var corners = read.Corners.Span;
        var points = read.Points.Span;
        var astray = 0;
        var kept = new List<int>(triangles.Length);
        for (var t = 0; t + 2 < triangles.Length; t += 3)
        {
            var isPlace = true;
            for (var k = 0; k < 3; k++)
                foreach (var v in points.Slice(corners[triangles[t + k]] * 3, 3))
                    isPlace &= Math.Abs(v) < Farthest;
            if (isPlace)
                kept.AddRange([triangles[t], triangles[t + 1], triangles[t + 2]]);
            else
                astray++;
        }

        return (kept, astray);
    }

    /// <param name="positions">x y z of each, at least one.</param>
    public static (Vector3 Min, Vector3 Max) BoxOf(float[] positions)
    {
        var (min, max) = (new Vector3(float.MaxValue), new Vector3(float.MinValue));
        for (var i = 0; i + 2 < positions.Length; i += 3)
        {
            var p = new Vector3(positions.AsSpan(i, 3));
            (min, max) = (Vector3.Min(min, p), Vector3.Max(max, p));
        }

        return (min, max);
    }

    /// <summary>Of all triangles, in the mesh's space and over its first UV set.</summary>
    public static (double Area, double UvArea) Areas(MeshGeometry read, List<int> triangles)
    {
        if (read.Stream(GeometryUse.Uv) is not { } set)
            return (0, 0);
        var corners = read.Corners.Span;
        var points = read.Points.Span;
        var (area, uvArea) = (0.0, 0.0);
        for (var t = 0; t + 2 < triangles.Count; t += 3)
        {
            Vector3 a = new(points.Slice(corners[triangles[t]] * 3, 3)),
                b = new(points.Slice(corners[triangles[t + 1]] * 3, 3)),
                c = new(points.Slice(corners[triangles[t + 2]] * 3, 3));
            var ua = set.At(read, triangles[t]);
            var ub = set.At(read, triangles[t + 1]);
            var uc = set.At(read, triangles[t + 2]);
            if (ua.Length < 2 || ub.Length < 2 || uc.Length < 2)
                continue;
            var across = Math.Abs(((ub[0] - ua[0]) * (uc[1] - ua[1])) - ((uc[0] - ua[0]) * (ub[1] - ua[1]))) / 2;
            if (!double.IsFinite(across))
                continue;
            area += Vector3.Cross(b - a, c - a).Length() / 2;
            uvArea += across;
        }

        return (area, uvArea);
    }
}
