using System.Text;
using RootCall.Testing;

namespace RootCall.Faults.Tests;

/// <summary>
/// Small inputs that ask for much: circles, doubled references, chains, numbers that are none, things that are no files. Each
/// is audited by the delivered command line, which ends with one of its three statuses.
/// </summary>
public sealed class CostlyInputTests : IDisposable
{
    private const string Triangle = "v 0 0 0\nv 1 0 0\nv 0 1 0\n";
    private readonly Place place = new();

    public static TheoryData<string> Names => [.. Inputs.Keys];

    /// <summary>File name, and its text.</summary>
    private static readonly Dictionary<string, Func<string>> Inputs = new()
    {
        // USD: a circle through nested prims, doubled references, a chain of them, inherits, connections, nesting of everything.
        ["circle.usda"] = () => Usda("def \"a\" (references=</a/b>) { def \"b\" (references=</a>) {} }"),
        ["doubled.usda"] = () =>
            Usda("def \"p0\" { def Mesh \"m\" {} }\n" + Many(1, 30, i => $"def \"p{i}\" {{ {Refers("x", i)} {Refers("y", i)} }}\n")),
        ["chain.usda"] = () => Usda(Many(0, 10_000, i => $"def \"p{i}\" (references=</p{i + 1}/x>) {{ def \"x\" {{}} }}\n")),
        ["inherits.usda"] = () => Usda(Many(0, 40, i => $"class \"c{i}\" (inherits=[</c{i + 1}>,</c{i + 2}>]) {{}}\n")),
        ["connections.usda"] = () =>
            Usda(
                "def Material \"m\" { token outputs:surface.connect = </m/n0.outputs:o>\n"
                    + Many(0, 5_000, i =>
                        $"def Shader \"n{i}\" {{ uniform token info:id=\"X\"\n{Takes("a", i)}{Takes("b", i)}token outputs:o }}\n"
                    )
                    + "}"
            ),
        ["deep.usda"] = () => Usda(Nested("def \"a\" {\n", "}\n", 100_000)),
        ["array.usda"] = () => Usda($"def \"a\" {{ float[] x = {Nested("[", "]", 100_000)} }}"),
        ["dictionary.usda"] = () => Usda($"def \"a\" ( customData = {Nested("{ dictionary a = ", "}", 20_000)} ) {{}}"),

        // glTF: a path as long as a book, deep and doubled hierarchies, counts beyond everything.
        ["long.gltf"] = () => Look.Gltf(Repeated("a/", 100_000) + "x.png"),
        ["deep.gltf"] = () => Gltf(Many(0, 100_000, i => i > 0 ? $",{{\"children\":[{i + 1}]}}" : "{\"children\":[1]}") + ",{}"),
        ["doubled.gltf"] = () => Gltf(Many(0, 40, i => $"{{\"children\":[{i + 1},{i + 1}]}},") + "{}"),
        ["counts.gltf"] = () =>
            Gltf("{\"mesh\":0}", ",\"accessors\":[{\"count\":1e18}],\"meshes\":[{\"primitives\":[{\"attributes\":{\"POSITION\":0}}]}]"),

        // MaterialX: a chain, a doubled chain, inheritance, graphs in graphs.
        ["chain.mtlx"] = () => Mtlx(10_000, i => $"<input name=\"in1\" type=\"color3\" nodename=\"n{i - 1}\"/>"),
        ["doubled.mtlx"] = () => Mtlx(60, i => Many(1, 2, k => $"<input name=\"in{k}\" type=\"color3\" nodename=\"n{i - 1}\"/>")),
        ["inherited.mtlx"] = () =>
            Documents(
                Many(0, 5_000, i =>
                    $"<standard_surface name=\"s{i}\" type=\"surfaceshader\" inherit=\"s{i + 1}\">"
                    + $"<input name=\"i{i}\" type=\"float\" value=\"1\"/></standard_surface>"
                ),
                "s0"
            ),
        ["graphs.mtlx"] = () =>
            Documents(
                Many(0, 5_000, i => $"<nodegraph name=\"g{i}\"><output name=\"out\" type=\"color3\" nodegraph=\"g{i}\"/></nodegraph>")
                    + "<standard_surface name=\"s\" type=\"surfaceshader\"><input name=\"base_color\" type=\"color3\" nodegraph=\"g0\"/>"
                    + "</standard_surface>",
                "s"
            ),
        ["deep.mtlx"] = () => $"<materialx version=\"1.38\">{Nested("<a>", "</a>", 100_000)}</materialx>",

        // COLLADA and FBX: doubled instances, nesting.
        ["doubled.dae"] = () =>
            Dae(Many(0, 40, i => $"<node id=\"n{i}\">{Repeated($"<instance_node url=\"#n{i + 1}\"/>", 2)}</node>") + "<node id=\"n41\"/>"),
        ["deep.dae"] = () => Dae(Nested("<node>", "</node>", 100_000)),
        ["deep.fbx"] = () => "; FBX 7.4.0 project file\n" + Nested("A: {\n", "}\n", 100_000),

