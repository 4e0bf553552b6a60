using System.Collections.Immutable;
using RootCall.Core.Scenes;

namespace RootCall.Core.Crossing.Baking;

/// <summary>An image to be made of what feeds inputs of a surface, a number of them in each channel.</summary>
/// <param name="Token">What it is called after the material: <c>roughness</c>.</param>
/// <param name="IsColour">Its red, green and blue are stored encoded (IEC 61966-2-1).</param>
public sealed record Bake(string Token, ImmutableArray<BakedPart> Channels, bool IsColour)
{
    /// <summary>The inputs that it is made of, each once.</summary>
    public IEnumerable<ShaderInput> Inputs => Channels.Select(c => c.Input).OfType<ShaderInput>().DistinctBy(i => i.Name);

    /// <summary>The images that it is made of.</summary>
    public IEnumerable<ImageUse> Uses(ShaderGraph look) => Inputs.SelectMany(look.ImagesOf);
}

/// <param name="Input">The surface's; null for a number alone.</param>
/// <param name="Number">Which of its numbers.</param>
/// <param name="Otherwise">What the channel holds where nothing feeds the input.</param>
public sealed record BakedPart(ShaderInput? Input, int Number, double Otherwise);

/// <summary>An input that reads an image which was made for it.</summary>
/// <param name="Image">Its <see cref="ImageUse.Channels"/> say what of the image arrives.</param>
public sealed record BakedInput(string Input, ImageUse Image);
