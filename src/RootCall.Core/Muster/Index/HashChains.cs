using System.Numerics;

namespace RootCall.Core.Muster;

/// <summary>Finds the places of a hash in a list of hashes, without an object for each: buckets that hold chains.</summary>
internal sealed class HashChains
{
    private readonly ulong[] hashes;
    private readonly int[] heads;
    private readonly int[] next;

    public HashChains(ulong[] hashes)
    {
        this.hashes = hashes;
        heads = new int[BitOperations.RoundUpToPowerOf2((uint)Math.Max(16, hashes.Length))];
        next = new int[hashes.Length];
        // Backwards, so that a chain runs in the order of the list. Places count from 1; 0 ends a chain.
        for (var i = hashes.Length - 1; i >= 0; i--)
        {
            ref var head = ref heads[hashes[i] & (uint)(heads.Length - 1)];
            next[i] = head;
            head = i + 1;
        }
    }

    public IEnumerable<int> Find(ulong hash)
    {
        for (var i = heads[hash & (uint)(heads.Length - 1)]; i != 0; i = next[i - 1])
            if (hashes[i - 1] == hash)
                yield return i - 1;
    }
}
