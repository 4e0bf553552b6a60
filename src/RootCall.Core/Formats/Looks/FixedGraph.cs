using System.Collections.Immutable;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Looks;

/// <summary>An input of a fixed-function material: a value, an image, or both multiplied.</summary>
/// <param name="Value">What is written; null when the default holds.</param>
internal sealed record FixedInput(string Name, InputType Type, ShaderValue? Value, ImageUse? Image, ShaderValue? Default)
{
    public bool IsSaid => Value is not null || Image is not null;
}

/// <summary>Fixed-function materials as the small graphs they imply, and back: the two undo each other.</summary>
internal static class FixedGraph
{
    public static ImmutableArray<FixedInput> Read(ShaderGraph graph) =>
        [
            .. (graph.SurfaceNode?.Inputs ?? []).Select(i =>
                i.From is null
                    ? new FixedInput(i.Name, i.Type, i.Value, null, i.Default)
                    : new(
                        i.Name,
                        i.Type,
                        graph.Node($"{i.Name} factor")?.Input("in2")?.Value,
                        graph.Node($"{i.Name} image")?.Image,
                        i.Default
                    )
            ),
        ];

    public static ShaderGraph Build(string model, IEnumerable<FixedInput> inputs)
    {
        var graph = new GraphBuilder(model);
        foreach (var input in inputs)
        {
            if (input.Image is { } image)
                graph.Map(input.Name, input.Type, image, input.Value, input.Default);
            else
                graph.Value(input.Name, input.Type, input.Value, input.Default);
        }

        return graph.Build();
    }

    /// <summary>The inputs that differ between two materials, each with what it was; null for one that was not there.</summary>
    public static IEnumerable<(FixedInput? Before, FixedInput? Now)> Changes(ShaderGraph before, ShaderGraph now)
    {
        var (old, young) = (Read(before).ToDictionary(i => i.Name), Read(now).ToDictionary(i => i.Name));
        foreach (var (name, input) in young)
            if (!Same(old.GetValueOrDefault(name), input))
                yield return (old.GetValueOrDefault(name), input);
        foreach (var (name, input) in old)
            if (!young.ContainsKey(name) && input.IsSaid)
                yield return (input, null);
    }

    private static bool Same(FixedInput? a, FixedInput b) =>
        a is null ? !b.IsSaid : Equals(a.Value, b.Value) && (a.Image?.SameAs(b.Image) ?? b.Image is null);
}
