using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Geometry;
using RootCall.Core.Rendering.Frames;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Viewing;

/// <summary>
/// The triangles of a scene, placed as its hierarchy says, with y upwards and the middle of all at the origin. What is no place, or is
/// more than is drawn, is left out and told.
/// </summary>
public sealed record DrawnGeometry(FrameGeometry Geometry, ImmutableArray<string> Told)
{
    /// <summary>Farther out single precision holds no forms any more, and the tracer no rays.</summary>
    private const double Farthest = 1e15;

    /// <summary>The lower and the upper corner of the box around all of it.</summary>
    public required (Vector3 Min, Vector3 Max) Box { get; init; }

    /// <summary>From the scene's space into this one.</summary>
    public required ImmutableArray<double> FromScene { get; init; }

    /// <param name="materialOf">The material of a part, as an index; -1 for none.</param>
    /// <param name="setOf">The UV set that a material reads; empty for the mesh's first.</param>
    /// <exception cref="CannotUseException">Nothing is left to draw.</exception>
    public static DrawnGeometry Of(
        Scene scene,
        IGeometrySource source,
        Func<MeshPart, int> materialOf,
        Func<int, string> setOf,
        Bounds bounds,
        CancellationToken stop
    )
    {
        var building = new Building(scene, materialOf, setOf, bounds);
        var world = Transforms.Worlds(scene);
        // Each mesh is read once, however often it is placed.
        foreach (var placed in scene.Nodes.Select((n, i) => (Node: n, Place: i)).Where(p => Has(scene, p.Node)).GroupBy(p => p.Node.Mesh))
        {
            stop.ThrowIfCancellationRequested();
            building.Add(source, placed.Key, [.. placed.Select(p => world[p.Place])], stop);
            foreach (var (node, _) in placed.Where(p => p.Node.Copies > 1))
                building.Tell(Invariant($"“{node.Name}” is shown once, not {node.Copies:N0} times."));
        }

        return building.Done();
    }

    private static bool Has(Scene scene, SceneNode node) => node.Mesh >= 0 && node.Mesh < scene.Meshes.Length;

    private sealed class Building(Scene scene, Func<MeshPart, int> materialOf, Func<int, string> setOf, Bounds bounds)
    {
        private readonly double[] upright = Transforms.Upright(scene.UpAxis);
        private readonly List<Vector3> points = [];
        private readonly List<Vector3> normals = [];
        private readonly List<Vector2> uvs = [];
        private readonly List<int> materials = [];
        private readonly SortedSet<string> told = new(StringComparer.Ordinal);

        /// <summary>The first place: all others are taken from it, so that single precision holds what lies far out.</summary>
        private (double X, double Y, double Z)? origin;
        private long astray;
        private long tooMany;

        public void Tell(string sentence) => told.Add(sentence);

        public void Add(IGeometrySource source, int index, IReadOnlyList<double[]> places, CancellationToken stop)
        {
            var mesh = scene.Meshes[index];
            if (materials.Count >= bounds.DrawnTriangles)
            {
                tooMany += Math.Max(1, mesh.Triangles) * places.Count;
                return;
            }

            MeshGeometry read;
            try
            {
                read = source.Read(index, stop);
            }
            catch (CannotUseException e)
            {
                Tell($"“{mesh.Name}” is not shown. {e.Message}");
                return;
            }

            if (read.IsSmoothCage)
                Tell("Subdivision surfaces are shown as their cages.");
            foreach (var place in places)
                Place(mesh, read, Transforms.Multiply(place, upright));
        }

        private void Place(Mesh mesh, MeshGeometry read, double[] world)
        {
            var corners = read.Corners.Span;
            var cage = read.IsSmoothCage ? read.SmoothNormals() : null;
            var flipped = Transforms.Determinant(world) < 0 != read.IsLeftHanded;
            var turned = Cofactors(world);
            for (var part = 0; part < Math.Max(1, mesh.Parts.Length); part++)
            {
                var material = part < mesh.Parts.Length ? materialOf(mesh.Parts[part]) : -1;
                var directions = read.Stream(GeometryUse.Normal);
                var set = material >= 0 ? setOf(material) : string.Empty;
                var coordinates = read.Streams.FirstOrDefault(s => s.Use == GeometryUse.Uv && s.Name == set) ?? read.Stream(GeometryUse.Uv);
                var triangles = read.Triangles(part);
                for (var t = 0; t + 2 < triangles.Length; t += 3)
                {
                    if (materials.Count >= bounds.DrawnTriangles)
                    {
                        tooMany += (triangles.Length - t) / 3;
                        break;
                    }

                    var (a, b, c) = (triangles[t], triangles[t + 1], triangles[t + 2]);
                    if (
                        At(read, world, corners[a]) is not { } p
                        || At(read, world, corners[b]) is not { } q
                        || At(read, world, corners[c]) is not { } r
                    )
                    {
                        astray++;
                        continue;
                    }

                    var flat = Vector3.Cross(q - p, r - p) * (flipped ? -1 : 1);
                    foreach (var (place, corner) in (ReadOnlySpan<(Vector3, int)>)[(p, a), (q, b), (r, c)])
                    {
                        points.Add(place);
                        normals.Add(
                            Direction(directions is null ? [] : directions.At(read, corner), cage, corners[corner], turned) ?? Unit(flat)
                        );
                        uvs.Add(Coordinates(coordinates is null ? [] : coordinates.At(read, corner)));
                    }

                    materials.Add(material);
                }
            }
        }

