using RootCall.Core.Scenes;

namespace RootCall.Core.Crossing;

/// <summary>An input that is given a number in place of what the formulas say.</summary>
/// <param name="Input">Of the model that is crossed to.</param>
public sealed record SetInput(string Input, ShaderValue Value)
{
    /// <summary>A fit found it; an artist said it otherwise.</summary>
    public bool IsFitted { get; init; }
}
