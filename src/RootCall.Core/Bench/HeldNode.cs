using System.Collections.Immutable;
using RootCall.Core.Audit;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Bench;

/// <summary>A node on the way to an input of the material in hand.</summary>
/// <param name="Word">What it does.</param>
/// <param name="ComesOut">It can be taken out.</param>
/// <param name="Values">That people set; each is called by a name that no input has, so that both are tried and taken together.</param>
public sealed record HeldNode(string Name, string Word, bool ComesOut, ImmutableArray<HeldInput> Values)
{
    private const string Mark = "node/";

    /// <summary>
    /// The nodes on the way to an input, nearest first; of the one that reads the image only what it does to values. What a format of
    /// fields implies is none.
    /// </summary>
    public static ImmutableArray<HeldNode> Of(AuditScene scene, InputView input) =>
        SceneFormats.Of(scene.Scene.Path).Capabilities.Shape is INodeShape
            ?
            [
                .. NodeWay
                    .Of(input.Material.Material.Graph, input.Input)
                    .Select(n => new HeldNode(
                        n.Name,
                        NodeWord.Of(n.Type),
                        NodeWay.Through(n) is not null,
                        [.. LaidNodes.Parts(n).Select(p => Value(input.Name, n, p))]
                    ))
                    .Where(n => n.ComesOut || n.Values.Length > 0),
            ]
            : [];

    /// <summary>What it is to set a value, by the name of an input or the one that a node's value is called by here.</summary>
    /// <param name="numbers">None to leave it to its default.</param>
    public static HandDecision Set(string name, ReadOnlySpan<double> numbers)
    {
        var value = numbers.IsEmpty ? null : ShaderValue.Of(numbers);
        if (!name.StartsWith(Mark, StringComparison.Ordinal))
            return new HandValue(name, value);
        var rest = name[Mark.Length..];
        var (first, last) = (rest.IndexOf('/'), rest.LastIndexOf('/'));
        return last <= first
            ? throw new Files.CannotUseException($"{name} names no value of a node.")
            : new HandNodeValue(rest[..first], rest[(first + 1)..last], rest[(last + 1)..], value);
    }

    private static HeldInput Value(string input, ShaderNode node, NodePart part)
    {
        ImmutableArray<double> standard = [.. Enumerable.Repeat(part.Standard, part.Type.Numbers)];
        var now = node.Input(part.Name)?.Value?.Numbers ?? standard;
        return new(
            $"{Mark}{input}/{node.Name}/{part.Name}",
            part.Name,
            part.Type.Numbers,
            now,
            null,
            standard,
            part.Low,
            part.High,
            part.Unit,
            part.Type.IsColour,
            false,
            !now.SequenceEqual(standard),
            null,
            [],
            []
        );
    }
}
