using System.Globalization;
using System.Numerics;
using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Rendering.Graphs;
using RootCall.Testing;
using Xunit.Abstractions;

namespace RootCall.Browser.Tests;

/// <summary>
/// Every node that a graph may be made of, over 1,024 points each, against the MaterialX reference library 1.39.4: equal within 1e-4.
/// </summary>
public sealed class NodeTests(ReferenceShaders reference, ITestOutputHelper output) : IClassFixture<ReferenceShaders>, IDisposable
{
    private const float Allowed = 1e-4f;

    /// <summary>The driver's own sine is that far off; blackbody's matrix is rounded to four digits there.</summary>
    private const float Coarse = 5e-4f;

    /// <summary>Added before a result is shown, since no surface gives off less than nothing.</summary>
    private const float Lift = 24;

    private readonly Place place = new();

    /// <summary>
    /// Nodes as <c>name type inputs</c>. An input is <c>name:source</c>, of which there are <c>a b c</c> (0.1 to 1.9), <c>s t</c> (-1.5 to
    /// 1.5) and <c>u</c> (0 to 1) in each type, or <c>name=value</c>.
    /// </summary>
    private static readonly string[] Nodes =
    [
        .. from op in (string[])["add", "subtract", "multiply", "divide", "min", "max", "modulo"]
        from type in (string[])["float", "color3", "vector2", "vector3", "color4"]
        select $"{op} {type} in1:s in2:a",
        "power color3 in1:a in2:b",
        "safepower color3 in1:s in2:a",
        "absval color3 in:s",
        "floor color3 in:s",
        "ceil vector3 in:s",
        "round vector2 in:s",
        "fract color3 in:s",
        "sign color3 in:s",
        "sin float in:s",
        "cos vector3 in:s",
        "tan float in:u",
        "asin float in:u",
        "acos float in:u",
        "sqrt float in:a",
        "ln vector3 in:a",
        "exp float in:s",
        "atan2 float iny:s inx:t",
        "trianglewave float in:s",
        "invert color3 in:s",
        "invert color3 in:s amount:a",
        "clamp color3 in:s",
        "clamp float in:s low=-0.3 high=0.7",
        "normalize vector3 in:s",
        "magnitude vector3>float in:s",
        "distance vector3>float in1:s in2:t",
        "dotproduct vector3>float in1:s in2:t",
        "dotproduct vector2>float in1:s in2:t",
        "crossproduct vector3 in1:s in2:t",
        "rotate2d vector2 in:s amount=37",
        "rotate3d vector3 in:s amount=37 axis=0.2,0.5,0.7",
        "place2d vector2 texcoord:u pivot=0.5,0.3 scale=2,0.7 rotate=25 offset=0.1,0.2",
        "place2d vector2 texcoord:u pivot=0.5,0.3 scale=2,0.7 rotate=25 offset=0.1,0.2 operationorder=1",
        "remap color3 in:s inlow=-1,-1,-1 inhigh=1,2,1 outlow=0,0.5,0 outhigh=2,1,1",
        "range color3 in:s inlow=-1,-1,-1 inhigh=1,2,1 gamma=2,1,0.5 outlow=0,0.5,0 outhigh=2,1,1",
        "range float in:s inlow=-1 inhigh=1 gamma=2.2 outlow=0 outhigh=1 doclamp=true",
        "smoothstep float in:s low=-0.5 high=0.8",
        "smoothstep color3 in:s low=-0.5,0,0 high=0.8,1,1",
        "contrast color3 in:s amount:a pivot=0.4,0.5,0.6",
        "luminance color3 in:s",
        "rgbtohsv color3 in:a",
        "hsvtorgb color3 in:a",
        "hsvadjust color3 in:a amount=0.3,0.8,1.2",
        "saturate color3 in:s amount=1.7",
        "colorcorrect color3 in:a hue=0.1 saturation=0.7 gamma=1.8 lift=0.1 gain=1.3 contrast=1.2 contrastpivot=0.4 exposure=0.5",
        "premult color4 in:a",
        "unpremult color4 in:a",
        "mix color3 fg:s bg:t mix=0.3",
        "plus color3 fg:s bg:t mix=0.3",
        "minus color3 fg:s bg:t",
        "difference color3 fg:s bg:t mix=0.6",
        "screen color3 fg:s bg:t mix=0.6",
        "overlay color3 fg:u bg:a mix=0.6",
        "burn color3 fg:a bg:u mix=0.6",
        "dodge float fg:u bg:u mix=0.6",
        "in color4 fg:a bg:u",
        "mask color4 fg:a bg:u",
        "matte color4 fg:a bg:u",
        "out color4 fg:a bg:u",
        "over color4 fg:a bg:u mix=0.4",
        "inside color3 in:s mask=0.4",
        "outside color3 in:s mask=0.4",
        "ifgreater color3 value1:s value2=0.1 in1:a in2:s",
        "ifgreatereq float value1:s value2=0.1 in1:a in2:b",
        "ifequal color3 value1=1 value2=1 in1:a in2:b",
        "switch color3 in1:a in2:b in3:c which=2",
        "combine2 vector2 in1:a in2:b",
        "combine3 color3 in1:a in2:b in3:s",
        "combine4 color4 in1:a in2:b in3:s in4:u",
        "extract color3>float in:s index=1",
        "extract color4>float in:a index=3",
        "extract vector2>float in:s index=1",
        "separate3 color3>outg in:s",
        "separate4 color4>outa in:a",
        "separate2 vector2>outy in:s",
        "constant color3 value=0.2,0.4,0.6",
        "dot color3 in:s",
        "convert color4>color3 in:a",
        "convert float>color3 in:s",
        "convert vector2>vector3 in:s",
        "convert color3>vector3 in:s",
        "ramplr color3 valuel:a valuer:b",
        "ramptb float valuet:a valueb:b",
        "ramp4 color3 valuetl:a valuetr:b valuebl:c valuebr:s",
        "checkerboard color3 color1:a color2:b uvtiling=5,3 uvoffset=0.2,0.1",
        "noise2d float texcoord:w amplitude=1.5 pivot=0.2",
        "noise2d color3 texcoord:w",
        "noise3d float position:w",
        "noise3d vector3 position:w",
        "fractal3d float position:w octaves=4 lacunarity=2.1 diminish=0.6",
        // Of three numbers it is the same sum of noise3d's; its shader takes this driver minutes.
        "fractal2d float texcoord:w octaves=4",
        "cellnoise2d float texcoord:w",
        "cellnoise3d float position:w",
        "worleynoise2d float texcoord:w jitter=0.8",
        "worleynoise3d float position:w",
        "worleynoise2d float texcoord:w style=1",
        "worleynoise2d vector2 texcoord:w jitter=0.9",
        "worleynoise2d vector3 texcoord:w style=1",
        "worleynoise3d vector3 position:w jitter=0.7",
        "noise2d vector2 texcoord:w",
        "unifiednoise2d float texcoord:w freq=3,2 outmin=0.1 outmax=0.8",
        "unifiednoise2d float texcoord:w type=1 freq=5,5",
        "unifiednoise2d float texcoord:w type=2 jitter=0.6",
        "unifiednoise2d float texcoord:w type=3 freq=2,3 octaves=2",
        "unifiednoise3d float position:w freq=2,2,2 offset=0.1,0.2,0.3",
        "unifiednoise3d float position:w type=3 clampoutput=false",
        "randomfloat float in:u min=-1 max=2 seed=3",
        "blackbody color3 temperature:k",
        "normalmap vector3 in:u scale=0.7",
        "position vector3",
        "normal vector3",
        "tangent vector3",
        "bitangent vector3",
        "texcoord vector2",
        "reflect vector3 in:s",
    ];

