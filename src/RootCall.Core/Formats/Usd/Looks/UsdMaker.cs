using System.Collections.Immutable;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Formats.MaterialX;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Usd.Looks;

/// <summary>
/// A look as a material of UsdShade beside the one that it comes from: a UsdPreviewSurface with its textures ("UsdPreviewSurface
/// Specification"), or a surface and nodes of MaterialX by the ids of their definitions.
/// </summary>
internal sealed class UsdMaker : ILookMaker
{
    private const string Preview = "usd-preview-surface";

    public ImmutableArray<string> Models { get; } = [Preview, "standard-surface", "open-pbr", "materialx-gltf-pbr"];

    public MadeLook Make(SceneDraft draft, Material source, string name, ShaderGraph look)
    {
        var made = new Material(name) { Id = source.Id[..(source.Id.LastIndexOf('/') + 1)] + name };
        return look.SurfaceNode!.Type == "UsdPreviewSurface" ? new Network(draft, made).Of(look) : Standard(draft, made, look);
    }

    public ImmutableArray<WantedImage> Images(ShaderGraph look, IReadOnlyCollection<string> unsaid) =>
        look.SurfaceNode!.Type == "UsdPreviewSurface" ? WantedImage.Each(look, unsaid) : [];

    private static string SetOf(SceneDraft draft, string set) =>
        set.Length > 0 && !set.StartsWith("index ", StringComparison.Ordinal)
            ? set
            : draft.Meshes.SelectMany(m => m.UvSets).FirstOrDefault() ?? "st";

    private static MadeLook Standard(SceneDraft draft, Material made, ShaderGraph look)
    {
        var named = look with
        {
            Nodes = [.. look.Nodes.Select(n => n.Image is { } u ? n with { Image = u with { UvSet = SetOf(draft, u.UvSet) } } : n)],
        };
        if (StandardGraph.Of(named, out var why) is not { } graph)
            return new(made, [new(string.Empty, why!)]);
        var nodes = new List<ShaderNode>();
        foreach (var node in graph.Nodes)
        {
            var written = node with { Type = StandardIds.Of(node), IsMade = true, Inputs = [.. node.Inputs.Select(Spelled)] };
            if (node.Image is { } image)
            {
                if (UsdShape.KeyOf(draft, image.Reference, out var key) is { } not)
                    return new(made, [new(string.Empty, not)]);
                written = GraphEdit.With(written, "file", InputType.FileName, ShaderValue.OfText(key.Written)) with
                {
                    Image = image with { Reference = key },
                };
            }

            nodes.Add(written);
        }

        return new(made with { Graph = new([.. nodes.OrderByDescending(n => n.Name == graph.Surface)], graph.Surface) }, []);
    }

    /// <summary>A truth value is a number in USD.</summary>
    private static ShaderInput Spelled(ShaderInput input) =>
        input is { Type: var type, Value.Text: "true" or "false" } && type == InputType.Boolean
            ? input with
            {
                Value = ShaderValue.Of(input.Value.Text == "true" ? 1 : 0),
            }
            : input;

    /// <summary>The textures of one preview surface.</summary>
    private sealed class Network(SceneDraft draft, Material made)
    {
        private readonly List<ShaderNode> nodes = [];
        private readonly List<UnsaidInput> unsaid = [];
        private readonly HashSet<string> names = new(StringComparer.Ordinal);

        public MadeLook Of(ShaderGraph look)
        {
            var name = StandardNames.Unique(look.Surface, names);
            var inputs = new List<ShaderInput>();
            foreach (var input in look.SurfaceNode!.Inputs)
                if (input.From is null)
                    inputs.Add(Worded(input));
                else if (Fed(look, input) is { } wire)
                    inputs.Add(input with { Value = null, From = wire });
            return new(
                made with
                {
                    Graph = new([new(name, "UsdPreviewSurface", [.. inputs]) { IsMade = true }, .. nodes], name),
                },
                [.. unsaid]
            );
        }

        /// <summary>A token in USD ("UsdPreviewSurface Specification", 2.6), where MaterialX counts the choices.</summary>
        private static ShaderInput Worded(ShaderInput input) =>
            input is { Name: "opacityMode", Value.Numbers: [var number] }
                ? input with
                {
                    Type = InputType.Text,
                    Value = ShaderValue.OfText(number == 1 ? "presence" : "transparent"),
                }
                : input;