        private Vector3? At(MeshGeometry read, double[] world, int point)
        {
            var p = read.Points.Span.Slice(point * 3, 3);
            var (x, y, z) = Transforms.Apply(world, p[0], p[1], p[2]);
            if (!(Math.Abs(x) < Farthest && Math.Abs(y) < Farthest && Math.Abs(z) < Farthest))
                return null;
            var from = origin ??= (x, y, z);
            return new((float)(x - from.X), (float)(y - from.Y), (float)(z - from.Z));
        }

        private static Vector3? Direction(ReadOnlySpan<float> normal, Vector3[]? cage, int point, double[] turned)
        {
            var n = normal.Length >= 3 ? new Vector3(normal[0], normal[1], normal[2]) : cage?[point] ?? Vector3.Zero;
            var (x, y, z) = Transforms.Apply(turned, n.X, n.Y, n.Z);
            var length = Math.Sqrt((x * x) + (y * y) + (z * z));
            return length > 1e-30 && double.IsFinite(length) ? new((float)(x / length), (float)(y / length), (float)(z / length)) : null;
        }

        /// <summary>glTF counts V downwards.</summary>
        private Vector2 Coordinates(ReadOnlySpan<float> uv)
        {
            if (uv.Length < 2 || !float.IsFinite(uv[0] + uv[1]))
                return Vector2.Zero;
            return new(uv[0], scene.Format.Id is "gltf" or "glb" ? 1 - uv[1] : uv[1]);
        }

        public DrawnGeometry Done()
        {
            if (astray > 0)
                Tell(Invariant($"{astray:N0} triangles lie at no place that can be shown; they were left out."));
            if (tooMany > 0)
                Tell(Invariant($"{tooMany:N0} triangles are more than the {bounds.DrawnTriangles:N0} that are shown; they were left out."));
            if (points.Count == 0)
                throw new CannotUseException(
                    "The scene has no triangles that can be shown." + string.Concat(told.Take(3).Select(t => " " + t))
                );
            var (min, max) = (new Vector3(float.MaxValue), new Vector3(float.MinValue));
            foreach (var point in points)
                (min, max) = (Vector3.Min(min, point), Vector3.Max(max, point));
            var middle = (min + max) / 2;
            var (x, y, z) = origin!.Value;
            return new(
                new()
                {
                    Points = [.. points.Select(p => p - middle)],
                    Normals = [.. normals],
                    Uvs = [.. uvs],
                    Materials = [.. materials],
                },
                [.. told]
            )
            {
                Box = (min - middle, max - middle),
                FromScene = [.. Transforms.Multiply(upright, Transforms.Translation(-x - middle.X, -y - middle.Y, -z - middle.Z))],
            };
        }

        private static Vector3 Unit(Vector3 v)
        {
            var length = v.Length();
            return length > 0 && float.IsFinite(length) ? v / length : Vector3.UnitY;
        }
    }

    /// <summary>How directions across a surface turn: the inverse transposed, but for its scale and with its sign.</summary>
    private static double[] Cofactors(ReadOnlySpan<double> m)
    {
        var sign = Transforms.Determinant(m) < 0 ? -1 : 1;
        double[] turned = Transforms.Identity;
        for (var r = 0; r < 3; r++)
        for (var c = 0; c < 3; c++)
        {
            int r1 = (r + 1) % 3,
                r2 = (r + 2) % 3,
                c1 = (c + 1) % 3,
                c2 = (c + 2) % 3;
            turned[(r * 4) + c] = sign * ((m[(r1 * 4) + c1] * m[(r2 * 4) + c2]) - (m[(r1 * 4) + c2] * m[(r2 * 4) + c1]));
        }

        return turned;
    }
}
