using System.Collections.Immutable;
using System.Text.Json;
using RootCall.Core.Crossing.Baking;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Looks;

/// <summary>How a format says a whole look that comes from elsewhere: as a material of its own.</summary>
public interface ILookMaker
{
    /// <summary>Ids of the shading models that a material of the format can have.</summary>
    ImmutableArray<string> Models { get; }

    /// <param name="source">The material of the scene that the look comes from.</param>
    /// <param name="name">Of the material to be made.</param>
    /// <param name="look">A surface of one of <see cref="Models"/>; before it images and nodes of MaterialX's standard library.</param>
    MadeLook Make(SceneDraft draft, Material source, string name, ShaderGraph look);

    /// <summary>The images that have to be made so that these inputs can be said.</summary>
    /// <param name="unsaid">Names of inputs.</param>
    ImmutableArray<WantedImage> Images(ShaderGraph look, IReadOnlyCollection<string> unsaid);
}

/// <param name="Feeds">The inputs that read it, and the channels that arrive.</param>
public sealed record WantedImage(Bake Bake, ImmutableArray<(string Input, Channels Channels)> Feeds)
{
    /// <summary>An image for each of these inputs that something feeds.</summary>
    public static ImmutableArray<WantedImage> Each(ShaderGraph look, IEnumerable<string> inputs)
    {
        var surface = look.SurfaceNode!;
        var model = ShadingModels.OfType(surface.Type)!;
        return
        [
            .. inputs
                .Select(surface.Input)
                .OfType<ShaderInput>()
                .Where(i => i.From is not null)
                .Select(i => Alone(i, model.Input(i.Name)!)),
        ];
    }

    /// <summary>An image of one input alone: grey for a number, else red, green and blue.</summary>
    private static WantedImage Alone(ShaderInput input, ModelInput data) =>
        input.Type.Numbers == 1
            ? new(new(TokenOf(input.Name), [new(input, 0, 0)], false), [(input.Name, Channels.R)])
            : new(
                new(TokenOf(input.Name), [.. Enumerable.Range(0, 3).Select(i => new BakedPart(input, i, 0))], data.IsColour),
                [(input.Name, Channels.Rgb)]
            );

    /// <summary>A word of a file's name: <c>base_color</c>.</summary>
    public static string TokenOf(string input) => JsonNamingPolicy.SnakeCaseLower.ConvertName(input);
}

/// <param name="Material">As the format writes it, without what is unsaid.</param>
/// <param name="Unsaid">Inputs that its fields and nodes cannot feed: only an image made for them can.</param>
public sealed record MadeLook(Material Material, ImmutableArray<UnsaidInput> Unsaid);

/// <param name="Why">In one sentence.</param>
public sealed record UnsaidInput(string Input, string Why);
