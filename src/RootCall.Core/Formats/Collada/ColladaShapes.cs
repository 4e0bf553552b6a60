using RootCall.Core.Files;
using RootCall.Core.Formats.Xml;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Collada;

/// <summary>The polygons of a geometry (COLLADA 1.4.1, chapter 5: "mesh", "polylist", "polygons", "tristrips", "trifans").</summary>
internal sealed class ColladaShapes(ColladaDocument document, Scene scene, Bounds bounds) : IGeometrySource
{
    public void Dispose() { }

    public MeshGeometry Read(int mesh, CancellationToken stop = default)
    {
        var measured = scene.Meshes[mesh];
        var geometry = document.Find(measured.Id) is { Name: "geometry" } found
            ? found
            : document.Library("library_geometries", "geometry").FirstOrDefault(g => (g["name"] ?? "geometry") == measured.Id);
        if (geometry?.Child("mesh") is not { } tree)
            throw new CannotUseException($"The mesh {measured.Name} is not in the file any more.");
        return new Reading(document, tree, new(bounds, measured.Name), stop).Read();
    }

    private sealed class Reading(ColladaDocument document, XmlTree mesh, GeometryBudget budget, CancellationToken stop)
    {
        private readonly GeometryBuilder builder = new(budget);
        private readonly Dictionary<string, Values> streams = new(StringComparer.Ordinal);

        /// <summary>A stream that several primitives may fill from sources of their own.</summary>
        private sealed class Values(int place, int width)
        {
            public int Place => place;

            public int Width => width;

            public List<float> All { get; } = [];

            /// <summary>Where the values of each source begin.</summary>
            public Dictionary<XmlTree, int> Starts { get; } = [];
        }

        /// <param name="First">Where its source's values begin in the stream.</param>
        private sealed record Input(int Offset, Values? Stream, int First);

        public MeshGeometry Read()
        {
            var vertices = mesh.Child("vertices");
            var position = vertices?.All("input").FirstOrDefault(i => i["semantic"] == "POSITION");
            builder.Points = Source(document.Find(position?["source"]), 3);
            // All inputs of all primitives first: each face says something of every stream.
            var primitives = mesh
                .Children.Where(c => c.Name is "triangles" or "polylist" or "polygons" or "trifans" or "tristrips")
                .Select((p, part) => (Tree: p, Part: part, Inputs: Inputs(p, vertices)))
                .ToList();
            foreach (var (tree, part, inputs) in primitives)
            {
                stop.ThrowIfCancellationRequested();
                var stride = tree.All("input").Select(OffsetOf).DefaultIfEmpty(0).Max() + 1;
                var point = tree.All("input").Where(i => i["semantic"] == "VERTEX").Select(OffsetOf).FirstOrDefault();
                foreach (var (corners, first, size) in Faces(tree, stride))
                    Face(corners, first, size, stride, point, part, inputs);
            }

            foreach (var stream in streams.Values)
                builder.Fill(stream.Place, stream.All.ToArray());
            return builder.Build();
        }

        private void Face(int[] numbers, int first, int size, int stride, int point, int part, List<Input> inputs)
        {
            Span<int> points = size <= 64 ? stackalloc int[size] : new int[size];
            for (var c = 0; c < size; c++)
                points[c] = numbers[((first + c) * stride) + point];
            var indices = new int[streams.Count][];
            foreach (var input in inputs)
            {
                if (input.Stream is not { } stream)
                    continue;
                var own = indices[stream.Place] = new int[size];
                for (var c = 0; c < size; c++)
                    own[c] = input.First + numbers[((first + c) * stride) + input.Offset];
            }

            builder.Face(points, part, indices);
        }

