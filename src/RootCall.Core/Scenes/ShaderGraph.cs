using System.Collections.Immutable;
using System.Text.Json.Serialization;
using RootCall.Core.Files;
using RootCall.Core.Shading;

namespace RootCall.Core.Scenes;

/// <summary>
/// The look of a material as a graph in the sense of the MaterialX specification: nodes with typed inputs, connections
/// between them, and one surface shader. A fixed-function material is the small graph it implies.
/// </summary>
/// <param name="Surface">Name of the surface shader's node; empty when there is none.</param>
public sealed record ShaderGraph(ImmutableArray<ShaderNode> Nodes, string Surface)
{
    public static ShaderGraph Empty { get; } = new([], string.Empty);

    [JsonIgnore]
    public ShaderNode? SurfaceNode => Node(Surface);

    public ShaderNode? Node(string name) => Nodes.FirstOrDefault(n => n.Name == name);

    /// <summary>The images that reach an input of the surface shader, nearest first.</summary>
    public IEnumerable<ImageUse> ImagesOf(ShaderInput input)
    {
        var seen = new HashSet<string>(StringComparer.Ordinal);
        var ahead = new Queue<Connection>();
        if (input.From is { } first)
            ahead.Enqueue(first);
        while (ahead.TryDequeue(out var connection))
        {
            if (!seen.Add(connection.Node) || Node(connection.Node) is not { } node)
                continue;
            if (node.Image is { } image)
                yield return image;
            foreach (var next in node.Inputs)
                if (next.From is { } from)
                    ahead.Enqueue(from);
        }
    }
}

/// <param name="Name">Unique in the graph.</param>
/// <param name="Type">The format's own shader type, kept also when it is unknown here.</param>
/// <param name="Image">Set when the node reads an image.</param>
public sealed record ShaderNode(string Name, string Type, ImmutableArray<ShaderInput> Inputs, ImageUse? Image = null)
{
    public ShaderInput? Input(string name) => Inputs.FirstOrDefault(i => i.Name == name);

    /// <summary>MaterialX type of what it gives (<c>color3</c>); empty where the format does not say.</summary>
    public InputType Output { get; init; }

    /// <summary>It comes into being when the scene is written.</summary>
    public bool IsMade { get; init; }

    /// <summary>The image that it reads in the files, where an edit gave it another; null otherwise.</summary>
    public ReferenceKey? Read { get; init; }

    /// <summary>The node or prim that it takes what it does not say itself from; null for none.</summary>
    public string? Template { get; init; }
}

/// <param name="Name">As the format spells it.</param>
/// <param name="Type">
/// Type in the words of MaterialX: <c>float</c>, <c>color3</c>, <c>vector2</c>, <c>string</c>, or the format's own.
/// </param>
/// <param name="Value">The value that is written; null when the default holds.</param>
/// <param name="From">What feeds it.</param>
public sealed record ShaderInput(string Name, InputType Type, ShaderValue? Value, Connection? From = null)
{
    /// <summary>What holds when nothing is written, by the model's published specification; null when it is not known here.</summary>
    public ShaderValue? Default { get; init; }

    /// <summary>What it is connected to when nothing is there; null otherwise.</summary>
    public string? Dangling { get; init; }

    /// <summary>The value is given by an input of what the node stands in (a node graph, a material) and only passed on.</summary>
    public bool IsPassedOn { get; init; }

    [JsonIgnore]
    public ShaderValue? Effective => Value ?? Default;
}

public sealed record Connection(string Node, string Output);

/// <summary>A number, a few numbers, or text.</summary>
public sealed record ShaderValue(ImmutableArray<double> Numbers, string? Text = null)
{
    public static ShaderValue Of(params ReadOnlySpan<double> numbers) => new([.. numbers]);

    public static ShaderValue OfText(string text) => new([], text);

    public bool Equals(ShaderValue? other) => other is not null && Text == other.Text && Numbers.SequenceEqual(other.Numbers);

    public override int GetHashCode() => HashCode.Combine(Text, Numbers.Length, Numbers.IsDefaultOrEmpty ? 0 : Numbers[0]);

    public override string ToString() =>
        Text ?? string.Join(' ', Numbers.Select(n => n.ToString("0.######", System.Globalization.CultureInfo.InvariantCulture)));
}

