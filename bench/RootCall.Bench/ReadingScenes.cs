using System.Globalization;
using System.Text;
using RootCall.Core.Formats.Gltf.Authoring;
using RootCall.Testing;
using SharpGLTF.Schema2;
using static System.FormattableString;

namespace RootCall.Bench;

/// <summary>Reading large scenes, beside reading the same bytes with <c>cat</c> and <c>wc -l</c> and beside other readers.</summary>
internal static class ReadingScenes
{
    private const int Slow = 2;

    public static void Run(Place place)
    {
        Obj(place);
        Glb(place);
        Usda(place);
    }

    private static void Beside(string what, string path, params (string Name, Func<double> Time)[] others)
    {
        what = string.Create(CultureInfo.InvariantCulture, $"{what}, {new FileInfo(path).Length / 1e6:0} MB");
        var before = GC.GetTotalAllocatedBytes(precise: true);
        Look.Read(path);
        var allocated = GC.GetTotalAllocatedBytes(precise: true) - before;
        var ours = Measure.Best(() => Look.Read(path));
        Measure.Print(what, ours, "cat", Measure.Best(() => Tool.Run("sh", ["-c", $"cat '{path}' > /dev/null"])));
        Measure.Print(what, ours, "wc -l", Measure.Best(() => Tool.Run("wc", ["-l", path])));
        foreach (var (name, time) in others)
            Measure.Print(what, ours, name, time());
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"             allocated {allocated / 1e6:0} MB"));
    }

    private static (string, Func<double>) Assimp(string path) =>
        ("Assimp", () => Measure.Best(() => Tool.Run("assimp", ["info", path, "--raw"]), Slow));

    /// <summary>A grid of a million triangles with UVs and normals.</summary>
    private static void Obj(Place place)
    {
        const int Side = 708;
        var path = place.At("million.obj");
        using (var text = new StreamWriter(path))
        {
            text.Write("o field\n");
            for (var i = 0; i < Side * Side; i++)
                text.Write(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"v {i % Side * 0.013:0.######} {Math.Sin(i) * 0.2:0.######} {i / Side * 0.017:0.######}\nvt "
                            + $"{i % Side / 708.0:0.######} {i / Side / 708.0:0.######}\nvn 0 1 0\n"
                    )
                );
            for (var y = 0; y < Side - 1; y++)
            for (var x = 0; x < Side - 1; x++)
            {
                int a = (y * Side) + x + 1,
                    b = a + 1,
                    c = a + Side,
                    d = c + 1;
                text.Write($"f {a}/{a}/{a} {c}/{c}/{c} {b}/{b}/{b}\nf {b}/{b}/{b} {c}/{c}/{c} {d}/{d}/{d}\n");
            }
        }

        Beside("OBJ of a million triangles", path, Assimp(path));
    }

    private static void Glb(Place place)
    {
        const int Vertices = 4_600_000;
        var path = place.At("large.glb");
        using (var glb = new GlbAuthor())
        {
            var mesh = glb.Mesh(
                "field",
                [
                    new(
                        new float[Vertices * 3],
                        new float[Vertices * 3],
                        [new float[Vertices * 2]],
                        [.. Enumerable.Range(0, Vertices * 3).Select(i => (uint)(i % Vertices))],
                        -1
                    ),
                ]
            );
            glb.Node("field", -1, mesh, []);
            using var file = File.Create(path);
            glb.Write(file);
        }

        Beside(
            "GLB",
            path,
            ("SharpGLTF", () =>
                Measure.Best(() => ModelRoot.Load(path, new ReadSettings { Validation = SharpGLTF.Validation.ValidationMode.Skip }), Slow)
            ),
            Assimp(path)
        );
    }

    /// <summary>Of each mesh.</summary>
    private const int Points = 6_000;

    private static void Usda(Place place)
    {
        const int Meshes = 100;
        var text = new StringBuilder("#usda 1.0\n( metersPerUnit = 1 )\ndef Xform \"World\"\n{\n");
        for (var m = 0; m < Meshes; m++)
        {
            text.Append(
                CultureInfo.InvariantCulture,
                $"    def Mesh \"m{m}\"\n    {{\n        int[] faceVertexCounts = [{string.Join(", ", Enumerable.Repeat(3, Points * 2))}]\n"
            );
            text.Append(
                CultureInfo.InvariantCulture,
                $"        int[] faceVertexIndices = [{string.Join(", ", Enumerable.Range(0, Points * 6).Select(i => i * 7 % Points))}]\n"
            );
            var points = Tuples(i => Invariant($"({i * 0.0137:0.######}, {Math.Sin(i):0.######}, {i * 0.0171:0.######})"));
            text.Append(CultureInfo.InvariantCulture, $"        point3f[] points = [{points}]\n");
            var uvs = Tuples(i => Invariant($"({i * 0.0001:0.######}, {i * 0.0002:0.######})"));
            text.Append(
                CultureInfo.InvariantCulture,
                $"        texCoord2f[] primvars:st = [{uvs}] ( interpolation = \"vertex\" )\n    }}\n"
            );
        }

        var path = place.Put("large.usda", text.Append("}\n").ToString());
        Beside("usda", path, ("tinyusdz", () => Measure.Best(() => Tiny(path), Slow)));
    }

    private static string Tuples(Func<int, string> tuple) => string.Join(", ", Enumerable.Range(0, Points).Select(tuple));

    private static void Tiny(string path)
    {
        const string Script =
            "if (!new usd.TinyUSDZLoaderNative().loadFromBinary(new Uint8Array(readFileSync(args[0])), args[0])) process.exit(1);";
        var said = Tool.Run("node", ["-e", TinyUsdz.Script(Script), path], Path.Combine(Tool.Home, "web"));
        if (said.Status != 0)
            throw new InvalidOperationException(said.Error);
    }
}
