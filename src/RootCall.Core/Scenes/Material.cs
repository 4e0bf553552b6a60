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

    /// <summary>True when the definition lies in a file that is not written (a crate, an archive): an edit goes to an overriding layer.</summary>
    public bool Locked { get; init; }
}
