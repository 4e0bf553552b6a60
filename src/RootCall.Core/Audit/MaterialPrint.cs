using System.Globalization;
using System.IO.Hashing;
using System.Runtime.InteropServices;
using System.Text;

namespace RootCall.Core.Audit;

/// <summary>A fingerprint of all that a rule about one material can see: its graph, its images and the meshes that wear it.</summary>
internal static class MaterialPrint
{
    public static UInt128 Of(MaterialView material)
    {
        var text = new StringBuilder(512);
        text.Append(material.Name).Append('|').Append(material.Material.Id).Append('|').Append(material.Material.Template);
        Look(text, material);
        foreach (var map in material.Maps)
        {
            text.Append('|')
                .Append(map.Answer?.State)
                .Append(map.Answer?.Resolved)
                .Append(map.Answer?.Stamp)
                .Append(map.Pixels is null ? '-' : '+');
            if (map.Answer is { Tiles.IsDefaultOrEmpty: false } tiled)
                text.AppendJoin(',', tiled.Tiles);
        }

        foreach (var (mesh, part) in material.Users)
            text.Append('|').Append(mesh.Id).Append('/').Append(part.Name).Append(' ').AppendJoin(',', mesh.UvSets).Append(mesh.HasColours);
        return XxHash128.HashToUInt128(MemoryMarshal.AsBytes(text.ToString().AsSpan()));
    }

    /// <summary>Only what the material looks like: two with the same text differ in their names alone.</summary>
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
                        + $"{i.Channels} {string.Join(',', i.Scale)} {string.Join(',', i.Bias)}"
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
