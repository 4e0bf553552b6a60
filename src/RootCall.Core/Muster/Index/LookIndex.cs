namespace RootCall.Core.Muster;

/// <summary>
/// Paths by the looks of their pictures. Two looks that differ in fewer bits than there are bands agree in a whole band, so a
/// picture is compared with those that share a band with it, not with all (the pigeonhole principle).
/// </summary>
internal sealed class LookIndex
{
    private const int Bits = 64;
    private const int Bands = EvidenceWeights.AlikeBits + 1;

    private readonly Lock gate = new();
    private readonly Dictionary<(int Band, ulong Bits), List<string>> buckets = [];

    public void Add(string path, ulong look)
    {
        lock (gate)
            for (var band = 0; band < Bands; band++)
            {
                var key = (band, Of(look, band));
                if (buckets.TryGetValue(key, out var paths))
                    paths.Add(path);
                else
                    buckets[key] = [path];
            }
    }

    /// <summary>Every path whose look differs in at most <see cref="EvidenceWeights.AlikeBits"/> bits, and some others.</summary>
    public IReadOnlySet<string> Near(ulong look)
    {
        var near = new HashSet<string>(StringComparer.Ordinal);
        lock (gate)
            for (var band = 0; band < Bands; band++)
                if (buckets.TryGetValue((band, Of(look, band)), out var paths))
                    near.UnionWith(paths);
        return near;
    }

    private static ulong Of(ulong look, int band)
    {
        var (from, to) = (Bits * band / Bands, Bits * (band + 1) / Bands);
        return (look >> from) & ((1UL << (to - from)) - 1);
    }
}
