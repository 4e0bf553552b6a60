namespace RootCall.Core.Rendering.Sampling;

/// <summary>Light that can be found in two ways counts once.</summary>
internal static class Balance
{
    /// <summary>
    /// Each way to find light counts by how likely it was beside the other (the balance heuristic of “Optimally Combining Sampling
    /// Techniques for Monte Carlo Rendering”, SIGGRAPH 1995).
    /// </summary>
    public static float Share(float own, float other) => own / (own + other);
}
