using System.Collections.Immutable;
using System.Runtime.InteropServices;
using RootCall.Core.Files;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>
/// The meshes of an OBJ. Its points, texture coordinates and normals are numbered through the whole file, so it is read whole
/// when the first mesh is asked for; what each mesh uses of them is numbered anew.
/// </summary>
internal sealed class ObjGeometry(Scene scene, ReadContext context) : IGeometrySource
{
    private ImmutableArray<ObjMeshes.Kept>? kept;

    public void Dispose() => kept = null;

    public MeshGeometry Read(int mesh, CancellationToken stop = default)
    {
        var name = scene.Meshes[mesh].Name;
        var budget = new GeometryBudget(context.Bounds, name);
        if (kept is not { } meshes)
        {
            // A number takes two bytes in the file at least, and four here.
            budget.Take(scene.Files[0].Bytes, 2);
            kept = meshes = new ObjReader(scene.Path, context with { Stop = stop }).ReadGeometry();
        }

        if (mesh >= meshes.Length)
            throw new CannotUseException($"The mesh {name} is not in the file any more.");
        var own = meshes[mesh];
        var (points, corners) = Own(own.Pools.Points, 3, own.Points);
        var builder = new GeometryBuilder(budget) { Points = points };
        var uvs = Set(builder, GeometryUse.Uv, "vt", 2, own.Pools.Textures, own.Textures);
        var normals = Set(builder, GeometryUse.Normal, "vn", 3, own.Pools.Normals, own.Normals);
        if (own.Pools.Colours.Count > 0)
            builder.ByPoint(GeometryUse.Colour, "v", 3, Own(own.Pools.Colours, 3, own.Points).Values);
        var first = 0;
        for (var face = 0; face < own.Sizes.Count; face++)
        {
            var size = own.Sizes[face];
            builder.Face(corners.AsSpan(first, size), own.PartOf(face), [.. Some(uvs, first, size), .. Some(normals, first, size)]);
            first += size;
        }

        return builder.Build();
    }

    private static int[]? Set(GeometryBuilder builder, GeometryUse use, string name, int width, List<float> pool, List<int> called)
    {
        if (pool.Count == 0)
            return null;
        var (values, indices) = Own(pool, width, called);
        builder.Indexed(use, name, width, values);
        return indices;
    }

    private static int[][] Some(int[]? indices, int first, int size) => indices is null ? [] : [indices[first..(first + size)]];

    /// <summary>What is called of a pool, in the order of its first call, and the calls by their new numbers.</summary>
    private static (float[] Values, int[] Indices) Own(List<float> pool, int width, List<int> called)
    {
        var numbers = CollectionsMarshal.AsSpan(pool);
        var known = new Dictionary<int, int>();
        var values = new List<float>();
        var indices = new int[called.Count];
        for (var i = 0; i < called.Count; i++)
        {
            var at = called[i];
            if (at < 0 || (at + 1L) * width > numbers.Length)
                indices[i] = -1;
            else if (!known.TryGetValue(at, out indices[i]))
            {
                known[at] = indices[i] = values.Count / width;
                values.AddRange(numbers.Slice(at * width, width));
            }
        }

        return ([.. values], indices);
    }
}

/// <summary>Everything that the faces of an OBJ call by number.</summary>
internal sealed class ObjPools
{
    public List<float> Points { get; } = [];

    public List<float> Textures { get; } = [];

    public List<float> Normals { get; } = [];

    /// <summary>Red, green and blue of each point; empty until one has them.</summary>
    public List<float> Colours { get; } = [];
}
