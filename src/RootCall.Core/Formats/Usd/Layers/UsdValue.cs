using System.Collections.Immutable;

namespace RootCall.Core.Formats.Usd.Layers;

/// <summary>A value in a layer. Arrays of numbers are read when they are asked for.</summary>
public abstract record UsdValue
{
    /// <summary>The text of a string or token; null for anything else.</summary>
    public string? AsText => this is UsdText text ? text.Text : null;

    /// <summary>The numbers of a scalar, tuple or array, flattened; empty for anything else.</summary>
    public double[] AsNumbers => this is UsdNumbers numbers ? numbers.All() : [];

    /// <summary>Names in a token or string array; one name for a single token.</summary>
    public IEnumerable<string> AsNames =>
        this switch
        {
            UsdText text => [text.Text],
            UsdList list => list.Items.Select(i => i.AsText).OfType<string>(),
            _ => [],
        };
}

/// <summary>A string or token.</summary>
public sealed record UsdText(string Text) : UsdValue;

/// <summary>An asset path with the bytes between its delimiters in the layer's file; -1 where the file packs its paths.</summary>
public sealed record UsdAsset(string Path, int Start, int Length) : UsdValue;

/// <summary>A list of texts, assets or dictionaries.</summary>
public sealed record UsdList(ImmutableArray<UsdValue> Items) : UsdValue;

public sealed record UsdDictionary(ImmutableDictionary<string, UsdValue> Entries) : UsdValue;

/// <summary>The value <c>None</c>: an opinion that blocks weaker ones.</summary>
public sealed record UsdBlock : UsdValue;

/// <summary>A value of a kind that nothing here needs; kept by its kind's name.</summary>
public sealed record UsdOther(string Kind) : UsdValue;

/// <summary>A number, a tuple, or an array of them.</summary>
/// <param name="Width">Numbers in one element: 1, 2, 3, 4, 9 or 16.</param>
public abstract record UsdNumbers(int Width) : UsdValue
{
    /// <summary>Elements (not numbers) in the array; 1 for a scalar or tuple.</summary>
    public abstract long Count { get; }

    public abstract double[] All();
}

/// <summary>Numbers that are at hand.</summary>
public sealed record UsdKnownNumbers(ImmutableArray<double> Values, int Width) : UsdNumbers(Width)
{
    public override long Count => Values.Length / Math.Max(1, Width);

    public override double[] All() => [.. Values];
}

/// <summary>Numbers that are decoded when they are asked for.</summary>
public sealed record UsdLazyNumbers(int Width, Func<long> Counting, Func<double[]> Reading) : UsdNumbers(Width)
{
    public override long Count => Counting();

    public override double[] All() => Reading();
}