        private Connection? Fed(ShaderGraph look, ShaderInput input)
        {
            if (ImageFold.Of(look, input) is not { Strength: null } fold)
            {
                unsaid.Add(new(input.Name, $"A preview surface has no nodes that reckon; {input.Name} is made by some."));
                return null;
            }

            if (input.Type.Numbers > 1 && !fold.Picks.SequenceEqual([Channels.R, Channels.G, Channels.B]))
            {
                unsaid.Add(new(input.Name, $"A texture gives red, green and blue to {input.Name} in this order."));
                return null;
            }

            if (UsdShape.KeyOf(draft, fold.Use.Reference, out var key) is { } why)
            {
                unsaid.Add(new(input.Name, why));
                return null;
            }

            return new(Texture(input, fold, key), fold.Picks.Length > 1 ? "rgb" : fold.Picks[0].Word());
        }

        private string Texture(ShaderInput input, ImageFold fold, ReferenceKey key)
        {
            var use = fold.Use;
            var inputs = new List<ShaderInput>
            {
                new("file", InputType.FileName, ShaderValue.OfText(key.Written)),
                new("sourceColorSpace", InputType.Text, ShaderValue.OfText(Space(use))),
                new("wrapS", InputType.Text, ShaderValue.OfText(UsdImages.Word(use.WrapU))),
                new("wrapT", InputType.Text, ShaderValue.OfText(UsdImages.Word(use.WrapV))),
            };
            if (fold.Gain.Any(g => g != 1))
                inputs.Add(new("scale", InputType.Vector4, Four(fold.Gain, 1)));
            if (fold.Base.Any(b => b != 0))
                inputs.Add(new("bias", InputType.Vector4, Four(fold.Base, 0)));
            inputs.Add(new("st", InputType.Vector2, null, Coordinates(use)));
            if (nodes.Find(n => n.Type == UsdImages.Texture && n.Inputs.SequenceEqual(inputs)) is { } same)
                return same.Name;
            var texture = new ShaderNode(
                StandardNames.Unique($"{input.Name}_texture", names),
                UsdImages.Texture,
                [.. inputs],
                use with
                {
                    Reference = key,
                }
            )
            {
                IsMade = true,
            };
            nodes.Add(texture);
            return texture.Name;
        }

        /// <summary>Every channel alike for one number, so that inputs of one image can share it.</summary>
        private static ShaderValue Four(ImmutableArray<double> numbers, double otherwise) =>
            numbers.Length == 1
                ? ShaderValue.Of(numbers[0], numbers[0], numbers[0], numbers[0])
                : ShaderValue.Of(numbers[0], numbers[1], numbers[2], otherwise);

        private static string Space(ImageUse use) =>
            use.EffectiveSpace switch
            {
                ColourSpace.Srgb => "sRGB",
                ColourSpace.Auto => "auto",
                _ => "raw",
            };

        private Connection Coordinates(ImageUse use)
        {
            var reader = Made(
                "UsdPrimvarReader_float2",
                "st_reader",
                new ShaderInput("varname", InputType.Text, ShaderValue.OfText(SetOf(draft, use.UvSet)))
            );
            if (use.Transform.IsIdentity)
                return reader;
            var t = use.Transform;
            return Made(
                UsdImages.Place,
                "st_place",
                new("in", InputType.Vector2, null, reader),
                new("scale", InputType.Vector2, ShaderValue.Of(t.ScaleU, t.ScaleV)),
                new("translation", InputType.Vector2, ShaderValue.Of(t.OffsetU, t.OffsetV)),
                new("rotation", InputType.Float, ShaderValue.Of(t.Rotation))
            );
        }

        /// <summary>A node that says just this; one that does already is taken.</summary>
        private Connection Made(string type, string stem, params ImmutableArray<ShaderInput> inputs)
        {
            if (nodes.Find(n => n.Type == type && n.Inputs.SequenceEqual(inputs)) is not { } node)
                nodes.Add(node = new(StandardNames.Unique(stem, names), type, inputs) { IsMade = true });
            return new(node.Name, "result");
        }
    }
}
