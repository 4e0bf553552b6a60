using System.Numerics;

namespace RootCall.Core.Shading.Lobes;

/// <summary>
/// How a point scatters light, in the frame of its normal: z points out of the surface, and both directions are unit vectors that point
/// away from it. Values are linear light of three primaries.
/// </summary>
public interface ILobe
{
    /// <summary>
    /// Share of the light from <paramref name="light"/> that goes to <paramref name="view"/>, per steradian, without the cosine.
    /// </summary>
    Vector3 Evaluate(Vector3 view, Vector3 light);

    /// <summary>How likely <see cref="Sample"/> picks <paramref name="light"/>, per steradian.</summary>
    float Density(Vector3 view, Vector3 light);

    /// <summary>Picks a direction from which light is likely to come.</summary>
    /// <param name="u">Two numbers from 0 to 1, 1 left out.</param>
    /// <returns>Null for a direction that lies below the surface: no light comes from there.</returns>
    Vector3? Sample(Vector3 view, Vector2 u);
}
