using System.Collections.Immutable;

namespace RootCall.Core.Audit;

/// <summary>What a rule is, for its page, its help panel and its place among the house rules.</summary>
/// <param name="Id"><c>family.what-is-wrong</c>.</param>
/// <param name="Title">A few words, without a full stop.</param>
/// <param name="Severity">What its findings are unless the house rules say otherwise.</param>
public sealed record RuleDescriptor(string Id, string Title, Severity Severity)
{
    /// <summary>What the rule expects to be true, in one sentence.</summary>
    public required string Expects { get; init; }

    /// <summary>What happens when it is not.</summary>
    public required string Why { get; init; }

    /// <summary>The published document with its section, <c>common practice</c>, or <c>from memory</c>.</summary>
    public required string Source { get; init; }

    /// <summary>What it needs to be sure, and where it stays silent.</summary>
    public required string Evidence { get; init; }

    /// <summary>What the fix does; null where only a person can decide.</summary>
    public string? Fix { get; init; }

    /// <summary>Numbers that the house rules may change.</summary>
    public ImmutableArray<Threshold> Thresholds { get; init; } = [];

    /// <summary>A scene that breaks the rule.</summary>
    public required Example Example { get; init; }

    public string Family => Id[..Id.IndexOf('.', StringComparison.Ordinal)];
}

/// <param name="Name">Called <c>rule-id/name</c> in house rules.</param>
/// <param name="Unit">Empty for a ratio or a count that the meaning names.</param>
public sealed record Threshold(string Name, double Value, string Unit, string Meaning);

/// <summary>The part of a scene that breaks a rule; what a whole file needs besides is added when it is written.</summary>
/// <param name="Format">
/// <c>gltf</c>: the materials' JSON objects; <c>mtl</c>: a material library; <c>usda</c>: the prims in a material;
/// <c>mtlx</c>: the elements of a document.
/// </param>
public sealed record Example(string Format, string Text)
{
    /// <summary>Meshes with the material each has and their UV sets; one mesh for each material when empty.</summary>
    public ImmutableArray<ExampleMesh> Meshes { get; init; } = [];

    /// <summary>Files that lie in the folder besides those that are called, by path.</summary>
    public ImmutableArray<string> Beside { get; init; } = [];

    /// <summary>Id of the destination it breaks the rule for; null for the plain one.</summary>
    public string? For { get; init; }

    public static Example Gltf(string materials) => new("gltf", materials);

    public static Example Mtl(string library) => new("mtl", library);

    public static Example Usda(string prims) => new("usda", prims);

    public static Example Mtlx(string elements) => new("mtlx", elements);
}

/// <param name="Material">Empty for none.</param>
/// <param name="UvSets">Number of UV sets.</param>
public sealed record ExampleMesh(string Name, string Material, int UvSets = 1)
{
    /// <summary>More parts of the same mesh, each with its material.</summary>
    public ImmutableArray<string> MoreParts { get; init; } = [];

    public long Triangles { get; init; } = 1;
}
