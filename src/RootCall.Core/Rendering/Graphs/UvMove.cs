using System.Numerics;
using RootCall.Core.Scenes;

namespace RootCall.Core.Rendering.Graphs;

/// <summary>Where an image is read for a coordinate: the move that its use says, and V turned so that it grows downwards.</summary>
/// <param name="countsDown">The format's own V grows downwards, and its move is said in that.</param>
/// <param name="isTiled">Inputs follow that say how often and how large it repeats (MaterialX's tiledimage).</param>
internal sealed class UvMove(UvTransform transform, bool countsDown, bool isTiled)
{
    private readonly bool moves = !transform.IsIdentity;
    private readonly bool turnsFirst = transform.Order.StartsWith("offset", StringComparison.Ordinal);
    private readonly Vector2 scale = new((float)transform.ScaleU, (float)transform.ScaleV);
    private readonly Vector2 offset = new((float)transform.OffsetU, (float)transform.OffsetV);
    private readonly (float Sine, float Cosine) turn = MathF.SinCos((float)(transform.Rotation * Math.PI / 180));

    /// <summary>The coordinate, and how much faster it moves than the point's.</summary>
    public (Vector2 Uv, float Scale) Of(ReadOnlySpan<Vector4> inputs)
    {
        var uv = new Vector2(inputs[0].X, inputs[0].Y);
        if (countsDown)
            uv.Y = 1 - uv.Y;
        var faster = MathF.Max(MathF.Abs(scale.X), MathF.Abs(scale.Y));
        if (isTiled)
        {
            var size = inputs[4] / inputs[3];
            var tiled = ((new Vector4(uv, 0, 0) * inputs[1]) - inputs[2]) * size;
            uv = new(tiled.X, tiled.Y);
            faster = MathF.Max(MathF.Abs(inputs[1].X * size.X), MathF.Abs(inputs[1].Y * size.Y));
        }
        else if (moves)
            uv = turnsFirst ? Turned(uv + offset) * scale : Turned(uv * scale) + offset;
        return (countsDown ? uv : uv with { Y = 1 - uv.Y }, faster);
    }

    /// <summary>
    /// KHR_texture_transform turns counter-clockwise where V grows downwards, the others where it grows upwards: the same matrix but
    /// for the sign of the sine.
    /// </summary>
    private Vector2 Turned(Vector2 uv)
    {
        var sine = countsDown ? turn.Sine : -turn.Sine;
        return new((turn.Cosine * uv.X) + (sine * uv.Y), (turn.Cosine * uv.Y) - (sine * uv.X));
    }
}
