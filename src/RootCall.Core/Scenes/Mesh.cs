using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace RootCall.Core.Scenes;

/// <summary>A place in the hierarchy.</summary>
/// <param name="Parent">Index of the parent, or -1.</param>
/// <param name="Mesh">Index into <see cref="Scene.Meshes"/>, or -1.</param>
public sealed record SceneNode(string Name, int Parent, int Mesh)
{
    /// <summary>Row-major 4x4 matrix for row vectors, relative to the parent; empty for the identity.</summary>
    public ImmutableArray<double> Transform { get; init; } = [];

    /// <summary>Index in the file's own list of nodes; -1 where it has none.</summary>
    public int Place { get; init; } = -1;

    /// <summary>Copies that an instancing extension or point instancer makes of what hangs here; 1 otherwise.</summary>
    public int Copies { get; init; } = 1;
}

/// <summary>What was measured of a mesh. The geometry itself stays in the file.</summary>
/// <param name="Vertices">Points as the format stores them.</param>
/// <param name="Faces">Polygons as the format stores them.</param>
/// <param name="Triangles">After cutting each polygon of n corners into n - 2.</param>
/// <param name="UvSets">Names in the order of the file.</param>
/// <param name="Parts">Faces by material; at least one.</param>
public sealed record Mesh(
    string Name,
    long Vertices,
    long Faces,
    long Triangles,
    ImmutableArray<string> UvSets,
    ImmutableArray<MeshPart> Parts
)
{
    /// <summary>Prim path or JSON pointer; the name where the format has no more.</summary>
    public string Id { get; init; } = Name;

    /// <summary>Id of the mesh that one which comes into being is like; null for one that is in the file.</summary>
    public string? CopyOf { get; init; }

    public bool HasNormals { get; init; }

    public bool HasColours { get; init; }

    /// <summary>In the mesh's own space; null when the file does not tell without reading geometry that is not there.</summary>
    public Box? Bounds { get; init; }

    /// <summary>Why the geometry was not measured, for example a compression without a decoder; null when it was.</summary>
    public string? Unmeasured { get; init; }
}

/// <summary>Faces that share a material.</summary>
/// <param name="Name">Subset, primitive or group; empty when the mesh has one part.</param>
/// <param name="Material">Name of the material; empty when none is assigned.</param>
public sealed record MeshPart(string Name, string Material, long Triangles)
{
    /// <summary>Id of that material, where the format assigns by more than a name; empty otherwise.</summary>
    public string MaterialId { get; init; } = string.Empty;

    public BoundBy Bound { get; init; } = BoundBy.Itself;

    /// <summary>Triangles without UV coordinates, where a format can leave them out face by face or part by part.</summary>
    public long WithoutUvs { get; init; }

    /// <summary>The material that each variant of the scene gives it, where the file says so (KHR_materials_variants).</summary>
    public ImmutableDictionary<string, string> ByVariant { get; init; } = ImmutableDictionary<string, string>.Empty;
}

/// <summary>Who decides the material of a part.</summary>
public enum BoundBy
{
    /// <summary>The part or its mesh, in a field of its own.</summary>
    Itself,

    /// <summary>What it lies under, or nobody: it says nothing itself.</summary>
    Above,

    /// <summary>Something that is stronger than the part's own field.</summary>
    Stronger,
}

public readonly record struct Point3(double X, double Y, double Z);

/// <summary>An axis-aligned box.</summary>
public readonly record struct Box(Point3 Min, Point3 Max)
{
    [JsonIgnore]
    public Point3 Size => new(Max.X - Min.X, Max.Y - Min.Y, Max.Z - Min.Z);
}

/// <summary>Grows a box around points one by one.</summary>
internal struct BoxBuilder
{
    private double minX = double.PositiveInfinity;
    private double minY = double.PositiveInfinity;
    private double minZ = double.PositiveInfinity;
    private double maxX = double.NegativeInfinity;
    private double maxY = double.NegativeInfinity;
    private double maxZ = double.NegativeInfinity;

    public BoxBuilder() { }

    public readonly Box? Box => minX <= maxX && minY <= maxY && minZ <= maxZ ? new(new(minX, minY, minZ), new(maxX, maxY, maxZ)) : null;

    public void Add(double x, double y, double z)
    {
        (minX, maxX) = (Math.Min(minX, x), Math.Max(maxX, x));
        (minY, maxY) = (Math.Min(minY, y), Math.Max(maxY, y));
        (minZ, maxZ) = (Math.Min(minZ, z), Math.Max(maxZ, z));
    }

    /// <summary>Points as x y z in a row.</summary>
    public void Add(ReadOnlySpan<double> points)
    {
        for (var i = 0; i + 2 < points.Length; i += 3)
            Add(points[i], points[i + 1], points[i + 2]);
    }
}
