using System.Collections.Immutable;
using RootCall.Core.Formats.Usd.Composition;
using RootCall.Core.Formats.Usd.Layers;
using RootCall.Core.Formats.Usd.Looks;
using RootCall.Core.Formats.Usd.Text;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Usd;

/// <summary>Turns UsdShade materials into graphs: shaders of any id, node graphs followed through their outputs and interfaces.</summary>
internal sealed class UsdShaders(UsdStage stage, ReferenceListBuilder builder)
{
    public Material Read(UsdPrim material)
    {
        var nodes = new Dictionary<string, ShaderNode>(StringComparer.Ordinal);
        var surface = Outputs(material).Select(o => Source(material, o)).FirstOrDefault(s => s is not null);
        var name = surface is { } found ? Node(material, found.Prim, nodes, 0) : string.Empty;
        // Shaders that reach nothing are part of the material too.
        foreach (var child in material.Children.Where(c => c.TypeName == "Shader"))
            Node(material, child, nodes, 0);
        return new(material.Name)
        {
            Id = material.Path,
            Graph = new([.. nodes.Values.OrderByDescending(n => n.Name == name)], name),
            Template = material.Arcs.Length > 0 ? material.Arcs[0] : null,
            Locked = !material.Specs.Any(s => s.Layer.IsText),
            IsTemplate = material.Specifier == UsdSpecifier.Class,
        };
    }

    /// <summary>The universal surface first, then those of a render context; displacement and volume are no surface.</summary>
    private static IEnumerable<string> Outputs(UsdPrim material) =>
        material
            .PropertyNames.Where(p => p.StartsWith("outputs:", StringComparison.Ordinal) && p.EndsWith("surface", StringComparison.Ordinal))
            .OrderBy(p => p == "outputs:surface" ? 0 : 1);

    /// <summary>The shader and output that an attribute is connected to, through node graphs and interfaces.</summary>
    private (UsdPrim Prim, string Output)? Source(UsdPrim prim, string property)
    {
        for (var hops = 0; hops < 64; hops++)
        {
            if (prim.Targets(property) is not [var target, ..])
                return null;
            var dot = target.LastIndexOf('.');
            if (dot < 0 || stage.Find(target[..dot]) is not { } source)
                return null;
            if (source.TypeName is not ("NodeGraph" or "Material"))
                return (source, target[(dot + 1)..]);
            (prim, property) = (source, target[(dot + 1)..]);
        }

        return null;
    }

    private bool Exists(string target) => target.LastIndexOf('.') is > 0 and var dot && stage.Find(target[..dot]) is not null;

    private string Node(UsdPrim material, UsdPrim shader, Dictionary<string, ShaderNode> nodes, int depth)
    {
        var id = shader.Path.StartsWith(material.Path + "/", StringComparison.Ordinal)
            ? shader.Path[(material.Path.Length + 1)..]
            : shader.Path;
        if (nodes.ContainsKey(id) || depth > 256)
            return id;
        var type = shader.Value("info:id")?.AsText ?? shader.TypeName;
        nodes[id] = new(id, type, []); // Read before it is whole, so that a circle ends here.
        var inputs = ImmutableArray.CreateBuilder<ShaderInput>();
        ImageUse? image = null;
        foreach (var property in shader.PropertyNames.Where(p => p.StartsWith("inputs:", StringComparison.Ordinal)))
        {
            var input = property["inputs:".Length..];
            var (holder, at) = Interface(shader, property);
            var value = holder.Value(at);
            var source = Source(shader, property);
            var from = source is { } s
                ? new Connection(
                    Node(material, s.Prim, nodes, depth + 1),
                    s.Output.Replace("outputs:", string.Empty, StringComparison.Ordinal)
                )
                : null;
            var dangling = source is null && shader.Targets(property) is [var target, ..] && !Exists(target) ? target : null;
            var declared = shader.Property(property, p => p.TypeName.Length > 0)?.Spec.TypeName ?? string.Empty;
            var known = UsdPreview.Input(type, input);
            inputs.Add(
                new(input, known?.Type ?? InputType.Of(UsdTypes.ToMaterialX(declared)), ToValue(value), from)
                {
                    Default = known?.Default,
                    Dangling = dangling,
                    IsPassedOn = holder != shader,
                }
            );
            if (
                image is null
                && value is UsdAsset asset
                && holder.ValueOpinion(at) is { } opinion
                && stage.Layers.KeyOf(opinion.Layer, asset) is { } key
            )
            {
                builder.Property(key, $"{holder.Path}.{at}");
                foreach (var (spec, _, layer) in holder.Specs)
                    if (spec.Property(at)?.Value is UsdAsset weaker && stage.Layers.KeyOf(layer, weaker) is { } other && other != key)
                        builder.Overridden(other);
                image = new(key) { DeclaredSpace = opinion.Spec.Metadata.GetValueOrDefault("colorSpace")?.AsText ?? string.Empty };
            }
        }

        var node = new ShaderNode(id, type, inputs.ToImmutable());
        if (image is not null)
            node = node with { Image = UsdImages.Of(image, node, nodes) };
        nodes[id] = node;
        return id;
    }

    /// <summary>An input that is connected to an interface takes its value from there.</summary>
    private (UsdPrim Prim, string Property) Interface(UsdPrim shader, string property)
    {
        for (var hops = 0; hops < 64; hops++)
        {
            if (shader.Targets(property) is not [var target, ..])
                break;
            var dot = target.LastIndexOf('.');
            if (
                dot < 0
                || !target[(dot + 1)..].StartsWith("inputs:", StringComparison.Ordinal)
                || stage.Find(target[..dot]) is not { } holder
            )
                break;
            (shader, property) = (holder, target[(dot + 1)..]);
        }

        return (shader, property);
    }

    private static ShaderValue? ToValue(UsdValue? value) =>
        value switch
        {
            UsdNumbers numbers when numbers.Count <= 16 => new([.. numbers.All()]),
            UsdText text => ShaderValue.OfText(text.Text),
            UsdAsset asset => ShaderValue.OfText(asset.Path),
            _ => null,
        };
}
