namespace RootCall.Core.Transfer;

/// <summary>
/// Pairs the things of two scenes: by name, then by name without what one side adds to all of its names, then by what they hold.
/// </summary>
internal sealed class Pairing<T>
    where T : class
{
    private readonly Dictionary<T, T> pairs = new(ReferenceEqualityComparer.Instance);

    /// <param name="content">A text that is the same when two things hold the same; null when it says nothing.</param>
    public Pairing(IReadOnlyList<T> a, IReadOnlyList<T> b, Func<T, string> name, Func<T, string?> content)
    {
        var leftA = a.ToList();
        var leftB = b.ToList();
        foreach (var key in new Func<T, string?>[] { name, t => name(t).ToLowerInvariant() })
            Take(leftA, leftB, key, key);
        // Off one side at a time: “tin_normal” and “tin_base” are not one, though each ends as all of its side do.
        Take(leftA, leftB, t => Plain(name(t), 0), t => Plain(name(t), 0));
        var (endingA, endingB) = (SharedEnding(a.Select(name)), SharedEnding(b.Select(name)));
        Take(leftA, leftB, t => Plain(name(t), endingA), t => Plain(name(t), 0));
        Take(leftA, leftB, t => Plain(name(t), 0), t => Plain(name(t), endingB));
        Take(leftA, leftB, content, content);
        (OnlyA, OnlyB) = (leftA, leftB);
        Pairs = [.. a.Where(pairs.ContainsKey).Select(x => (x, pairs[x]))];
    }

    public IReadOnlyList<(T A, T B)> Pairs { get; }

    public IReadOnlyList<T> OnlyA { get; }

    public IReadOnlyList<T> OnlyB { get; }

    public T? Of(T a) => pairs.GetValueOrDefault(a);

    private void Take(List<T> leftA, List<T> leftB, Func<T, string?> keyA, Func<T, string?> keyB)
    {
        var byKey = new Dictionary<string, Queue<T>>(StringComparer.Ordinal);
        foreach (var item in leftB)
        {
            if (keyB(item) is not { Length: > 0 } k)
                continue;
            if (!byKey.TryGetValue(k, out var queue))
                byKey[k] = queue = new();
            queue.Enqueue(item);
        }

        foreach (var item in leftA.ToList())
        {
            if (keyA(item) is not { Length: > 0 } k || !byKey.TryGetValue(k, out var queue) || !queue.TryDequeue(out var match))
                continue;
            pairs[item] = match;
            leftA.Remove(item);
            leftB.Remove(match);
        }
    }

    /// <summary>Without name spaces, numbers behind a dot, and so many letters of its end.</summary>
    private static string Plain(string name, int ending) => new([.. Own(name)[..^ending].ToLowerInvariant().Where(char.IsLetterOrDigit)]);

    private static string Own(string name)
    {
        var own = name[(name.LastIndexOf(':') + 1)..];
        var dot = own.LastIndexOf('.');
        return dot > 0 && dot < own.Length - 1 && own.AsSpan(dot + 1).IndexOfAnyExceptInRange('0', '9') < 0 ? own[..dot] : own;
    }

    /// <summary>
    /// Letters at the end that all names have: a word of its own, behind a separator or with a capital. None of one name alone.
    /// </summary>
    private static int SharedEnding(IEnumerable<string> all)
    {
        var names = all.Select(Own).Distinct(StringComparer.Ordinal).ToList();
        if (names.Count < 2)
            return 0;
        var first = names[0];
        var shared = first.Length - 1;
        foreach (var other in names.Skip(1))
        {
            var same = 0;
            while (same < shared && same < other.Length - 1 && first[^(same + 1)] == other[^(same + 1)])
                same++;
            shared = same;
        }

        // It begins where a word does, in all of them.
        while (shared > 0 && !IsWord(first[^shared], first[^(shared + 1)]))
            shared--;
        return shared > 0 && names.All(n => IsWord(n[^shared], n[^(shared + 1)])) ? shared : 0;
    }

    private static bool IsWord(char begin, char before) => !char.IsLetterOrDigit(begin) || (char.IsUpper(begin) && char.IsLower(before));
}
