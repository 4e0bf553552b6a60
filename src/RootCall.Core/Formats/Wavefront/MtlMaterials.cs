using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>What one material of a library says, statement by statement.</summary>
internal sealed class MtlMaterial(string name)
{
    public string Name => name;

    /// <summary>Index of the own file that defines it.</summary>
    public int File { get; init; }

    /// <summary>False for a name that faces use and no library explains.</summary>
    public bool IsDefined { get; init; } = true;

    public Dictionary<string, ShaderValue> Values { get; } = new(StringComparer.OrdinalIgnoreCase);

    public List<(string Keyword, ImageUse Use)> Maps { get; } = [];
}

/// <summary>
/// Presents materials of a library as graphs. Statements and options: "MTL material format" (Wavefront, Advanced
/// Visualizer appendix B2); the physically based statements are common practice.
/// </summary>
internal static class MtlMaterials
{
    public const string Classic = "mtl-phong";
    public const string Physical = "mtl-pbr";

    /// <summary>Values by statement, with their MaterialX type and the default of the specification where it gives one.</summary>
    public static FrozenDictionary<string, (string Type, double[] Default)> Values { get; } =
        new Dictionary<string, (string, double[])>
        {
            ["Ka"] = ("color3", []),
            ["Kd"] = ("color3", []),
            ["Ks"] = ("color3", []),
            ["Ke"] = ("color3", [0, 0, 0]),
            ["Tf"] = ("color3", [1, 1, 1]),
            ["Ns"] = ("float", []),
            ["Ni"] = ("float", [1]),
            ["d"] = ("float", [1]),
            ["Tr"] = ("float", [0]),
            ["sharpness"] = ("float", [60]),
            ["illum"] = ("integer", []),
            ["Pr"] = ("float", []),
            ["Pm"] = ("float", [0]),
            ["Ps"] = ("float", [0]),
            ["Pc"] = ("float", [0]),
            ["Pcr"] = ("float", [0]),
            ["aniso"] = ("float", [0]),
            ["anisor"] = ("float", [0]),
        }.ToFrozenDictionary(StringComparer.OrdinalIgnoreCase);

    /// <summary>The input each map statement feeds. A map of a statement of the same name is multiplied by its value.</summary>
    private static readonly FrozenDictionary<string, (string Input, string Type, bool Colour)> Maps = new Dictionary<
        string,
        (string, string, bool)
    >
    {
        ["map_Ka"] = ("Ka", "color3", true),
        ["map_Kd"] = ("Kd", "color3", true),
        ["map_Ks"] = ("Ks", "color3", true),
        ["map_Ke"] = ("Ke", "color3", true),
        ["map_Tf"] = ("Tf", "color3", true),
        ["map_Ns"] = ("Ns", "float", false),
        ["map_Ni"] = ("Ni", "float", false),
        ["map_d"] = ("d", "float", false),
        ["map_opacity"] = ("d", "float", false),
        ["map_Tr"] = ("Tr", "float", false),
        ["map_Pr"] = ("Pr", "float", false),
        ["map_Pm"] = ("Pm", "float", false),
        ["map_Ps"] = ("Ps", "float", false),
        ["map_Pc"] = ("Pc", "float", false),
        ["map_Pcr"] = ("Pcr", "float", false),
        ["map_aniso"] = ("aniso", "float", false),
        ["map_anisor"] = ("anisor", "float", false),
        ["map_AO"] = ("occlusion", "float", false),
        ["bump"] = ("bump", "float", false),
        ["map_bump"] = ("bump", "float", false),
        ["norm"] = ("norm", "vector3", false),
        ["map_norm"] = ("norm", "vector3", false),
        ["map_Kn"] = ("norm", "vector3", false),
        ["disp"] = ("disp", "float", false),
        ["map_disp"] = ("disp", "float", false),
        ["decal"] = ("decal", "color3", true),
        ["map_decal"] = ("decal", "color3", true),
        ["refl"] = ("refl", "color3", true),
        ["map_refl"] = ("refl", "color3", true),
    }.ToFrozenDictionary(StringComparer.OrdinalIgnoreCase);

    private static readonly FrozenSet<string> PhysicalInputs = FrozenSet.Create(
        StringComparer.OrdinalIgnoreCase,
        "Pr",
        "Pm",
        "Ps",
        "Pc",
        "Pcr",
        "aniso",
        "anisor",
        "norm"
    );

    public static (string Input, string Type, bool Colour) MapOf(string keyword) =>
        Maps.TryGetValue(keyword, out var map) ? map : (keyword, "color3", false);

