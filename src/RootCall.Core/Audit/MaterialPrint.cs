using System.Collections.Immutable;
using System.Globalization;
using System.IO.Hashing;
using System.Runtime.InteropServices;
using System.Text;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>What a material looks like, as hashes (XXH128), by which others are found that look the same, or nearly.</summary>
/// <param name="Look">Two with another hash differ in more than their names.</param>
/// <param name="Inputs">Of the surface's inputs, in their order: name and what is read there.</param>
internal sealed record MaterialPrint(UInt128 Look, ImmutableArray<UInt128> Inputs)
{
    public static MaterialPrint Of(MaterialView material) =>
        new(Hash(LookOf(material)), [.. material.Inputs.Select(i => Hash(InputOf(i)))]);

    /// <summary>Two with the same text differ in their names alone.</summary>
    public static string LookOf(MaterialView material)
    {
        var text = new StringBuilder(256);
        Write(text, material);
        return text.ToString();
    }

    private static UInt128 Hash(string text) => XxHash128.HashToUInt128(MemoryMarshal.AsBytes(text.AsSpan()));

    private static string InputOf(InputView input)
    {
        var read = input.IsConnected ? string.Join(',', input.Maps.Select(m => m.Use)) + input.Factor : string.Join(',', input.Numbers);
        return $"{input.Name}={read}{input.Input.Effective?.Text}";
    }

    private static void Write(StringBuilder text, MaterialView material)
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
