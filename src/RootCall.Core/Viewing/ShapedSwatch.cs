using RootCall.Core.Rendering.Frames;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Shapes;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Rendering.Tracing;

namespace RootCall.Core.Viewing;

/// <summary>A swatch on a shape that is made of triangles.</summary>
public static class ShapedSwatch
{
    /// <summary>Null for a material without a surface, or with one whose model is not evaluated here.</summary>
    /// <param name="view">Its light takes the place of the order's.</param>
    /// <param name="moment">A folder for images that have to be taken out of the scene before they are decoded.</param>
    /// <exception cref="Files.CannotUseException">It cannot be drawn; the sentence tells why.</exception>
    public static Swatch? Of(
        SwatchOrder order,
        FrameView view,
        TextureCache cache,
        IRayTracers tracers,
        string moment,
        CancellationToken stop
    )
    {
        var textures = new OrderedTextures(order.Images, cache, moment, stop);
        if (MaterialProgram.Of(order.Graph, textures) is not { } program)
            return null;
        var (geometry, camera) = order.On?.Made(stop) ?? order.Shape.Made();
        using var tracer = geometry.Traced(tracers, stop);
        var light = new FrameLight(view.Light, [], geometry.Radius);
        var painter = new FramePainter(geometry, [program], program, camera, light, tracer, view.Width, view.Height);
        var (picture, done) = Painted.Of(painter, view, stop);
        return new(view.Width, [.. picture], Swatch.Tell(program, textures, done, view.Samples));
    }
}