        // OBJ, MTL, PLY: hundreds of thousands of statements, one endless statement, numbers that are none, rows of nothing.
        ["groups.obj"] = () => Triangle + Many(0, 300_000, i => $"g g{i}\nf 1 2 3\n"),
        ["face.obj"] = () => "v 0 0 0\nf " + Repeated("1 ", 5_000_000),
        ["libraries.obj"] = () => Many(0, 100_000, i => $"mtllib a{i}.mtl\n") + Triangle,
        ["numbers.obj"] = () => "mtllib numbers.mtl\nv nan 1e400 0\n" + Triangle + "usemtl a\nf 1 2 3\n",
        ["same.obj"] = () => "mtllib same.mtl\n" + Triangle,
        ["rows.ply"] = () => "ply\nformat binary_little_endian 1.0\nelement vertex 9000000000000000000\nend_header\n",
    };

    [Theory]
    [MemberData(nameof(Names))]
    public void Small_input_costs_little_and_ends_no_process(string name)
    {
        place.Put("numbers.mtl", "newmtl a\nKd nan nan nan\nNs 1e400\nd nan\nmap_Kd " + Repeated("a/", 100_000) + "x.png\n");
        place.Put("same.mtl", Repeated("newmtl a\nmap_Kd t.png\n", 100_000));
        var scene = place.Put(name, Inputs[name]());
        var ended = Audit(scene);
        Assert.True(ended.Status is 0 or 1 or 2, $"status {ended.Status}: {ended.Error}");
        Assert.DoesNotContain("   at ", ended.Error, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("circle.usda", "circle was cut")]
    [InlineData("doubled.usda", "prims come of the references")]
    [InlineData("deep.usda", "deep")]
    [InlineData("chain.mtlx", "deep")]
    [InlineData("graphs.mtlx", "deep")]
    public void The_budget_that_was_met_is_told_with_its_place(string name, string said)
    {
        var read = Look.Read(place.Put(name, Inputs[name]()));
        var note = read.Notes.First(n => n.Message.Contains(said, StringComparison.Ordinal));
        Assert.NotEmpty(note.Place);
    }

    [Fact]
    public void What_is_no_file_of_contents_is_not_opened()
    {
        foreach (var name in new[] { "pipe.gltf", "pipe.mtl", "pipe.png" })
            Assert.Equal(0, Tool.Run("mkfifo", [place.At(name)]).Status);
        Assert.Equal(2, Audit(place.At("pipe.gltf")).Status);
        Assert.InRange(Audit(place.Put("library.obj", $"mtllib pipe.mtl\n{Triangle}usemtl a\nf 1 2 3\n")).Status, 0, 1);
        Assert.InRange(Audit(place.Put("texture.gltf", Look.Gltf("pipe.png"))).Status, 0, 1);
        Assert.InRange(Tool.Run("timeout", ["20", Tool.CommandLine, "inspect", place.At("pipe.png")]).Status, 0, 2);
    }

    public void Dispose() => place.Dispose();

    /// <summary>Status 124 when it hangs.</summary>
    private static ToolResult Audit(string scene) => Tool.Run("timeout", ["20", Tool.CommandLine, "audit", scene, "--format", "json"]);

    private static string Usda(string body) => "#usda 1.0\n" + body;

    private static string Refers(string name, int i) => $"def \"{name}\" (references=</p{i - 1}>) {{}}";

    private static string Takes(string input, int i) => $"float inputs:{input}.connect=</m/n{i + 1}.outputs:o>\n";

    private static string Gltf(string nodes, string more = "") =>
        $"{{\"asset\":{{\"version\":\"2.0\"}},\"scenes\":[{{\"nodes\":[0]}}],\"nodes\":[{nodes}]{more}}}";

    private static string Dae(string nodes) =>
        $"<COLLADA version=\"1.4.1\"><library_nodes>{nodes}</library_nodes><library_visual_scenes><visual_scene id=\"s\">"
        + "<node><instance_node url=\"#n0\"/></node></visual_scene></library_visual_scenes>"
        + "<scene><instance_visual_scene url=\"#s\"/></scene></COLLADA>";

    private static string Mtlx(int count, Func<int, string> inputs) =>
        Documents(
            "<nodegraph name=\"g\"><image name=\"n0\" type=\"color3\"><input name=\"file\" type=\"filename\" value=\"x.png\"/></image>"
                + Many(1, count, i => $"<multiply name=\"n{i}\" type=\"color3\">{inputs(i)}</multiply>")
                + $"<output name=\"out\" type=\"color3\" nodename=\"n{count}\"/></nodegraph><standard_surface name=\"s\" "
                + "type=\"surfaceshader\"><input name=\"base_color\" type=\"color3\" nodegraph=\"g\"/></standard_surface>",
            "s"
        );

    private static string Documents(string body, string shader) =>
        $"<materialx version=\"1.38\">{body}<surfacematerial name=\"m\" type=\"material\">"
        + $"<input name=\"surfaceshader\" type=\"surfaceshader\" nodename=\"{shader}\"/></surfacematerial></materialx>";

    private static string Many(int first, int count, Func<int, string> each) => string.Concat(Enumerable.Range(first, count).Select(each));

    private static string Repeated(string text, int times) => new StringBuilder(text.Length * times).Insert(0, text, times).ToString();

    private static string Nested(string open, string close, int deep) => Repeated(open, deep) + Repeated(close, deep);
}
