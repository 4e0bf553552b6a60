using System.Collections.Immutable;
using RootCall.Core.Shading;

namespace RootCall.Core.Scenes;

/// <summary>A material with its look as a graph.</summary>
/// <param name="Name">As people see it; several may share one.</param>
public sealed record Material(string Name)
{
    /// <summary>Identity within the scene: JSON pointer, prim path or name, whichever the format has.</summary>
    public string Id { get; init; } = Name;

    public ShaderGraph Graph { get; init; } = ShaderGraph.Empty;

    /// <summary>Id of the material this one is an instance of (USD inherits, references and specializes; MaterialX inherit).</summary>
    public string? Template { get; init; }

    /// <summary>True for a definition that only others inherit from (a class of USD): nothing shows it itself.</summary>
    public bool IsTemplate { get; init; }

    /// <summary>
    /// True when the definition lies in a file that is not written (a crate, an archive): an edit goes to an overriding
    /// layer.
    /// </summary>
    public bool Locked { get; init; }

    /// <summary>Images that fields call which are no inputs known here (of unknown extensions, of alternatives).</summary>
    public ImmutableArray<OtherUse> Others { get; init; } = [];

    /// <summary>Statements of the scene call it, whether or not they show anything.</summary>
    public bool IsCalled { get; init; }

    /// <summary>Id of what several materials may share as their look (an effect of COLLADA); null where each has its own.</summary>
    public string? Look { get; init; }

    /// <summary>Index into <see cref="Scene.Files"/> of the own file that defines it.</summary>
    public int File { get; init; }

    /// <summary>The name that the files know it by, where an edit gave it another; null otherwise.</summary>
    public string? Arrived { get; init; }

    /// <summary>Id of the arrived material that this one was made like; null for one that arrived.</summary>
    public string? CopyOf { get; init; }

    /// <summary>The images that reach its inputs, each with the field that calls it.</summary>
    public IEnumerable<(ReferenceKey Key, ReferenceUse Use)> Uses()
    {
        var surface = Graph.SurfaceNode;
        var model = ShadingModels.OfType(surface?.Type ?? string.Empty);
        var fields =
            from input in surface?.Inputs ?? []
            from image in Graph.ImagesOf(input)
            group model?.Input(input.Name)?.Role by (image.Reference, Field: image.Slot.Length > 0 ? image.Slot : input.Name);
        foreach (var field in fields)
            yield return (field.Key.Reference, new(Name, field.Key.Field) { Role = Roles.OfMap(field.OfType<Role>()) });
        foreach (var other in Others)
            yield return (other.Image, new(Name, other.Field));
    }
}

/// <param name="Field">The format's own name of the field.</param>
public sealed record OtherUse(ReferenceKey Image, string Field);
