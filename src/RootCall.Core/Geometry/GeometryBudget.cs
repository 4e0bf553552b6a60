using RootCall.Core.Files;
using static System.FormattableString;

namespace RootCall.Core.Geometry;

/// <summary>Counts the bytes that reading a mesh takes, and refuses what is more than is given.</summary>
public sealed class GeometryBudget(Bounds bounds, string what)
{
    private long taken;

    /// <summary>Asks for room before it is taken.</summary>
    /// <exception cref="CannotUseException">There is not so much.</exception>
    public void Take(long count, int bytes)
    {
        taken = count < 0 || count > long.MaxValue / 64 ? long.MaxValue : Math.Min(long.MaxValue / 2, taken) + (count * bytes);
        if (taken > bounds.GeometryBytes)
            throw new CannotUseException(
                Invariant($"The geometry of {what} has more than the {bounds.GeometryBytes:N0} bytes that are read.")
            );
    }

    public float[] Floats(long count)
    {
        Take(count, sizeof(float));
        return new float[count];
    }

    public int[] Integers(long count)
    {
        Take(count, sizeof(int));
        return new int[count];
    }
}
