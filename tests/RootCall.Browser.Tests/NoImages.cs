using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Scenes;

namespace RootCall.Browser.Tests;

/// <summary>For graphs that read none.</summary>
internal sealed class NoImages : ITextureSource
{
    public static NoImages All { get; } = new();

    public ITexture? Find(ImageUse use) => null;
}
