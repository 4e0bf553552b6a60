using System.Text.Json.Nodes;
using RootCall.Core.Files;
using RootCall.Core.Geometry;
using RootCall.Native;
using RootCall.Testing;
using SharpGLTF.Schema2;
using SharpGLTF.Validation;

namespace RootCall.Core.Tests.Geometry;

/// <summary>
/// Every value of every corner beside SharpGLTF, and what is packed beside the encoder of the npm package meshoptimizer.
/// </summary>
public sealed class GltfGeometryTests : IDisposable
{
    private const string Models = "/usr/share/assimp/models/glTF2";
    private readonly Place place = new();

    public static TheoryData<string> Files =>
        [
            .. Directory
                .EnumerateFiles(Models, "*.gl*", SearchOption.AllDirectories)
                .Where(f => f.EndsWith(".gltf", StringComparison.Ordinal) || f.EndsWith(".glb", StringComparison.Ordinal))
                .Where(f => !Unreadable.Any(u => f.Contains(u, StringComparison.Ordinal)))
                .Select(f => Path.GetRelativePath(Models, f))
                .Order(StringComparer.Ordinal),
        ];

    /// <summary>Broken on purpose, of glTF 1, or compressed (which Assimp is asked about).</summary>
    private static readonly string[] Unreadable =
    [
        "draco",
        "MissingBin",
        "SchemaFailures",
        "wrongTypes",
        "IndexOutOfRange",
        "IncorrectVertexArrays",
        "Infinites",
        "techniqueWebGL",
        "RecursiveNodes",
    ];

    [Theory]
    [MemberData(nameof(Files))]
    public void Every_corner_has_what_SharpGLTF_gives_it(string file)
    {
        var theirs = ModelRoot.Load($"{Models}/{file}", new ReadSettings { Validation = ValidationMode.Skip });
        var corners = 0;
        foreach (var ((mesh, geometry), logical) in Shapes.Of($"{Models}/{file}").Zip(theirs.LogicalMeshes))
        {
            Assert.Equal(mesh.Name, logical.Name ?? mesh.Name);
            for (var p = 0; p < logical.Primitives.Count; p++)
            {
                var primitive = logical.Primitives[p];
                // It leaves out triangles that are lines, and begins those of strips and fans with another corner.
                var triangles = primitive.GetTriangleIndices().Select(t => Turned([t.A, t.B, t.C], v => v)).ToList();
                var ours = geometry
                    .Triangles(p)
                    .Chunk(3)
                    .Select(t => Turned(t, c => geometry.Corners.Span[c]))
                    .Where(t => t.Select(c => geometry.Corners.Span[c]).Distinct().Count() == 3)
                    .ToList();
                Assert.Equal(triangles.Count, ours.Count);
                foreach (var (corner, vertex) in ours.SelectMany(t => t).Zip(triangles.SelectMany(t => t)))
                {
                    corners++;
                    Same(primitive, "POSITION", vertex, geometry.Points.Span.Slice(geometry.Corners.Span[corner] * 3, 3));
                    foreach (var stream in geometry.Streams)
                        Same(primitive, stream.Name, vertex, stream.At(geometry, corner));
                }
            }
        }

        Assert.True(
            corners > 0 || theirs.LogicalMeshes.Count == 0 || file.Contains("PrimitiveMode", StringComparison.Ordinal),
            "no corner was compared"
        );
    }

    [Theory]
    [InlineData("float", 12, MeshoptFilter.None, 0)]
    [InlineData("octahedral", 4, MeshoptFilter.Octahedral, 0.02)]
    [InlineData("exponential", 12, MeshoptFilter.Exponential, 0.001)]
    [InlineData("triangles", 4, MeshoptFilter.None, 0)]
    [InlineData("sequence", 4, MeshoptFilter.None, 0)]
    public void What_another_encoder_packed_is_unpacked(string what, int stride, MeshoptFilter filter, double tolerance)
    {
        var said = Tool.Run("node", ["--input-type=module", "-e", Packing, what, place.At("packed")], Path.Combine(Tool.Home, "web"));
        Assert.True(said.Status == 0, said.Output + said.Error);
        var packed = File.ReadAllBytes(place.At("packed"));
        var values = JsonNode.Parse(said.Output)!.AsArray().Select(v => v!.GetValue<double>()).ToArray();
        var mode = what switch
        {
            "triangles" => MeshoptMode.Triangles,
            "sequence" => MeshoptMode.Indices,
            _ => MeshoptMode.Attributes,
        };
        var count = mode == MeshoptMode.Attributes ? values.Length / 3 : values.Length;
        using var decoder = new MeshDecoder(Bounds.Default);
        var bytes = decoder.UnpackView(packed, new(count, stride, mode, filter), CancellationToken.None);
        double At(int i) =>
            filter == MeshoptFilter.Octahedral ? (sbyte)bytes[(i / 3 * 4) + (i % 3)] / 127.0
            : mode == MeshoptMode.Attributes ? BitConverter.ToSingle(bytes, i * 4)
            : BitConverter.ToInt32(bytes, i * 4);
        var order = Enumerable.Range(0, values.Length).ToArray();
        // Triangles may begin with another corner.
        var (theirs, ours) =
            mode == MeshoptMode.Triangles
                ? (
                    order.Chunk(3).SelectMany(t => Turned(t, i => (int)values[i])),
                    order.Chunk(3).SelectMany(t => Turned(t, i => (int)At(i)))
                )
                : (order, order.AsEnumerable());
        foreach (var (their, our) in theirs.Zip(ours))
            Assert.InRange(At(our), values[their] - tolerance, values[their] + tolerance);
        // Half of it is no more than half of it, whatever it says.
        Assert.Throws<CannotUseException>(() =>
            decoder.UnpackView(packed.AsSpan(0, packed.Length / 2), new(count, stride, mode, filter), default)
        );
        Assert.Equal(bytes, decoder.UnpackView(packed, new(count, stride, mode, filter), CancellationToken.None));
    }

