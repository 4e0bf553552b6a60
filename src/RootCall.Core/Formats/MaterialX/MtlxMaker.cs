using System.Collections.Immutable;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>A look as nodes beside the others of a document; everything that the standard library says can be said.</summary>
internal sealed class MtlxMaker : ILookMaker
{
    public ImmutableArray<string> Models { get; } = ["standard-surface", "open-pbr", "usd-preview-surface", "materialx-gltf-pbr"];

    public MadeLook Make(SceneDraft draft, Material source, string name, ShaderGraph look) =>
        new(new(name) { Graph = look, File = source.File }, StandardGraph.Of(look, out var why) is null ? [new(string.Empty, why!)] : []);

    /// <summary>What the library cannot say, an image of one input cannot either: the surface or its coordinates.</summary>
    public ImmutableArray<WantedImage> Images(ShaderGraph look, IReadOnlyCollection<string> unsaid) => [];
}
