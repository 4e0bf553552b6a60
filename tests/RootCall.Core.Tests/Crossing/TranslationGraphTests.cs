using System.Text.Json;
using RootCall.Core.Crossing;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Testing;
using Xunit.Abstractions;

namespace RootCall.Core.Tests.Crossing;

/// <summary>
/// Our formulas beside the standards body's own: the graphs of libraries/bxdf/translation in the MaterialX reference library, worked out
/// in doubles outside the product. Where both differ is told, with reasons, by docs/translation-graphs.md.
/// </summary>
public sealed class TranslationGraphTests(ITestOutputHelper output)
{
    private const int Points = 200;

    /// <summary>Mean ΔE that chance alone makes of two pictures, at the size used here.</summary>
    private const double Noise = 0.3;

    private sealed class None : ITextureSource
    {
        public ITexture? Find(ImageUse use) => null;
    }

    [Theory]
    [InlineData("standard-surface", "gltf-metallic-roughness", "standard_surface_to_gltf_pbr")]
    [InlineData("standard-surface", "open-pbr", "standard_surface_to_open_pbr_surface")]
    [InlineData("standard-surface", "usd-preview-surface", "standard_surface_to_UsdPreviewSurface")]
    [InlineData("open-pbr", "standard-surface", "open_pbr_surface_to_standard_surface")]
    public void Our_formulas_say_the_same_as_the_published_graph_or_lie_nearer(string from, string to, string graph)
    {
        var looks = Enumerable.Range(0, Points).Select(i => Point(ShadingModels.Find(from)!, i)).ToList();
        var theirs = Translated(graph, looks, to);
        var fidelity = new Fidelity(Studio.Light(), 12, 12);
        var rows = looks
            .AsParallel()
            .AsOrdered()
            .Select(
                (look, i) =>
                {
                    var source = Graph(from, look);
                    var picture = fidelity.Picture(source, new None(), CancellationToken.None)!;
                    double Apart(ShaderGraph g) => fidelity.Between(picture, fidelity.Picture(g, new None(), CancellationToken.None)!).Mean;
                    var ours = Crossings.Of(source, to)!.Graph;
                    var differ = Differing(ShadingModels.Find(to)!, ours.SurfaceNode!, theirs[i]);
                    return (Ours: Apart(ours), Theirs: Apart(Graph(to, theirs[i])), Differ: differ);
                }
            )
            .ToList();

        output.WriteLine(
            $"{from} to {to}: {rows.Count(r => r.Differ.Count == 0)} of {Points} say the same; ours is nearer or as near at "
                + $"{rows.Count(r => r.Ours <= r.Theirs + Noise)}; "
                + $"ΔE median {rows.Select(r => r.Ours).Order().ElementAt(Points / 2):0.00}, "
                + $"theirs {rows.Select(r => r.Theirs).Order().ElementAt(Points / 2):0.00}"
        );
        Assert.True(rows.Average(r => r.Ours) <= rows.Average(r => r.Theirs));
        foreach (var kind in rows.GroupBy(r => string.Join(", ", r.Differ)).OrderByDescending(g => g.Count()))
        {
            var (ours, nearest) = (kind.Average(r => r.Ours), kind.Average(r => r.Theirs));
            output.WriteLine(
                $"  {kind.Count()}: ours {ours:0.00}, theirs {nearest:0.00} where {(kind.Key.Length > 0 ? kind.Key : "nothing")} differs"
            );
            Assert.True(ours <= nearest + Noise, kind.Key);
        }
    }

    /// <summary>Inputs of a model at a point that has only its number: layers are on at one point in three.</summary>
    private static Dictionary<string, double[]> Point(ShadingModel model, int number)
    {
        var random = new Random(number);
        double Next() => Math.Round(random.NextDouble(), 3);
        var said = new Dictionary<string, double[]>();
        foreach (var input in model.Inputs.Where(i => i.Role is not (null or Role.Opacity or Role.Dispersion) && i.Type.Numbers is 1 or 3))
        {
            if (input.Type == InputType.Boolean)
                continue;
            // What a point does not say is said, too: the graphs' defaults are not all those of the surfaces.
            said[input.Name] = [.. input.Default];
            var isLayer =
                input.Role is Role.Coat or Role.Sheen or Role.Transmission or Role.Subsurface or Role.Anisotropy or Role.Metalness;
            if (
                input.Role
                is Role.BaseColour
                    or Role.Roughness
                    or Role.Specular
                    or Role.SpecularColour
                    or Role.CoatRoughness
                    or Role.SheenRoughness
                    or Role.SheenColour
                    or Role.SubsurfaceColour
                    or Role.CoatColour
                    or Role.TransmissionColour
            )
                said[input.Name] = [.. Enumerable.Range(0, input.Type.Numbers).Select(_ => Next())];
            else if (input.Role is Role.IndexOfRefraction)
                said[input.Name] = [1.2 + (0.8 * Next())];
            else if (isLayer && random.Next(3) == 0)
                said[input.Name] = [Next()];
        }

        return said;
    }

    private static ShaderGraph Graph(string model, IReadOnlyDictionary<string, double[]> said)
    {
        var data = ShadingModels.Find(model)!;
        return new(
            [
                new(
                    "surface",
                    data.Types[0],
                    [
                        .. from s in said
                        let input = data.Input(s.Key)
                        where input is not null && input.Type != InputType.Boolean && s.Value.Length > 0
                        select new ShaderInput(s.Key, input.Type, ShaderValue.Of(s.Value)),
                    ]
                ),
            ],
            "surface"
        );
    }

