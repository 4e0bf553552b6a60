namespace RootCall.Core.Transfer;

/// <summary>Pairs the things of two scenes: by name, then by name without what exporters add, then by what they hold.</summary>
internal sealed class Pairing<T>
    where T : class
{
    private readonly Dictionary<T, T> pairs = new(ReferenceEqualityComparer.Instance);

    /// <param name="content">A text that is the same when two things hold the same; null when it says nothing.</param>
    public Pairing(IReadOnlyList<T> a, IReadOnlyList<T> b, Func<T, string> name, Func<T, string?> content)
    {
        var leftA = a.ToList();
        var leftB = b.ToList();
        foreach (var key in new Func<T, string?>[] { name, t => name(t).ToLowerInvariant(), t => Plain(name(t)), content })
            Take(leftA, leftB, key);
        (OnlyA, OnlyB) = (leftA, leftB);
        Pairs = [.. a.Where(pairs.ContainsKey).Select(x => (x, pairs[x]))];
    }

    public IReadOnlyList<(T A, T B)> Pairs { get; }

    public IReadOnlyList<T> OnlyA { get; }

    public IReadOnlyList<T> OnlyB { get; }

    public T? Of(T a) => pairs.GetValueOrDefault(a);

    private void Take(List<T> leftA, List<T> leftB, Func<T, string?> key)
    {
        var byKey = new Dictionary<string, Queue<T>>(StringComparer.Ordinal);
        foreach (var item in leftB)
        {
            if (key(item) is not { Length: > 0 } k)
                continue;
            if (!byKey.TryGetValue(k, out var queue))
                byKey[k] = queue = new();
            queue.Enqueue(item);
        }

        foreach (var item in leftA.ToList())
        {
            if (key(item) is not { Length: > 0 } k || !byKey.TryGetValue(k, out var queue) || !queue.TryDequeue(out var match))
                continue;
            pairs[item] = match;
            leftA.Remove(item);
            leftB.Remove(match);
        }
    }

    /// <summary>Without name spaces, numbers behind a dot, and the endings exporters put on.</summary>
    private static string Plain(string name)
    {
        var plain = name[(name.LastIndexOf(':') + 1)..].ToLowerInvariant();
        var dot = plain.LastIndexOf('.');
        if (dot > 0 && plain[(dot + 1)..].All(char.IsAsciiDigit))
            plain = plain[..dot];
        foreach (var ending in (string[])["shape", "_mat", "_material", "_mtl", "sg", "_geo", "_mesh"])
            if (plain.EndsWith(ending, StringComparison.Ordinal) && plain.Length > ending.Length)
                plain = plain[..^ending.Length];
        return new([.. plain.Where(char.IsLetterOrDigit)]);
    }
}
