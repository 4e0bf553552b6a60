namespace RootCall.Core.Rendering.Sampling;

/// <summary>Picks one of many, each as often as its weight says.</summary>
internal static class RunningSums
{
    /// <summary>The place where running sums pass a share of their last, and how far into it.</summary>
    /// <param name="sums">From 0, one more than there are to pick from.</param>
    /// <param name="share">0 to 1, 1 left out.</param>
    public static (int At, float Into) Find(ReadOnlySpan<float> sums, float share)
    {
        var wanted = share * sums[^1];
        int low = 0,
            high = sums.Length - 2;
        while (low < high)
        {
            var middle = (low + high + 1) / 2;
            if (sums[middle] <= wanted)
                low = middle;
            else
                high = middle - 1;
        }

        var width = sums[low + 1] - sums[low];
        return (low, width > 0 ? Math.Clamp((wanted - sums[low]) / width, 0, 0.9999999f) : 0);
    }
}
