using System.Collections.Immutable;

namespace RootCall.Core.Formats.Fbx;

/// <summary>A record of an FBX file: a name, typed properties and nested records.</summary>
/// <param name="Start">Byte offset of the record.</param>
public sealed record FbxNode(string Name, ImmutableArray<FbxProperty> Properties, ImmutableArray<FbxNode> Children, long Start)
{
    public FbxNode? Child(string name)
    {
        foreach (var child in Children)
            if (child.Name == name)
                return child;
        return null;
    }

    public IEnumerable<FbxNode> All(string name) => Children.Where(c => c.Name == name);

    public FbxProperty? Property(int index) => index < Properties.Length ? Properties[index] : null;

    public string Text(int index) => Property(index)?.AsText ?? string.Empty;

    /// <summary>The text of a child's first property.</summary>
    public string TextOf(string child) => Child(child)?.Text(0) ?? string.Empty;

    /// <summary>
    /// The numbers of a record that holds an array: one array property, a nested record named <c>a</c>, or, in older text
    /// files, all its properties.
    /// </summary>
    public double[] Numbers()
    {
        if (Child("a") is { } inner)
            return inner.Numbers();
        if (Properties is [FbxArray array])
            return array.Numbers();
        // A leading count, as in "Vertices: *24 { a: ... }", is text and drops out.
        return [.. Properties.Where(p => p is FbxInteger or FbxReal).Select(p => p.AsNumber)];
    }
}

/// <summary>A typed property of a record.</summary>
public abstract record FbxProperty
{
    public virtual string? AsText => null;

    public virtual double AsNumber => 0;
}

/// <summary>A whole number or a truth value.</summary>
public sealed record FbxInteger(long Value) : FbxProperty
{
    public override double AsNumber => Value;

    public override string AsText => Value.ToString(System.Globalization.CultureInfo.InvariantCulture);
}

public sealed record FbxReal(double Value) : FbxProperty
{
    public override double AsNumber => Value;

    public override string AsText => Value.ToString("0.#########", System.Globalization.CultureInfo.InvariantCulture);
}

/// <summary>Text as it stands in the file; object names keep the separator of name and class.</summary>
/// <param name="Start">Byte offset of the text.</param>
/// <param name="Length">Length in bytes.</param>
public sealed record FbxText(string Value, long Start, long Length) : FbxProperty
{
    public override string AsText => Value;
}

/// <summary>Raw bytes, left in the file.</summary>
public sealed record FbxRaw(long Start, long Length) : FbxProperty;

/// <summary>An array of numbers, inflated when it is asked for.</summary>
public sealed record FbxArray(int Count, Func<double[]> Reading) : FbxProperty
{
    public double[] Numbers() => Reading();
}