    /// <summary>Points of each node, along U; V picks the node.</summary>
    private const int Points = 1024;

    /// <summary>Nodes of one document: a shader of each alone takes seconds to compile.</summary>
    private const int Together = 24;

    [Fact]
    public void Nodes_give_what_the_reference_library_gives()
    {
        var (worst, off) = (0f, new List<string>());
        var all = Nodes.Distinct().ToList();
        foreach (var some in all.Chunk(Together))
        {
            var expected = reference.Run(Document(some, null), Points, some.Length)[0];
            for (var n = 0; n < some.Length; n++)
            {
                var (apart, own, other, u) = Compare(some, n, expected.AsSpan(n * Points * 3, Points * 3));
                if (apart > (some[n].Split(' ')[0] is "sin" or "cos" or "blackbody" ? Coarse : Allowed))
                    off.Add($"{some[n]}: {apart:g3} apart, {own:g6} beside {other:g6} at {u}");
                else
                    worst = MathF.Max(worst, apart);
            }
        }

        output.WriteLine($"{all.Count} nodes at {Points} points each, at most {worst:g2} apart");
        Assert.True(off.Count == 0, string.Join('\n', off));
    }

    private (float Apart, float Own, float Other, float U) Compare(string[] nodes, int which, ReadOnlySpan<float> expected)
    {
        var path = place.Put($"{Guid.NewGuid():N}.mtlx", Document(nodes, which));
        var scene = SceneFormats.Read(path, new(new RootScope([place.Folder]), Bounds.Default));
        var program = MaterialProgram.Of(scene.Materials[0].Graph, NoImages.All)!;
        Assert.True(program.Told.IsEmpty, $"{nodes[which]}: {string.Join(" ", program.Told)}");
        (float Apart, float, float, float) most = default;
        for (var i = 0; i < Points; i++)
        {
            var uv = new Vector2((i + 0.5f) / Points, (which + 0.5f) / nodes.Length);
            var point = new ShadingPoint(new((uv * 2) - Vector2.One, 0), Vector3.UnitZ, Vector3.UnitX, Vector3.UnitY, uv, 0, Vector3.UnitZ);
            var own = program.At(point, false).Surface.Emission;
            for (var c = 0; c < 3; c++)
                if (MathF.Abs(own[c] - expected[(i * 3) + c]) is var apart && apart > most.Apart)
                    most = (apart, own[c] - Lift, expected[(i * 3) + c] - Lift, uv.X);
        }

        return most;
    }

