using System.Numerics;

namespace RootCall.Core.Rendering.Frames;

/// <summary>Where a frame is seen from.</summary>
/// <param name="At">Its place, or the middle of its picture where it sees in parallel.</param>
/// <param name="Ahead">Where it looks to; with <paramref name="Up"/> it is of length 1, and square to it.</param>
/// <param name="Half">Half the height of what it sees at distance 1; or at any distance, where it sees in parallel.</param>
public sealed record FrameCamera(Vector3 At, Vector3 Ahead, Vector3 Up, float Half, bool IsParallel = false)
{
    private Vector3 Right => Vector3.Cross(Ahead, Up);

    /// <param name="place">In the picture, -1 to 1 from left to right times the aspect, and from bottom to top.</param>
    public (Vector3 Origin, Vector3 Direction) Through(Vector2 place)
    {
        var beside = ((place.X * Right) + (place.Y * Up)) * Half;
        return IsParallel ? (At + beside, Ahead) : (At, Vector3.Normalize(Ahead + beside));
    }

    /// <summary>How wide a picture of so many rows sees each of them, at distance 0 and for each length more.</summary>
    public (float Start, float Spread) Width(int rows) => IsParallel ? (2 * Half / rows, 0) : (0, 2 * Half / rows);

    /// <summary>Half the height of what is seen at distance 1, of a camera that finds its own place: about 28°.</summary>
    private const float Calm = 0.25f;

    /// <summary>Room around what is framed.</summary>
    private const float Room = 1.08f;

    /// <summary>Sees all of a box: from the front, a little from the right and from above.</summary>
    /// <param name="aspect">Width by height of the picture.</param>
    public static FrameCamera Around(Vector3 min, Vector3 max, float aspect)
    {
        var middle = (min + max) / 2;
        var ahead = Vector3.Normalize(new(-0.42f, -0.3f, -1));
        var right = Vector3.Normalize(Vector3.Cross(ahead, Vector3.UnitY));
        var up = Vector3.Cross(right, ahead);
        // For each corner, how far back one has to go to have it in the picture; the farthest decides.
        var back = 0f;
        for (var i = 0; i < 8; i++)
        {
            var corner = new Vector3((i & 1) == 0 ? min.X : max.X, (i & 2) == 0 ? min.Y : max.Y, (i & 4) == 0 ? min.Z : max.Z) - middle;
            var beside = MathF.Max(MathF.Abs(Vector3.Dot(corner, right)) / aspect, MathF.Abs(Vector3.Dot(corner, up)));
            back = MathF.Max(back, (beside * Room / Calm) - Vector3.Dot(corner, ahead));
        }

        return new(middle - (ahead * MathF.Max(back, 1e-6f)), ahead, up, Calm);
    }
}