    [Fact]
    public void A_decoder_that_is_given_nonsense_says_so_and_goes_on()
    {
        using var decoder = new MeshDecoder(Bounds.Default);
        var random = new Random(3);
        for (var n = 0; n < 60; n++)
        {
            var bytes = new byte[random.Next(1, 2_000)];
            random.NextBytes(bytes);
            "DRACO"u8.CopyTo(n % 2 == 0 && bytes.Length > 5 ? bytes : new byte[5]);
            var e = Assert.Throws<CannotUseException>(() => decoder.UnpackMesh(bytes, [0, 1], CancellationToken.None));
            Assert.StartsWith("The compressed geometry ", e.Message, StringComparison.Ordinal);
        }

        var large = new MeshoptView(int.MaxValue, 256, MeshoptMode.Attributes, MeshoptFilter.None);
        Assert.Contains(
            "more than is unpacked",
            Assert.Throws<CannotUseException>(() => decoder.UnpackView([1], large, default)).Message,
            StringComparison.Ordinal
        );
    }

    public void Dispose() => place.Dispose();

    private static void Same(MeshPrimitive primitive, string name, int vertex, ReadOnlySpan<float> ours)
    {
        if (primitive.GetVertexAccessor(name) is not { } accessor)
        {
            Assert.True(ours.IsEmpty, $"{name} is not there");
            return;
        }

        float[] theirs = name switch
        {
            "POSITION" or "NORMAL" => Of(accessor.AsVector3Array()[vertex]),
            "TANGENT" => Of(accessor.AsVector4Array()[vertex]),
            _ when name.StartsWith("TEXCOORD", StringComparison.Ordinal) => Of(accessor.AsVector2Array()[vertex]),
            _ => Of(accessor.AsColorArray()[vertex]),
        };
        for (var i = 0; i < ours.Length; i++)
            Assert.Equal(theirs[i], ours[i], 1e-6f);
    }

    /// <summary>The same triangle, from its lowest corner on.</summary>
    private static int[] Turned(int[] triangle, Func<int, int> order)
    {
        var first = triangle.Index().MinBy(t => order(t.Item)).Index;
        return [triangle[first], triangle[(first + 1) % 3], triangle[(first + 2) % 3]];
    }

    private static float[] Of(System.Numerics.Vector2 v) => [v.X, v.Y];

    private static float[] Of(System.Numerics.Vector3 v) => [v.X, v.Y, v.Z];

    private static float[] Of(System.Numerics.Vector4 v) => [v.X, v.Y, v.Z, v.W];

    /// <summary>Packs numbers and says which they were.</summary>
    private const string Packing = """
        import { MeshoptEncoder as encoder } from 'meshoptimizer';
        import { writeFileSync } from 'fs';
        const [what, file] = process.argv.slice(-2);
        await encoder.ready;
        const count = 300, directions = new Float32Array(count * 4), points = new Float32Array(count * 3);
        for (let i = 0; i < count; i++) {
          const a = i * 0.37, b = Math.cos(i * 0.11);
          const d = [Math.cos(a) * Math.sqrt(1 - b * b), Math.sin(a) * Math.sqrt(1 - b * b), b];
          for (let k = 0; k < 3; k++) { directions[i * 4 + k] = d[k]; points[i * 3 + k] = d[k] * (1 + i); }
        }
        const indices = new Uint32Array(count * 3).map((_, i) => (i * 7) % count);
        const bytes = (array) => new Uint8Array(array.buffer, array.byteOffset, array.byteLength);
        const [packed, values] = {
          float: () => [encoder.encodeGltfBuffer(bytes(points), count, 12, 'ATTRIBUTES'), points],
          octahedral: () => [
            encoder.encodeGltfBuffer(bytes(encoder.encodeFilterOct(directions, count, 4, 8)), count, 4, 'ATTRIBUTES'),
            [...directions].filter((_, i) => i % 4 < 3),
          ],
          exponential: () => [
            encoder.encodeGltfBuffer(bytes(encoder.encodeFilterExp(points, count, 12, 23)), count, 12, 'ATTRIBUTES'),
            points,
          ],
          triangles: () => [encoder.encodeGltfBuffer(bytes(indices), count * 3, 4, 'TRIANGLES'), indices],
          sequence: () => [encoder.encodeGltfBuffer(bytes(indices), count * 3, 4, 'INDICES'), indices],
        }[what]();
        writeFileSync(file, packed);
        console.log(JSON.stringify([...values]));
        """;
}