    /// <summary>A document whose surface shows what a node gives; of all of them, row by row, where none is picked.</summary>
    private static string Document(string[] nodes, int? which)
    {
        var shown = Enumerable.Range(0, nodes.Length).Where(n => which is null || n == which).ToList();
        var text = new StringBuilder();
        foreach (var n in shown)
            text.Append(Shown(nodes[n], n));
        var last = $"shown{shown[0]}";
        foreach (var n in shown.Skip(1))
        {
            text.Append(
                CultureInfo.InvariantCulture,
                $"<ifgreater name=\"pick{n}\" type=\"color3\"><input name=\"value1\" type=\"float\" nodename=\"row\"/>"
                    + $"<input name=\"value2\" type=\"float\" value=\"{n}\"/><input name=\"in1\" type=\"color3\" nodename=\"shown{n}\"/>"
                    + $"<input name=\"in2\" type=\"color3\" nodename=\"{last}\"/></ifgreater>"
            );
            last = $"pick{n}";
        }

        return $"""
            <?xml version="1.0"?>
            <materialx version="1.39">
              {Sources(nodes.Length)}
              {text}
              <add name="lifted" type="color3">
                <input name="in1" type="color3" nodename="{last}"/><input name="in2" type="color3" value="{Lift}, {Lift}, {Lift}"/>
              </add>
              <surface_unlit name="surface" type="surfaceshader">
                <input name="emission_color" type="color3" nodename="lifted"/>
              </surface_unlit>
              <surfacematerial name="swatch" type="material">
                <input name="surfaceshader" type="surfaceshader" nodename="surface"/>
              </surfacematerial>
            </materialx>
            """;
    }

