using System.Globalization;
using System.Text;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>What a material looks like, as text.</summary>
internal static class MaterialPrint
{
    /// <summary>Two with the same text differ in their names alone.</summary>
    public static string LookOf(MaterialView material)
    {
        var text = new StringBuilder(256);
        Look(text, material);
        return text.ToString();
    }

    private static void Look(StringBuilder text, MaterialView material)
    {
        // Nodes are called by their place: another name of a node is no other look.
        var places = material
            .Material.Graph.Nodes.Select((n, i) => (n.Name, i))
            .DistinctBy(n => n.Name)
            .ToDictionary(n => n.Name, n => n.i, StringComparer.Ordinal);
        foreach (var node in material.Material.Graph.Nodes)
        {
            text.Append('\n').Append(node.Type);
            if (node.Image is { } i)
                text.Append(
                    CultureInfo.InvariantCulture,
                    $" {i.Reference.Written} {i.UvSet} {i.Transform} {i.WrapU} {i.WrapV} {i.DeclaredSpace} {i.EffectiveSpace} "
                        + $"{i.Channels.Word()} {string.Join(',', i.Scale)} {string.Join(',', i.Bias)}"
                );
            foreach (var input in node.Inputs.OrderBy(n => n.Name, StringComparer.Ordinal))
                text.Append('\n')
                    .Append(' ')
                    .Append(input.Name)
                    .Append('=')
                    .Append(input.Value)
                    .Append('<')
                    .Append(input.From is { } from ? places.GetValueOrDefault(from.Node, -1) : null)
                    .Append('.')
                    .Append(input.From?.Output)
                    .Append(input.Dangling);
        }
    }
}
