using System.Collections.Immutable;

namespace RootCall.Core.Muster;

/// <summary>"These references all moved from here to there": one decision instead of many.</summary>
/// <param name="From">Start of the written paths, with slashes: <c>D:/jobs/2231/tex</c>.</param>
/// <param name="To">Absolute folder that takes its place.</param>
/// <param name="Settles">Numbers of the references it answers.</param>
/// <param name="Contradicts">Numbers of references under <paramref name="From"/> whose clear answer lies elsewhere.</param>
public sealed record RelocationRule(string From, string To, ImmutableArray<int> Settles, ImmutableArray<int> Contradicts);

/// <summary>
/// Infers the rules from all pairs of a written path and its clear answer. The smallest set of prefix rewrites is a set
/// cover, so it is found greedily: the rewrite that settles most first, and among equals the longest prefix, which
/// promises least about paths nobody has seen.
/// </summary>
public static class RelocationRules
{
    public static ImmutableArray<RelocationRule> Infer(IEnumerable<MusteredReference> references)
    {
        var pairs = references.Where(r => r.Clear is not null).Select(r => new Pair(r.Number, WrittenPath.Parse(r.Reference.Written), r.Clear!.Path)).ToList();
        var rewrites = new Dictionary<(string From, string To), List<int>>();
        foreach (var pair in pairs)
            foreach (var rewrite in pair.Rewrites())
            {
                if (!rewrites.TryGetValue(rewrite, out var settled)) rewrites[rewrite] = settled = [];
                settled.Add(pair.Number);
            }

        // Greedy with a lazily corrected heap: a count only shrinks, so a stale top is pushed back with its true count.
        var open = pairs.Select(p => p.Number).ToHashSet();
        var heap = new PriorityQueue<(string From, string To), (int, int, string)>();
        foreach (var (rewrite, settled) in rewrites) heap.Enqueue(rewrite, Order(settled.Count, rewrite));
        var rules = ImmutableArray.CreateBuilder<RelocationRule>();
        while (open.Count > 0 && heap.TryDequeue(out var rewrite, out var order))
        {
            var settles = rewrites[rewrite].Where(open.Contains).ToImmutableArray();
            if (settles.IsEmpty) continue;
            if (settles.Length < -order.Item1)
            {
                heap.Enqueue(rewrite, Order(settles.Length, rewrite));
                continue;
            }

            open.ExceptWith(settles);
            var contradicts = pairs.Where(p => p.StandsUnder(rewrite.From) && !rewrites[rewrite].Contains(p.Number)).Select(p => p.Number);
            rules.Add(new(rewrite.From, rewrite.To, settles, [.. contradicts]));
        }

        return rules.ToImmutable();
    }

    private static (int, int, string) Order(int settles, (string From, string To) rewrite) => (-settles, -rewrite.From.Length, $"{rewrite.From}\n{rewrite.To}");

    private sealed record Pair(int Number, WrittenPath Written, string Answer)
    {
        private readonly string folded = FileName.Fold(Written.Join(Written.Segments.Length));

        /// <summary>Every rewrite that turns the written folder into the answer's: the common last folders may stay or go.</summary>
        public IEnumerable<(string From, string To)> Rewrites()
        {
            var answer = Path.GetDirectoryName(Answer)!.Split('/', StringSplitOptions.RemoveEmptyEntries);
            var written = Written.Segments.Length - 1;
            for (var common = 0; ; common++)
            {
                yield return (Written.Join(written - common), "/" + string.Join('/', answer.Take(answer.Length - common)));
                var (w, a) = (written - common - 1, answer.Length - common - 1);
                if (w < 0 || a < 0 || FileName.Fold(Written.Segments[w]) != FileName.Fold(answer[a])) yield break;
            }
        }

        public bool StandsUnder(string from)
        {
            var prefix = FileName.Fold(from);
            return prefix == "." ? Written.Origin == PathOrigin.Relative : folded.StartsWith(prefix + "/", StringComparison.Ordinal);
        }
    }
}
