using System.Collections.Immutable;
using RootCall.Core.Viewing;

namespace RootCall.Core.Bench;

/// <summary>
/// Looks in an order in which neighbours look alike: along the smallest tree that joins them all (Prim's way), each branch told before
/// the long one that goes on. What is far from all others stands out.
/// </summary>
/// <param name="Order">Each look once, by its index.</param>
/// <param name="Strangers">Those that lie far from every other one, the farthest first.</param>
public sealed record LikenessOrder(ImmutableArray<int> Order, ImmutableArray<int> Strangers)
{
    /// <summary>So many times farther from the nearest than is common in the scene, and so far at least (common practice).</summary>
    private const float Times = 3,
        Least = 10;

    public static LikenessOrder Of(IReadOnlyList<LookFeatures> looks)
    {
        if (looks.Count == 0)
            return new([], []);
        var (parents, lengths) = Tree(looks);
        var neighbours = Enumerable.Range(0, looks.Count).Select(_ => new List<int>()).ToArray();
        for (var i = 0; i < looks.Count; i++)
            if (parents[i] >= 0)
            {
                neighbours[i].Add(parents[i]);
                neighbours[parents[i]].Add(i);
            }

        // From one end of the tree's longest way to the other.
        var start = Farthest(neighbours, parents, lengths, 0);
        return new(Walk(neighbours, start), Alone(parents, lengths));
    }

    private static (int[] Parents, float[] Lengths) Tree(IReadOnlyList<LookFeatures> looks)
    {
        var (parents, lengths, isIn) = (new int[looks.Count], new float[looks.Count], new bool[looks.Count]);
        Array.Fill(parents, -1);
        Array.Fill(lengths, float.MaxValue);
        lengths[0] = 0;
        for (var added = 0; added < looks.Count; added++)
        {
            var next = -1;
            for (var i = 0; i < looks.Count; i++)
                if (!isIn[i] && (next < 0 || lengths[i] < lengths[next]))
                    next = i;
            isIn[next] = true;
            for (var i = 0; i < looks.Count; i++)
                if (!isIn[i] && looks[next].Distance(looks[i]) is var far && far < lengths[i])
                    (lengths[i], parents[i]) = (far, next);
        }

        return (parents, lengths);
    }

    private static int Farthest(List<int>[] neighbours, int[] parents, float[] lengths, int from)
    {
        var away = new float[neighbours.Length];
        Array.Fill(away, -1);
        away[from] = 0;
        var ahead = new Stack<int>([from]);
        while (ahead.TryPop(out var at))
            foreach (var next in neighbours[at].Where(n => away[n] < 0))
            {
                away[next] = away[at] + (parents[next] == at ? lengths[next] : lengths[at]);
                ahead.Push(next);
            }

        return Array.IndexOf(away, away.Max());
    }

    /// <summary>Every branch before the largest, so that the way goes on where most are left.</summary>
    private static ImmutableArray<int> Walk(List<int>[] neighbours, int start)
    {
        var (order, from) = (new List<int>(neighbours.Length), new int[neighbours.Length]);
        Array.Fill(from, -1);
        var ahead = new Stack<int>([start]);
        while (ahead.TryPop(out var at))
        {
            order.Add(at);
            foreach (var next in neighbours[at].Where(n => n != from[at]))
            {
                from[next] = at;
                ahead.Push(next);
            }
        }

        var sizes = new int[neighbours.Length];
        foreach (var at in Enumerable.Reverse(order))
        {
            sizes[at]++;
            if (from[at] >= 0)
                sizes[from[at]] += sizes[at];
        }

        var walk = ImmutableArray.CreateBuilder<int>(neighbours.Length);
        ahead.Push(start);
        while (ahead.TryPop(out var at))
        {
            walk.Add(at);
            foreach (var next in neighbours[at].Where(n => n != from[at]).OrderByDescending(n => sizes[n]))
                ahead.Push(next);
        }

        return walk.ToImmutable();
    }

    private static ImmutableArray<int> Alone(int[] parents, float[] lengths)
    {
        var nearest = new float[parents.Length];
        Array.Fill(nearest, float.MaxValue);
        for (var i = 0; i < parents.Length; i++)
            if (parents[i] >= 0)
                foreach (var end in (ReadOnlySpan<int>)[i, parents[i]])
                    nearest[end] = Math.Min(nearest[end], lengths[i]);
        if (parents.Length < 4)
            return [];
        var common = nearest.Order().ElementAt(parents.Length / 2);
        return
        [
            .. Enumerable
                .Range(0, parents.Length)
                .Where(i => nearest[i] >= Least && nearest[i] > common * Times)
                .OrderByDescending(i => nearest[i]),
        ];
    }
}