/// <summary>How an image is read where a graph uses it.</summary>
/// <param name="Reference">Which file.</param>
public sealed record ImageUse(ReferenceKey Reference)
{
    /// <summary>
    /// The format's own name of the field that calls the image (<c>map_Kd</c>, <c>baseColorTexture</c>); empty where it
    /// is the input's.
    /// </summary>
    public string Slot
    {
        get;
        init => field = value ?? field;
    } = string.Empty;

    /// <summary>The UV set as the format names it: <c>TEXCOORD_0</c>, <c>st</c>; empty for the mesh's first.</summary>
    public string UvSet
    {
        get;
        init => field = value ?? field;
    } = string.Empty;

    public UvTransform Transform
    {
        get;
        init => field = value ?? field;
    } = UvTransform.Identity;

    public WrapMode WrapU { get; init; } = WrapMode.Repeat;

    public WrapMode WrapV { get; init; } = WrapMode.Repeat;

    /// <summary>The colour space as the file writes it; empty when it writes none.</summary>
    public string DeclaredSpace
    {
        get;
        init => field = value ?? field;
    } = string.Empty;

    /// <summary>The colour space that the format's rules make of it.</summary>
    [JsonConverter(typeof(ColourSpaceConverter))]
    public ColourSpace EffectiveSpace { get; init; }

    /// <summary>The channels that arrive at the input: <c>rgb</c>, <c>g</c>, <c>rgba</c>.</summary>
    public Channels Channels { get; init; }

    /// <summary>Multiplies the stored value; empty for 1.</summary>
    public ImmutableArray<double> Scale
    {
        get;
        init => field = JsonText.Or(value);
    } = [];

    /// <summary>Added after <see cref="Scale"/>; empty for 0.</summary>
    public ImmutableArray<double> Bias
    {
        get;
        init => field = JsonText.Or(value);
    } = [];

    /// <summary>What a channel is multiplied by, from 0 for red; one number stands for all.</summary>
    public double ScaleOf(int channel) => Part(Scale, channel, 1);

    /// <summary>What is added to a channel then.</summary>
    public double BiasOf(int channel) => Part(Bias, channel, 0);

    private static double Part(ImmutableArray<double> numbers, int channel, double standard) =>
        numbers.Length == 1 ? numbers[0]
        : channel < numbers.Length ? numbers[channel]
        : standard;

    /// <summary>What the format uses when the image is missing; empty when it does not say.</summary>
    public ImmutableArray<double> Default
    {
        get;
        init => field = JsonText.Or(value);
    } = [];

    /// <summary>The same image, read in the same way.</summary>
    public bool SameAs(ImageUse? other) =>
        other is not null && SameReading(other) && Reference == other.Reference && Channels == other.Channels;

    /// <summary>The same image, laid in the same way; values and channels may be read otherwise.</summary>
    public bool SameFile(ImageUse other) => Reference == other.Reference && UvSet == other.UvSet && Transform == other.Transform;

    /// <summary>Any image and any channel, read in the same way.</summary>
    public bool SameReading(ImageUse other) =>
        UvSet == other.UvSet
        && Transform == other.Transform
        && WrapU == other.WrapU
        && WrapV == other.WrapV
        && DeclaredSpace == other.DeclaredSpace
        && Scale.SequenceEqual(other.Scale)
        && Bias.SequenceEqual(other.Bias);
}

/// <summary>A change of UV coordinates.</summary>
/// <param name="Rotation">Degrees, in the direction the format gives it.</param>
/// <param name="Order">The order in which the format applies the three, as words: <c>scale rotate offset</c>.</param>
public sealed record UvTransform(double OffsetU, double OffsetV, double Rotation, double ScaleU, double ScaleV, string Order)
{
    public static UvTransform Identity { get; } = new(0, 0, 0, 1, 1, "scale rotate offset");

    [JsonIgnore]
    public bool IsIdentity => OffsetU == 0 && OffsetV == 0 && Rotation == 0 && ScaleU == 1 && ScaleV == 1;

    public override string ToString() =>
        string.Create(
            System.Globalization.CultureInfo.InvariantCulture,
            $"scale {ScaleU:0.####} {ScaleV:0.####}, rotation {Rotation:0.###}, offset {OffsetU:0.####} {OffsetV:0.####}"
        );
}

public enum WrapMode
{
    Repeat,
    Mirror,
    Clamp,

    /// <summary>Outside 0 to 1 the image is black.</summary>
    Black,

    /// <summary>What the image file itself says (USD's <c>useMetadata</c>).</summary>
    FromFile,
}
