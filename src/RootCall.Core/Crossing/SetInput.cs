using System.Collections.Immutable;
using RootCall.Core.Scenes;

namespace RootCall.Core.Crossing;

/// <summary>An input that is given a number in place of what the formulas say.</summary>
/// <param name="Input">Of the model that is crossed to.</param>
public sealed record SetInput(string Input, ShaderValue Value)
{
    /// <summary>A fit found it; an artist said it otherwise.</summary>
    public bool IsFitted { get; init; }
}

public static class SetInputs
{
    /// <summary>What a fit says, less what is said by hand.</summary>
    public static ImmutableArray<SetInput> Under(this ImmutableArray<SetInput> fit, ImmutableArray<SetInput> hand) =>
        [.. fit.Where(f => !hand.Any(h => h.Input == f.Input)), .. hand];
}