    private static string Shown(string node, int number)
    {
        var words = node.Split(' ');
        var (type, result) = words[1].Split('>') is [var from, var to] ? (from, to) : (words[1], words[1]);
        var output = result.StartsWith("out", StringComparison.Ordinal) ? result : null;
        if (output is not null)
            result = "float";
        var inputs = string.Concat(words.Skip(2).Select(w => Input(words[0], type, w)));
        var name = $"node{number}";
        var feeding = $"nodename=\"{name}\"{(output is null ? "" : $" output=\"{output}\"")}";
        var shown = result switch
        {
            "color3" => $"<dot name=\"shown{number}\" type=\"color3\"><input name=\"in\" type=\"color3\" {feeding}/></dot>",
            "vector2" => $"<convert name=\"wide{number}\" type=\"vector3\"><input name=\"in\" type=\"vector2\" {feeding}/></convert>"
                + $"<convert name=\"shown{number}\" type=\"color3\">"
                + $"<input name=\"in\" type=\"vector3\" nodename=\"wide{number}\"/></convert>",
            _ => $"<convert name=\"shown{number}\" type=\"color3\"><input name=\"in\" type=\"{result}\" {feeding}/></convert>",
        };
        return $"<{words[0]} name=\"{name}\" type=\"{(output is null ? result : "multioutput")}\">{inputs}</{words[0]}>{shown}";
    }

    private static string Input(string node, string type, string word)
    {
        var isValue = word.Contains('=');
        var (name, value) = word.Split('=', ':') is [var n, var v] ? (n, v) : throw new FormatException(word);
        var own = (node, name) switch
        {
            (_, "value1" or "value2" or "mask" or "amount" or "scale" or "rotate" or "pivot" or "octaves" or "freq" or "offset")
                when isValue => Guess(node, name, value),
            (_, "value1") => "float",
            (_, "texcoord") => "vector2",
            (_, "position" or "axis" or "normal") => "vector3",
            ("place2d", _) => Guess(node, name, value),
            ("combine2" or "combine3" or "combine4", _) => "float",
            (_, "index" or "operationorder" or "style" or "seed" or "which" or "type") => "integer",
            (_, "doclamp" or "clampoutput") => "boolean",
            (_, "uvtiling" or "uvoffset") => "vector2",
            (_, "mix" or "jitter" or "lacunarity" or "diminish" or "min" or "max" or "temperature") when node is not ("min" or "max") =>
                "float",
            ("colorcorrect", not "in") => "float",
            (_, "amplitude") => "float",
            _ => type,
        };
        return isValue
            ? $"<input name=\"{name}\" type=\"{own}\" value=\"{value.Replace(",", ", ", StringComparison.Ordinal)}\"/>"
            : $"<input name=\"{name}\" type=\"{own}\" nodename=\"{value}_{own}\"/>";
    }

    private static string Guess(string node, string name, string value) =>
        name is "octaves" or "operationorder"
            ? "integer"
            : value.Count(c => c == ',') switch
            {
                1 => "vector2",
                2 when node is "contrast" => "color3",
                2 => "vector3",
                _ => "float",
            };

    /// <summary>What varies along a row, slowly and fast, in each type; and which row it is.</summary>
    private static string Sources(int rows) =>
        $"""
            <texcoord name="place" type="vector2"/>
            <multiply name="scaled" type="vector2">
              <input name="in1" type="vector2" nodename="place"/>
              <input name="in2" type="vector2" value="32, {rows}"/>
            </multiply>
            <fract name="within" type="vector2"><input name="in" type="vector2" nodename="scaled"/></fract>
            <separate2 name="slow" type="multioutput"><input name="in" type="vector2" nodename="place"/></separate2>
            <separate2 name="fast" type="multioutput"><input name="in" type="vector2" nodename="within"/></separate2>
            <separate2 name="counted" type="multioutput"><input name="in" type="vector2" nodename="scaled"/></separate2>
            <combine2 name="uv" type="vector2">
              <input name="in1" type="float" nodename="slow" output="outx"/>
              <input name="in2" type="float" nodename="fast" output="outx"/>
            </combine2>
            <dot name="row" type="float"><input name="in" type="float" nodename="counted" output="outy"/></dot>
            """ + string.Concat(SourceNodes());

    private static IEnumerable<string> SourceNodes()
    {
        foreach (
            var (name, least, span) in ((string, double, double)[])
                [
                    ("a", 0.1, 1.8),
                    ("b", 0.3, 1.3),
                    ("c", 0.2, 0.9),
                    ("s", -1.5, 3),
                    ("t", 1.4, -2.7),
                    ("u", 0.02, 0.93),
                    ("w", -3.3, 9.1),
                    ("k", 1800, 9000),
                ]
        )
        {
            string Number(double v) => v.ToString(CultureInfo.InvariantCulture);
            // Two slopes, so that parts of a vector differ: along U, along V, and aslant.
            var parts = new[] { (1.0, 0.0), (0.0, 1.0), (0.6, 0.4), (0.3, 0.7) };
            for (var i = 0; i < 4; i++)
            {
                var (along, up) = parts[i];
                yield return $"<multiply name=\"{name}m{i}\" type=\"vector2\"><input name=\"in1\" type=\"vector2\" nodename=\"uv\"/>"
                    + $"<input name=\"in2\" type=\"vector2\" value=\"{Number(along * span)}, {Number(up * span)}\"/></multiply>"
                    + $"<dotproduct name=\"{name}d{i}\" type=\"float\"><input name=\"in1\" type=\"vector2\" nodename=\"{name}m{i}\"/>"
                    + "<input name=\"in2\" type=\"vector2\" value=\"1, 1\"/></dotproduct>"
                    + $"<add name=\"{name}{i}\" type=\"float\"><input name=\"in1\" type=\"float\" nodename=\"{name}d{i}\"/>"
                    + $"<input name=\"in2\" type=\"float\" value=\"{Number(least)}\"/></add>";
            }

            yield return $"<dot name=\"{name}_float\" type=\"float\"><input name=\"in\" type=\"float\" nodename=\"{name}2\"/></dot>";
            foreach (var (type, count) in ((string, int)[])[("vector2", 2), ("vector3", 3), ("color3", 3), ("color4", 4)])
                yield return $"<combine{count} name=\"{name}_{type}\" type=\"{type}\">"
                    + string.Concat(
                        Enumerable.Range(0, count).Select(i => $"<input name=\"in{i + 1}\" type=\"float\" nodename=\"{name}{i}\"/>")
                    )
                    + $"</combine{count}>";
        }
    }

    public void Dispose() => place.Dispose();
}
