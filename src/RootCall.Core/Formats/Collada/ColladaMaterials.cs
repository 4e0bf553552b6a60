using System.Collections.Immutable;
using RootCall.Core.Formats.Xml;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Collada;

/// <summary>
/// Presents effects of the common profile as graphs (COLLADA 1.4.1, chapter 8, "FX": profile_COMMON; constant, lambert,
/// phong, blinn). The common profile has no UV transform: what is read comes from extra elements that several programs
/// write under the same names.
/// </summary>
internal sealed class ColladaMaterials(ColladaDocument document, IReadOnlyDictionary<XmlTree, ReferenceKey> images)
{
    public const string Model = "collada-common";
    private static readonly string[] Colours = ["emission", "ambient", "diffuse", "specular", "reflective", "transparent"];
    private static readonly string[] Numbers = ["shininess", "reflectivity", "transparency", "index_of_refraction"];

    /// <summary>bind_vertex_input: which set of the geometry a semantic of the material means.</summary>
    private readonly Dictionary<(string Material, string Semantic), string> sets = document
        .Root.Descendants()
        .Where(d => d.Name == "bind_vertex_input" && d["input_semantic"] == "TEXCOORD" && d.Parent is { Name: "instance_material" })
        .DistinctBy(d => (d.Parent!["target"], d["semantic"]))
        .ToDictionary(
            d => ((d.Parent!["target"] ?? string.Empty).TrimStart('#'), d["semantic"] ?? string.Empty),
            d => $"TEXCOORD{d["input_set"] ?? "0"}"
        );

    /// <summary>
    /// The only set of all geometries: what is bound to nothing reads it, and one that was given no number answers to any. Null where
    /// there are several.
    /// </summary>
    private readonly (string Set, bool HasNumber)? only = OnlySet(document);

    public static bool IsInput(string name) => Colours.Contains(name) || Numbers.Contains(name) || name == "bump";

    public static InputType TypeOf(string input) => Numbers.Contains(input) || input == "bump" ? InputType.Float : InputType.Color3;

    public static ShaderValue White(string input) => TypeOf(input) == InputType.Float ? ShaderValue.Of(1) : ShaderValue.Of(1, 1, 1);

    public static string NameOf(XmlTree material) => material["name"] is { Length: > 0 } n ? n : material["id"] ?? "material";

    public XmlTree? EffectOf(XmlTree material) => document.Find(material.Child("instance_effect")?["url"]);

    /// <summary>The element of the effect that holds the inputs: <c>phong</c>, <c>lambert</c>.</summary>
    public static XmlTree? ShaderOf(XmlTree? effect) =>
        effect
            ?.Child("profile_COMMON")
            ?.Child("technique")
            ?.Children.FirstOrDefault(c => c.Name is "constant" or "lambert" or "phong" or "blinn");

    public Material Read(XmlTree material)
    {
        var named = new Material(NameOf(material))
        {
            Id = material["id"] ?? NameOf(material),
            Look = material.Child("instance_effect")?["url"],
        };
        var effect = EffectOf(material);
        if (ShaderOf(effect) is not { } shader)
            return named;
        var graph = new GraphBuilder(Model);
        graph.Value("lighting", InputType.Text, ShaderValue.OfText(shader.Name));
        foreach (var input in shader.Children.Where(c => IsInput(c.Name)))
            Input(graph, input, effect!, named.Id);
        foreach (
            var bump in effect!
                .Descendants()
                .Where(d => d.Name == "bump" && d.Parent!.Name == "technique" && d.Parent.Parent!.Name == "extra")
                .Take(1)
        )
            Input(graph, bump, effect, named.Id);
        return named with { Graph = graph.Build() };
    }

