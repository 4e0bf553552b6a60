using RootCall.Core.Rendering;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Shading.Evaluation;

namespace RootCall.Core.Tests.Rendering;

/// <summary>A material that is the same everywhere.</summary>
internal sealed class Everywhere(ModelPoint point) : ISurfaces
{
    public bool MayBeAbsent { get; init; }

    public (Surface Surface, Frame Frame) At(in ShadingPoint at, bool isInside)
    {
        var frame = Frame.Around(isInside ? -at.Normal : at.Normal);
        return (point.At(frame.ToLocal(at.View), isInside), frame);
    }
}
