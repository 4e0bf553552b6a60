using System.Collections.Immutable;
using RootCall.Core.Files;

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
        var moves = Moves(references);
        var rewrites = new Dictionary<(string From, string To), List<Move>>();
        foreach (var move in moves)
        foreach (var rewrite in move.Rewrites())
        {
            if (!rewrites.TryGetValue(rewrite, out var explained))
                rewrites[rewrite] = explained = [];
            explained.Add(move);
        }

        // Greedy with a lazily corrected heap: a count only shrinks, so a stale top is pushed back with its true count.
        var open = moves.ToHashSet();
        var heap = new PriorityQueue<(string From, string To), (int, int, string)>();
        foreach (var (rewrite, explained) in rewrites)
            heap.Enqueue(rewrite, Order(Weight(explained), rewrite));
        var rules = ImmutableArray.CreateBuilder<RelocationRule>();
        while (open.Count > 0 && heap.TryDequeue(out var rewrite, out var order))
        {
            var settles = rewrites[rewrite].Where(open.Contains).ToList();
            if (settles.Count == 0)
                continue;
            if (Weight(settles) < -order.Item1)
            {
                heap.Enqueue(rewrite, Order(Weight(settles), rewrite));
                continue;
            }

            open.ExceptWith(settles);
            var explained = rewrites[rewrite].ToHashSet();
            var contradicts = moves.Where(m => m.StandsUnder(rewrite.From) && !explained.Contains(m));
            rules.Add(new(rewrite.From, rewrite.To, Numbers(settles), Numbers(contradicts)));
        }

        return rules.ToImmutable();
    }

    private static int Weight(List<Move> moves) => moves.Sum(m => m.Numbers.Count);

    private static ImmutableArray<int> Numbers(IEnumerable<Move> moves) => [.. moves.SelectMany(m => m.Numbers).Order()];

    private static (int, int, string) Order(int settles, (string From, string To) rewrite) =>
        (-settles, -rewrite.From.Length, $"{rewrite.From}\n{rewrite.To}");

    /// <summary>Files that went from one written folder to one folder are explained by the same rewrites.</summary>
    private static List<Move> Moves(IEnumerable<MusteredReference> references)
    {
        var moves = new Dictionary<(string, string), Move>();
        foreach (var reference in references)
        {
            if (reference.Clear is not { } clear)
                continue;
            var written = WrittenPath.Parse(reference.Reference.Written);
            var key = (written.Folder, Path.GetDirectoryName(clear.Path)!);
            if (!moves.TryGetValue(key, out var move))
                moves[key] = move = new(written, key.Item2, []);
            move.Numbers.Add(reference.Number);
        }

        return [.. moves.Values];
    }

    private sealed record Move(WrittenPath Written, string Answer, List<int> Numbers)
    {
        private readonly string folded = FileName.Fold(Written.Folder) + "/";

        /// <summary>Every rewrite that turns the written folder into the answer's: the common last folders may stay or go.</summary>
        public IEnumerable<(string From, string To)> Rewrites()
        {
            var answer = Answer.Split('/', StringSplitOptions.RemoveEmptyEntries);
            var written = Written.Segments.Length - 1;
            for (var common = 0; ; common++)
            {
                yield return (Written.Join(written - common), "/" + string.Join('/', answer.Take(answer.Length - common)));
                var (w, a) = (written - common - 1, answer.Length - common - 1);
                if (w < 0 || a < 0 || FileName.Fold(Written.Segments[w]) != FileName.Fold(answer[a]))
                    yield break;
            }
        }

        public bool StandsUnder(string from)
        {
            var prefix = FileName.Fold(from);
            return prefix == "." ? Written.Origin == PathOrigin.Relative : folded.StartsWith(prefix + "/", StringComparison.Ordinal);
        }

        public bool Equals(Move? other) => ReferenceEquals(this, other);

        public override int GetHashCode() => System.Runtime.CompilerServices.RuntimeHelpers.GetHashCode(this);
    }
}
