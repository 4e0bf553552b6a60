using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Shading.Evaluation;
using RootCall.Core.Shading.Lobes;

namespace RootCall.Core.Rendering.Frames;

/// <summary>A grey matte surface: what stands for a material that is not there.</summary>
public sealed class PlainSurfaces : ISurfaces
{
    /// <summary>What it gives back of the light that falls on it.</summary>
    public const float Albedo = 0.5f;

    private readonly LambertLobe lobe = new();

    public bool MayBeAbsent => false;

    public (Surface Surface, Frame Frame) At(in ShadingPoint point, bool isInside)
    {
        var frame = Frame.Around(isInside ? -point.Normal : point.Normal);
        var builder = new Surface.Builder(frame.ToLocal(point.View));
        builder.Add(new(Albedo), lobe);
        return (builder.Build(), frame);
    }
}