    private void Input(GraphBuilder graph, XmlTree input, XmlTree effect, string material)
    {
        var type = TypeOf(input.Name);
        if (input.Name == "transparent" && input["opaque"] is { } opaque)
            graph.Value("opaque", InputType.Text, ShaderValue.OfText(opaque), ShaderValue.OfText("A_ONE"));
        if (input.Child("texture") is { } texture && ImageOf(texture["texture"], effect, out var sampler) is { } image)
        {
            graph.Map(input.Name, type, Use(image, texture, sampler, type, material));
            return;
        }

        var numbers = document.Numbers(input.Child("color") ?? input.Child("float"));
        if (numbers.Length > 0)
            graph.Value(input.Name, type, new([.. numbers.Take(type == InputType.Color3 ? 3 : 1)]));
    }

    /// <summary>texture -> sampler2D -> surface -> image; some writers name the image at once.</summary>
    public ReferenceKey? ImageOf(string? name, XmlTree effect, out XmlTree? sampler) =>
        ImageElement(name, effect, out sampler) is { } image && images.TryGetValue(image, out var key) ? key : null;

    public XmlTree? ImageElement(string? name, XmlTree effect, out XmlTree? sampler)
    {
        sampler = Parameter(effect, name)?.Child("sampler2D");
        var surface = Parameter(effect, document.Text(sampler?.Child("source")))?.Child("surface");
        var id = surface is null ? name : document.Text(surface.Child("init_from"));
        return document.Find(id) is { Name: "image" } image ? image : null;
    }

    private static XmlTree? Parameter(XmlTree effect, string? sid) =>
        sid is null
            ? null
            : effect.All("newparam").Concat(effect.Child("profile_COMMON")?.All("newparam") ?? []).FirstOrDefault(p => p["sid"] == sid);

    private ImageUse Use(ReferenceKey image, XmlTree texture, XmlTree? sampler, InputType type, string material)
    {
        double Extra(string name, double standard) =>
            document.Numbers(
                texture.Child("extra")?.Descendants().FirstOrDefault(d => d.Name.Equals(name, StringComparison.OrdinalIgnoreCase))
            )
                is [var n, ..]
                ? n
                : standard;
        return new(image)
        {
            UvSet = texture["texcoord"] is { } semantic ? SetOf(material, semantic) : string.Empty,
            Transform = new(
                Extra("offsetU", 0),
                Extra("offsetV", 0),
                Extra("rotateUV", 0),
                Extra("repeatU", 1),
                Extra("repeatV", 1),
                "scale offset"
            ),
            WrapU = Wrap(sampler?.Child("wrap_s")),
            WrapV = Wrap(sampler?.Child("wrap_t")),
            EffectiveSpace = type == InputType.Color3 ? ColourSpace.Srgb : ColourSpace.Data,
            Channels = type == InputType.Float ? Channels.R : Channels.Rgb,
        };
    }

    private string SetOf(string material, string semantic) =>
        (sets.GetValueOrDefault((material, semantic)), only) switch
        {
            (null, { } set) => set.Set,
            (not null, { HasNumber: false } set) => set.Set,
            (var bound, _) => bound ?? semantic,
        };

    private static (string Set, bool HasNumber)? OnlySet(ColladaDocument document)
    {
        var inputs = document
            .Library("library_geometries", "geometry")
            .SelectMany(g => g.Child("mesh")?.Children ?? [])
            .SelectMany(p => p.All("input"))
            .Where(i => i["semantic"] == "TEXCOORD")
            .Select(i => i["set"])
            .ToList();
        var sets = inputs.Select(s => s ?? "0").Distinct().ToList();
        return sets is [var one] ? ($"TEXCOORD{one}", inputs.Exists(s => s is not null)) : null;
    }

    /// <summary>COLLADA 1.4.1, fx_sampler_wrap_common: WRAP is the default.</summary>
    private WrapMode Wrap(XmlTree? mode) =>
        document.Text(mode) switch
        {
            "MIRROR" => WrapMode.Mirror,
            "CLAMP" => WrapMode.Clamp,
            "BORDER" or "NONE" => WrapMode.Black,
            _ => WrapMode.Repeat,
        };
}
