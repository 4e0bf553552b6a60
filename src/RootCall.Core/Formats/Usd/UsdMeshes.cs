using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats.Usd.Composition;
using RootCall.Core.Formats.Usd.Layers;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Usd;

/// <summary>Measures geometry of the UsdGeom schemas and finds the materials bound to it.</summary>
internal sealed class UsdMeshes(UsdBindings bindings, List<ReadNote> notes, string name)
{
    private static readonly HashSet<string> Implicit =
    [
        "Cube",
        "Sphere",
        "Cylinder",
        "Cone",
        "Capsule",
        "Plane",
        "BasisCurves",
        "NurbsCurves",
        "NurbsPatch",
        "Points",
        "TetMesh",
        "Volume",
    ];

    /// <summary>The same geometry, brought in by references many times, is measured once.</summary>
    private readonly Dictionary<(UsdValue?, UsdValue?), (long Vertices, long Faces, long Triangles, Box? Bounds)> measured = [];

    public static bool IsShape(string type) => type == "Mesh" || Implicit.Contains(type);

    public Mesh Read(UsdPrim prim)
    {
        var type = prim.TypeName;
        if (type != "Mesh")
            return new(prim.Name, 0, 0, 0, [], [bindings.PartOf(prim, string.Empty, 0)])
            {
                Id = prim.Path,
                Unmeasured = $"{type} is a shape without faces of its own",
            };
        var (vertices, faces, triangles, bounds) = Measure(prim);
        var uvs = new List<string>();
        bool colours = false,
            normals = prim.Value("normals") is not null;
        foreach (var property in prim.PropertyNames)
        {
            if (!property.StartsWith("primvars:", StringComparison.Ordinal) || property.EndsWith(":indices", StringComparison.Ordinal))
                continue;
            var primvar = property["primvars:".Length..];
            var primvarType = prim.Property(property)?.Spec.TypeName ?? string.Empty;
            normals |= primvar == "normals";
            colours |= primvar is "displayColor";
            if (
                primvarType.StartsWith("texCoord2", StringComparison.Ordinal)
                || (primvarType.StartsWith("float2", StringComparison.Ordinal) && primvar != "skel:jointWeights")
            )
                uvs.Add(primvar);
        }

        return new(prim.Name, vertices, faces, triangles, [.. uvs], Parts(prim, faces, triangles))
        {
            Id = prim.Path,
            HasNormals = normals,
            HasColours = colours,
            Bounds = bounds,
        };
    }

    /// <summary>Subsets with a binding of their own, and the faces that none of them takes.</summary>
    private ImmutableArray<MeshPart> Parts(UsdPrim prim, long faces, long triangles)
    {
        var subsets = Subsets(prim);
        if (subsets.Count == 0)
            return [bindings.PartOf(prim, string.Empty, triangles)];
        var counts = Numbers(prim, "faceVertexCounts");
        var parts = ImmutableArray.CreateBuilder<MeshPart>();
        long taken = 0,
            left = triangles;
        foreach (var subset in subsets)
        {
            var indices = Numbers(subset, "indices");
            var own = (long)indices.Where(i => i >= 0 && i < counts.Length).Sum(i => Math.Max(0, counts[(int)i] - 2));
            taken += indices.Length;
            left -= own;
            parts.Add(bindings.PartOf(subset, subset.Name, own));
        }

        if (taken < faces)
            parts.Add(bindings.PartOf(prim, string.Empty, Math.Max(0, left)));
        return parts.ToImmutable();
    }

    /// <summary>Sets of faces that may have a material of their own.</summary>
    public static List<UsdPrim> Subsets(UsdPrim prim) =>
        [.. prim.Children.Where(c => c.TypeName == "GeomSubset" && c.Value("familyName")?.AsText is null or "materialBind" or "")];

    private (long Vertices, long Faces, long Triangles, Box? Bounds) Measure(UsdPrim prim)
    {
        var (points, counts) = (prim.Value("points"), prim.Value("faceVertexCounts"));
        if (measured.TryGetValue((points, counts), out var known))
            return known;
        var corners = Numbers(prim, "faceVertexCounts");
        long vertices = 0;
        Box? bounds = null;
        try
        {
            vertices = points is UsdNumbers numbers ? numbers.Count : 0;
            var box = new BoxBuilder();
            // The extent is what the author computed; the points are asked only where there is none.
            box.Add(prim.Value("extent") is { } extent && extent.AsNumbers is { Length: 6 } six ? six : points?.AsNumbers ?? []);
            bounds = box.Box;
        }
        catch (CannotUseException e)
        {
            notes.Add(new($"The points of {prim.Path} could not be read: {e.Message}", name));
        }

        return measured[(points, counts)] = (vertices, corners.Length, (long)corners.Sum(c => Math.Max(0, c - 2)), bounds);
    }

    private double[] Numbers(UsdPrim prim, string property)
    {
        try
        {
            return prim.Value(property)?.AsNumbers ?? [];
        }
        catch (CannotUseException e)
        {
            notes.Add(new($"{property} of {prim.Path} could not be read: {e.Message}", name));
            return [];
        }
    }

    /// <summary>The prim's own transform: the ops in their order, the last nearest to the geometry (UsdGeomXformable).</summary>
    public static ImmutableArray<double> Transform(UsdPrim prim)
    {
        var m = Transforms.Identity;
        foreach (var op in prim.Value("xformOpOrder")?.AsNames ?? [])
        {
            if (op == "!resetXformStack!")
                continue;
            var inverse = op.StartsWith("!invert!", StringComparison.Ordinal);
            var attribute = inverse ? op["!invert!".Length..] : op;
            var n = prim.Value(attribute)?.AsNumbers ?? [];
            var kind = attribute.Split(':') is [_, var k, ..] ? k : string.Empty;
            var sign = inverse ? -1 : 1;
            var next = (kind, n.Length) switch
            {
                ("translate", 3) => Transforms.Translation(sign * n[0], sign * n[1], sign * n[2]),
                ("scale", 3) => inverse ? Transforms.Scaling(1 / n[0], 1 / n[1], 1 / n[2]) : Transforms.Scaling(n[0], n[1], n[2]),
                ("rotateX", 1) => Transforms.Rotation(1, 0, 0, sign * n[0]),
                ("rotateY", 1) => Transforms.Rotation(0, 1, 0, sign * n[0]),
                ("rotateZ", 1) => Transforms.Rotation(0, 0, 1, sign * n[0]),
                ("orient", 4) => Transforms.Quaternion(sign * n[1], sign * n[2], sign * n[3], n[0]),
                ("transform", 16) => n,
                (_, 3) when kind.StartsWith("rotate", StringComparison.Ordinal) && kind.Length == 9 => inverse
                    ? Transforms.Euler(new string([.. kind[6..].Reverse()]), -n[0], -n[1], -n[2])
                    : Transforms.Euler(kind[6..], n[0], n[1], n[2]),
                _ => Transforms.Identity,
            };
            m = Transforms.Multiply(next, m);
        }

        return Transforms.Pack(m);
    }
}