    /// <summary>Inputs that say something else.</summary>
    private static List<string> Differing(ShadingModel model, ShaderNode ours, IReadOnlyDictionary<string, double[]> theirs) =>
        [
            .. from input in model.Inputs
            where theirs.ContainsKey(input.Name)
            let mine = ours.Input(input.Name)?.Value?.Numbers is { Length: > 0 } said ? said : input.Default
            where mine.Length > 0 && !mine.Zip(theirs[input.Name]).All(p => Math.Abs(p.First - p.Second) < 1e-4)
            where input.Gate is not { } gate || !theirs.TryGetValue(gate, out var weight) || weight.Any(w => w != 0)
            select input.Name,
        ];

    private static readonly Dictionary<string, string> GltfNames = new()
    {
        ["base_color"] = "baseColor",
        ["anisotropy_strength"] = "anisotropyStrength",
        ["anisotropy_rotation"] = "anisotropyRotation",
        ["attenuation_color"] = "attenuationColor",
        ["sheen_color"] = "sheenColor",
        ["sheen_roughness"] = "sheenRoughness",
        ["clearcoat_roughness"] = "clearcoatRoughness",
    };

    private static List<Dictionary<string, double[]>> Translated(string graph, List<Dictionary<string, double[]>> looks, string to)
    {
        using var place = new Place();
        var asked = place.Put("points.json", JsonSerializer.Serialize(looks));
        var answer = place.At("translated.json");
        var done = Tool.Run("node", ["-e", MaterialXReference.Script(Evaluate), graph, asked, answer], Path.Combine(Tool.Home, "web"));
        Assert.True(done.Status == 0, done.Error);
        return
        [
            .. JsonSerializer
                .Deserialize<List<Dictionary<string, double[]>>>(File.ReadAllText(answer))!
                .Select(o =>
                    o.ToDictionary(
                        p => to.StartsWith("gltf", StringComparison.Ordinal) ? GltfNames.GetValueOrDefault(p.Key, p.Key) : p.Key,
                        p => p.Value
                    )
                ),
        ];
    }

    /// <summary>The nodes of the graph as the MaterialX specification defines them, on lists of doubles.</summary>
    private const string Evaluate = """
        const { writeFileSync } = require('fs');
        const [name, asked, answer] = args;
        const graph = library.getNodeGraph('NG_' + name), definition = library.getNodeDef('ND_' + name);
        const numbers = (text) => text === 'true' ? [1] : text === 'false' ? [0] : text.split(',').map(Number);
        const each = (a, b, f) => Array.from({ length: Math.max(a.length, b.length) },
          (_, i) => f(a[a.length === 1 ? 0 : i], b[b.length === 1 ? 0 : i]));
        const kinds = {
          dot: (v) => v('in'), constant: (v) => v('value'), convert: (v, n) => {
            const size = { color3: 3, vector3: 3 }[n.getType()] ?? 1, from = v('in');
            return from.length === size ? from : Array(size).fill(from[0]);
          },
          add: (v) => each(v('in1'), v('in2'), (a, b) => a + b), subtract: (v) => each(v('in1'), v('in2'), (a, b) => a - b),
          multiply: (v) => each(v('in1'), v('in2'), (a, b) => a * b), divide: (v) => each(v('in1'), v('in2'), (a, b) => a / b),
          power: (v) => each(v('in1'), v('in2'), Math.pow), sqrt: (v) => v('in').map(Math.sqrt),
          mix: (v) => each(each(v('fg'), v('mix'), (a, m) => a * m), each(v('bg'), v('mix'), (a, m) => a * (1 - m)), (a, b) => a + b),
          dotproduct: (v) => [each(v('in1'), v('in2'), (a, b) => a * b).reduce((a, b) => a + b)],
          extract: (v) => [v('in')[v('index')[0]]],
          ifequal: (v) => v('value1')[0] === v('value2')[0] ? v('in1') : v('in2'),
          ifgreater: (v) => v('value1')[0] > v('value2')[0] ? v('in1') : v('in2'),
          ifgreatereq: (v) => v('value1')[0] >= v('value2')[0] ? v('in1') : v('in2'),
          separate2: (v) => v('in'),
          // pbrlib's graph of it: alpha along x and y.
          roughness_anisotropy: (v) => {
            const square = v('roughness')[0] ** 2, aspect = Math.sqrt(1 - Math.min(0.98, v('anisotropy')[0]));
            return v('anisotropy')[0] > 0 ? [Math.min(1, square / aspect), square * aspect] : [square, square];
          },
        };
        const work = (look) => {
          const known = new Map();
          const value = (element, what) => {
            const input = element.getInput(what), inner = input.getInterfaceName(), node = input.getNodeName();
            if (inner) return look[inner] ?? numbers(definition.getInput(inner).getValueString());
            if (!node) return numbers(input.getValueString());
            const found = of(graph.getNode(node)), part = input.getOutputString();
            return part === 'outx' ? [found[0]] : part === 'outy' ? [found[1]] : found;
          };
          const of = (node) => {
            if (!known.has(node.getName())) {
              const kind = kinds[node.getCategory()];
              if (!kind) throw new Error('no node ' + node.getCategory());
              known.set(node.getName(), kind((what) => value(node, what), node));
            }
            return known.get(node.getName());
          };
          const outputs = graph.getOutputs().filter((o) => o.getName() !== 'normal_out');
          return Object.fromEntries(outputs.map((o) => [o.getName().replace(/_out$/, ''), of(graph.getNode(o.getNodeName()))]));
        };
        writeFileSync(answer, JSON.stringify(JSON.parse(readFileSync(asked, 'utf8')).map(work)));
        """;
}
