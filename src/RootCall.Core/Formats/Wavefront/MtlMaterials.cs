using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

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
/// Presents materials of a library as graphs. Statements and options: Wavefront OBJ and MTL format
/// specification; the physically based statements are common practice.
/// </summary>
internal static class MtlMaterials
{
    public const string Classic = "mtl-phong";
    public const string Physical = "mtl-pbr";

    private static readonly FrozenDictionary<string, ModelInput> Inputs = ShadingModels
        .Find(Physical)!
        .Inputs.ToFrozenDictionary(i => i.Name, StringComparer.OrdinalIgnoreCase);

    /// <summary>Inputs that only a map feeds, with the statements that name them.</summary>
    private static readonly FrozenDictionary<string, string[]> MapsOnly = new Dictionary<string, string[]>
    {
        ["bump"] = ["map_bump", "bump"],
        ["disp"] = ["map_disp", "disp"],
        ["decal"] = ["map_decal", "decal"],
        ["refl"] = ["map_refl", "refl"],
        ["norm"] = ["map_Kn", "map_norm", "norm"],
        ["occlusion"] = ["map_AO"],
        ["map_rma"] = ["map_rma"],
        ["map_orm"] = ["map_orm"],
    }.ToFrozenDictionary(StringComparer.OrdinalIgnoreCase);

    /// <summary>Statements that give a value, as the specification spells them, and what they mean.</summary>
    public static FrozenDictionary<string, ModelInput> Values { get; } =
        Inputs.Where(i => !MapsOnly.ContainsKey(i.Key)).ToFrozenDictionary(StringComparer.OrdinalIgnoreCase);

    /// <summary>The input each map statement feeds. A map of a statement of the same name is multiplied by its value.</summary>
    private static readonly FrozenDictionary<string, ModelInput> Maps = Inputs
        .Keys.SelectMany(i => StatementsOf(i).Select(s => (Statement: s, Input: i)))
        .ToFrozenDictionary(m => m.Statement, m => Inputs[m.Input], StringComparer.OrdinalIgnoreCase);

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

    /// <summary>What a map statement feeds.</summary>
    public static ModelInput MapOf(string keyword) => Maps.GetValueOrDefault(keyword) ?? new(keyword, InputType.Color3, Data: true);

    public static Role? RoleOf(string keyword) => MapOf(keyword).Role is { } role ? Roles.OfMap([role]) : null;

    /// <summary>Classic, unless one of the physically based inputs is said.</summary>
    public static string ModelOf(IEnumerable<string> inputs) => inputs.Any(PhysicalInputs.Contains) ? Physical : Classic;

    public static bool IsStatement(ReadOnlySpan<byte> keyword) =>
        MapStatement.IsMap(keyword) || Values.ContainsKey(Encoding.ASCII.GetString(keyword));

    /// <summary>The statements that may feed an input, the usual spelling first.</summary>
    public static IReadOnlyList<string> StatementsOf(string input) =>
        MapsOnly.TryGetValue(input, out var only) ? only
        : input is "sharpness" or "illum" || !Inputs.ContainsKey(input) ? []
        : input is "d" ? ["map_d", "map_opacity"]
        : [$"map_{input}"];

    public static Material ToMaterial(MtlMaterial material)
    {
        if (!material.IsDefined)
            return new(material.Name);
        var graph = new GraphBuilder(ModelOf(material.Values.Keys.Concat(material.Maps.Select(m => MapOf(m.Keyword).Name))));
        var fed = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        foreach (var (keyword, use) in material.Maps)
        {
            var input = MapOf(keyword);
            if (fed.Add(input.Name))
                graph.Map(input.Name, input.Type, use, material.Values.GetValueOrDefault(input.Name), Default(input.Name));
        }

        foreach (var (input, value) in material.Values)
            if (!fed.Contains(input))
            {
                var known = Values.GetValueOrDefault(input);
                graph.Value(known?.Name ?? input, known?.Type ?? InputType.Float, value, Default(input));
            }

        return new(material.Name) { Graph = graph.Build(), File = material.File };
    }

    /// <summary>A definition for a material that has none: matt and light grey.</summary>
    public static Material Fresh(Material material, int file)
    {
        var graph = new GraphBuilder(Classic);
        graph.Value("Kd", InputType.Color3, ShaderValue.Of(0.8, 0.8, 0.8));
        return material with { Graph = graph.Build(), File = file };
    }

    /// <summary>How a map statement's options say the image is read.</summary>
    public static ImageUse Use(ReferenceKey reference, string keyword, ReadOnlySpan<byte> options)
    {
        var input = MapOf(keyword);
        var use = new ImageUse(reference)
        {
            Slot = keyword,
            Transform = UvTransform.Identity with { Order = "scale offset" },
            EffectiveSpace = input.IsColour ? ColourSpace.Srgb : ColourSpace.Data,
            Channels = input.Type == InputType.Float ? Channels.Luminance : Channels.Rgb,
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
                    use = use with { Channels = Picked(tokens[++i].ToLowerInvariant()) ?? use.Channels };
                    break;
                default:
                    break;
            }
        }

        return use;
    }

    /// <summary>What <c>-imfchan</c> names: r, g, b, l, z, and m for the matte, which is alpha.</summary>
    private static Channels? Picked(string word) => word == "m" ? Channels.A : ChannelWords.Of(word);

    public static ShaderValue? Default(string input) =>
        Values.TryGetValue(input, out var known) && known.Default.Length > 0 ? new(known.Default) : null;
}
