using RootCall.Core.Files;
using RootCall.Core.Formats.Usd.Composition;
using RootCall.Core.Formats.Usd.Layers;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Usd;

/// <summary>
/// The polygons of UsdGeomMesh prims with their primvars (OpenUSD, UsdGeom schemas: "Mesh", "Primvar interpolation"). The stage is
/// composed anew when the first mesh is asked for.
/// </summary>
internal sealed class UsdGeometry(Scene scene, ReadContext context) : IGeometrySource
{
    private UsdStage? stage;

    public void Dispose() => stage = null;

    public MeshGeometry Read(int mesh, CancellationToken stop = default)
    {
        var measured = scene.Meshes[mesh];
        stop.ThrowIfCancellationRequested();
        // The stage outlives the question: it must not stop when that does.
        stage ??= Compose(scene.Path, context with { Stop = CancellationToken.None });
        if (stage.Find(measured.Id) is not { } prim)
            throw new CannotUseException($"The mesh {measured.Name} is not in the scene any more.");
        if (prim.TypeName != "Mesh")
            throw new CannotUseException($"{measured.Name} is a {prim.TypeName}, a shape without faces of its own.");
        return new Reading(prim, new(context.Bounds, measured.Name)).Read();
    }

    private static UsdStage Compose(string path, ReadContext context)
    {
        var notes = new List<ReadNote>();
        var layers = new UsdLayers(path, context, new(Path.GetDirectoryName(path)!, path), notes);
        return new(layers, layers.Open(), context, notes);
    }

    private sealed class Reading(UsdPrim prim, GeometryBudget budget)
    {
        private const string Primvars = "primvars:";
        private readonly GeometryBuilder builder = new(budget);
        private readonly List<Func<int, int, int, int>> calls = [];

        public MeshGeometry Read()
        {
            builder.Points = Floats("points");
            var (sizes, corners) = (Integers(prim, "faceVertexCounts"), Integers(prim, "faceVertexIndices"));
            // Normals as a primvar are stronger than the attribute of that name.
            if (!Stream(GeometryUse.Normal, "primvars:normals", 3, "constant"))
                Stream(GeometryUse.Normal, "normals", 3, "vertex");
            foreach (var property in prim.PropertyNames)
                if (UseOf(property) is { } stream)
                    Stream(stream.Use, property, stream.Width, "constant");
            var parts = Parts(sizes.Length);
            var first = 0;
            for (var face = 0; face < sizes.Length; face++)
            {
                var size = sizes[face];
                if (size < 0 || first + (long)size > corners.Length)
                    break;
                var indices = new int[calls.Count][];
                for (var s = 0; s < calls.Count; s++)
                {
                    indices[s] = new int[size];
                    for (var c = 0; c < size; c++)
                        indices[s][c] = calls[s](face, first + c, corners[first + c]);
                }

                builder.Face(corners.AsSpan(first, size), parts[face], indices);
                first += size;
            }

            return builder.Build(Surface(), prim.Value("orientation")?.AsText == "leftHanded");
        }

        /// <summary>A mesh that says nothing else is a Catmull-Clark cage, in USD.</summary>
        private SurfaceKind Surface() =>
            prim.Value("subdivisionScheme")?.AsText switch
            {
                "none" => SurfaceKind.Polygons,
                "loop" => SurfaceKind.LoopCage,
                "bilinear" => SurfaceKind.BilinearCage,
                _ => SurfaceKind.CatmullClarkCage,
            };

        /// <summary>Texture coordinates, colours and tangents among the primvars, by type and name.</summary>
        private (GeometryUse Use, int Width)? UseOf(string property)
        {
            if (!property.StartsWith(Primvars, StringComparison.Ordinal) || property.EndsWith(":indices", StringComparison.Ordinal))
                return null;
            var type = prim.Property(property)?.Spec.TypeName ?? string.Empty;
            var name = property[Primvars.Length..];
            if (name == "displayColor")
                return (GeometryUse.Colour, 3);
            if (name is "tangents")
                return (GeometryUse.Tangent, type.Contains('4', StringComparison.Ordinal) ? 4 : 3);
            return
                type.StartsWith("texCoord2", StringComparison.Ordinal)
                || (type.StartsWith("float2", StringComparison.Ordinal) && name != "skel:jointWeights")
                ? (GeometryUse.Uv, 2)
                : null;
        }

        private bool Stream(GeometryUse use, string property, int width, string standard)
        {
            var values = Floats(property);
            if (values.Length < width || values.Length % width != 0)
                return false;
            var interpolation = prim.Property(property, p => p.Metadata.ContainsKey("interpolation"))?.Spec.Metadata["interpolation"].AsText
                ?? standard;
            var indices = Integers(prim, $"{property}:indices");
            int At(int place) =>
                indices.Length == 0 ? place
                : (uint)place < (uint)indices.Length ? indices[place]
                : -1;
            builder.Indexed(
                use,
                property.StartsWith(Primvars, StringComparison.Ordinal) ? property[Primvars.Length..] : property,
                width,
                values
            );
            calls.Add(
                interpolation switch
                {
                    "faceVarying" => (_, corner, _) => At(corner),
                    "uniform" => (face, _, _) => At(face),
                    "vertex" or "varying" => (_, _, point) => At(point),
                    _ => (_, _, _) => At(0),
                }
            );
            return true;
        }

        /// <summary>The part of each face, as the scene's parts are: subsets in their order, then what none of them takes.</summary>
        private int[] Parts(int faces)
        {
            var subsets = UsdMeshes.Subsets(prim);
            var parts = budget.Integers(faces);
            Array.Fill(parts, subsets.Count);
            for (var s = subsets.Count - 1; s >= 0; s--)
                foreach (var face in Integers(subsets[s], "indices"))
                    if ((uint)face < (uint)faces)
                        parts[face] = s;
            return parts;
        }

        private float[] Floats(string property)
        {
            var value = prim.Value(property);
            if (value is not UsdNumbers numbers)
                return [];
            budget.Take(numbers.Count * numbers.Width, sizeof(float) + sizeof(double));
            return Array.ConvertAll(numbers.All(), n => (float)n);
        }

        private int[] Integers(UsdPrim of, string property)
        {
            if (of.Value(property) is not UsdNumbers numbers)
                return [];
            budget.Take(numbers.Count * numbers.Width, sizeof(int) + sizeof(double));
            return Array.ConvertAll(numbers.All(), n => n is >= int.MinValue and <= int.MaxValue ? (int)n : -1);
        }
    }
}