        private List<Input> Inputs(XmlTree primitive, XmlTree? vertices)
        {
            var inputs = new List<Input>();
            foreach (var input in primitive.All("input"))
            {
                if (input["semantic"] == "VERTEX")
                    // What hangs on the vertices is called by their number.
                    foreach (var inner in vertices?.All("input") ?? [])
                        Add(inner, OffsetOf(input));
                else
                    Add(input, OffsetOf(input));
            }

            return inputs;

            void Add(XmlTree input, int offset)
            {
                GeometryUse? use = input["semantic"] switch
                {
                    "NORMAL" => GeometryUse.Normal,
                    "TEXCOORD" => GeometryUse.Uv,
                    "COLOR" => GeometryUse.Colour,
                    "TEXTANGENT" or "TANGENT" => GeometryUse.Tangent,
                    _ => null,
                };
                if (use is not { } known || document.Find(input["source"]) is not { } source)
                    return;
                var width = known switch
                {
                    GeometryUse.Uv => 2,
                    GeometryUse.Colour => Math.Clamp(Stride(source), 3, 4),
                    _ => 3,
                };
                var name = $"{input["semantic"]}{input["set"] ?? "0"}";
                if (!streams.TryGetValue(name, out var stream))
                    streams[name] = stream = new(builder.Indexed(known, name, width, default), width);
                if (!stream.Starts.TryGetValue(source, out var first))
                {
                    stream.Starts[source] = first = stream.All.Count / stream.Width;
                    stream.All.AddRange(Source(source, stream.Width));
                }

                inputs.Add(new(offset, stream, first));
            }
        }

        /// <summary>The faces of a primitive: its numbers, the first corner of each, and how many it has.</summary>
        private IEnumerable<(int[] Corners, int First, int Size)> Faces(XmlTree primitive, int stride)
        {
            switch (primitive.Name)
            {
                case "triangles":
                    foreach (var p in primitive.All("p").Select(Whole))
                        for (var c = 0; c + 3 <= p.Length / stride; c += 3)
                            yield return (p, c, 3);
                    break;
                case "polylist":
                    var (counts, all) = (Whole(primitive.Child("vcount")), Whole(primitive.Child("p")));
                    var first = 0;
                    foreach (var size in counts)
                    {
                        if (size < 0 || first + (long)size > all.Length / stride)
                            break;
                        yield return (all, first, size);
                        first += size;
                    }

                    break;
                case "polygons":
                    foreach (var p in primitive.All("p").Concat(primitive.All("ph").SelectMany(h => h.All("p"))).Select(Whole))
                        yield return (p, 0, p.Length / stride);
                    break;
                default:
                    foreach (var p in primitive.All("p").Select(Whole))
                        for (var i = 0; i + 2 < p.Length / stride; i++)
                            yield return (Triangle(p, stride, i, primitive.Name == "tristrips"), 0, 3);
                    break;
            }
        }

        /// <summary>In a strip every second triangle is turned, so that all have the same front.</summary>
        private static int[] Triangle(int[] p, int stride, int i, bool strip)
        {
            int[] corners = strip
                ? i % 2 == 0
                    ? [i, i + 1, i + 2]
                    : [i + 1, i, i + 2]
                : [0, i + 1, i + 2];
            return [.. corners.SelectMany(c => p[(c * stride)..((c + 1) * stride)])];
        }

        private static int OffsetOf(XmlTree input) => int.TryParse(input["offset"], out var o) && o is >= 0 and < 256 ? o : 0;

        private static int Stride(XmlTree source) =>
            int.TryParse(source.Child("technique_common")?.Child("accessor")?["stride"], out var s) && s > 0 ? s : 1;

        /// <summary>The first numbers of each element of a source.</summary>
        private float[] Source(XmlTree? source, int width)
        {
            var numbers = document.Numbers(source?.Child("float_array"));
            var stride = source is null ? width : Math.Max(Stride(source), width);
            var values = budget.Floats(numbers.Length / stride * (long)width);
            for (var i = 0; i < values.Length; i++)
                values[i] = (float)numbers[(i / width * stride) + (i % width)];
            return values;
        }

        private int[] Whole(XmlTree? tree)
        {
            var numbers = document.Numbers(tree);
            budget.Take(numbers.Length, sizeof(double) + sizeof(int));
            return Array.ConvertAll(numbers, n => n is >= int.MinValue and <= int.MaxValue ? (int)n : -1);
        }
    }
}
