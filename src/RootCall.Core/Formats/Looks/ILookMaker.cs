using System.Collections.Immutable;
using RootCall.Core.Scenes;

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
}

/// <param name="Material">As the format writes it, without what is unsaid.</param>
/// <param name="Unsaid">Inputs that its fields and nodes cannot feed: only an image made for them can.</param>
public sealed record MadeLook(Material Material, ImmutableArray<UnsaidInput> Unsaid);

/// <param name="Why">In one sentence.</param>
public sealed record UnsaidInput(string Input, string Why);