    /// <summary>Classic, unless one of the physically based inputs is said.</summary>
    public static string ModelOf(IEnumerable<string> inputs) => inputs.Any(PhysicalInputs.Contains) ? Physical : Classic;

    public static bool IsStatement(ReadOnlySpan<byte> keyword) =>
        MapStatement.IsMap(keyword) || Values.ContainsKey(Encoding.ASCII.GetString(keyword));

    /// <summary>The statements that may feed an input, the usual spelling first.</summary>
    public static IEnumerable<string> StatementsOf(string input) =>
        Maps.Where(m => m.Value.Input == input)
            .Select(m => m.Key)
            .OrderByDescending(k => k.StartsWith("map_", StringComparison.Ordinal))
            .ThenBy(k => k.Length);

    public static Material ToMaterial(MtlMaterial material)
    {
        if (!material.IsDefined)
            return new(material.Name);
        var graph = new GraphBuilder(ModelOf(material.Values.Keys.Concat(material.Maps.Select(m => MapOf(m.Keyword).Input))));
        var fed = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        foreach (var (keyword, use) in material.Maps)
        {
            var (input, type, _) = MapOf(keyword);
            if (fed.Add(input))
                graph.Map(input, type, use, material.Values.GetValueOrDefault(input), Default(input));
        }

        foreach (var (input, value) in material.Values)
            if (!fed.Contains(input))
                graph.Value(
                    Values.Keys.FirstOrDefault(k => k.Equals(input, StringComparison.OrdinalIgnoreCase)) ?? input,
                    Values.TryGetValue(input, out var known) ? known.Type : "float",
                    value,
                    Default(input)
                );
        return new(material.Name) { Graph = graph.Build(), File = material.File };
    }

    /// <summary>A definition for a material that has none: matt and light grey.</summary>
    public static Material Fresh(Material material, int file)
    {
        var graph = new GraphBuilder(Classic);
        graph.Value("Kd", "color3", ShaderValue.Of(0.8, 0.8, 0.8));
        return material with { Graph = graph.Build(), File = file };
    }

    /// <summary>How a map statement's options say the image is read.</summary>
    public static ImageUse Use(ReferenceKey reference, string keyword, ReadOnlySpan<byte> options)
    {
        var (_, type, colour) = MapOf(keyword);
        var use = new ImageUse(reference)
        {
            Slot = keyword,
            Transform = UvTransform.Identity with { Order = "scale offset" },
            EffectiveSpace = colour ? "srgb" : "data",
            Channels = type == "float" ? "l" : "rgb",
        };
        var tokens = Encoding.Latin1.GetString(options).Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
        for (var i = 0; i < tokens.Length; i++)
        {
            double[] Numbers(int most)
            {
                var list = new List<double>();
                while (
                    list.Count < most
                    && i + 1 < tokens.Length
                    && double.TryParse(tokens[i + 1], NumberStyles.Float, CultureInfo.InvariantCulture, out var n)
                )
                {
                    list.Add(n);
                    i++;
                }

                return [.. list];
            }

            switch (tokens[i].ToLowerInvariant())
            {
                case "-o" when Numbers(3) is [var u, ..] o:
                    use = use with { Transform = use.Transform with { OffsetU = u, OffsetV = o.Length > 1 ? o[1] : 0 } };
                    break;
                case "-s" when Numbers(3) is [var u, ..] s:
                    use = use with { Transform = use.Transform with { ScaleU = u, ScaleV = s.Length > 1 ? s[1] : 1 } };
                    break;
                case "-mm" when Numbers(2) is [var low, var gain]:
                    use = use with { Bias = [low], Scale = [gain] };
                    break;
                case "-bm" when Numbers(1) is [var multiplier]:
                    use = use with { Scale = [multiplier] };
                    break;
                case "-clamp" when i + 1 < tokens.Length:
                    if (tokens[++i].Equals("on", StringComparison.OrdinalIgnoreCase))
                        use = use with { WrapU = WrapMode.Clamp, WrapV = WrapMode.Clamp };
                    break;
                case "-imfchan" when i + 1 < tokens.Length:
                    use = use with { Channels = tokens[++i].ToLowerInvariant() is "m" ? "a" : tokens[i].ToLowerInvariant() };
                    break;
                default:
                    break;
            }
        }

        return use;
    }

    public static ShaderValue? Default(string input) =>
        Values.TryGetValue(input, out var known) && known.Default.Length > 0 ? ShaderValue.Of(known.Default) : null;
}
