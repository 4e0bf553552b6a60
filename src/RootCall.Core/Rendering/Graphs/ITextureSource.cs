using System.Numerics;
using RootCall.Core.Scenes;

namespace RootCall.Core.Rendering.Graphs;

/// <summary>An image as a graph reads it: linear values, wrapped and filtered.</summary>
public interface ITexture
{
    /// <summary>Red, green, blue and alpha.</summary>
    /// <param name="uv">V grows downwards from the top row.</param>
    /// <param name="footprint">How far apart the UVs of neighbouring pixels lie.</param>
    Vector4 Sample(Vector2 uv, float footprint);
}

/// <summary>Gives the images that a material reads.</summary>
public interface ITextureSource
{
    /// <summary>Null for one that does not come: then the default of the use holds.</summary>
    ITexture? Find(ImageUse use);
}
