using System.Collections.Immutable;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Crossing;

/// <summary>
/// A value on its way from one shading model to another: numbers, or an output of a node where something varies over the surface; with
/// what it is made of, and how.
/// </summary>
/// <param name="Numbers">Empty when <paramref name="Wire"/> gives it.</param>
/// <param name="Type">Of the wire, or of so many numbers.</param>
/// <param name="From">Inputs of the material that it is made of, in the order of the model.</param>
/// <param name="How">Formulas that were used, with their sources.</param>
internal sealed record Carried(
    ImmutableArray<double> Numbers,
    Connection? Wire,
    InputType Type,
    ImmutableArray<string> From,
    MappingKind Kind,
    ImmutableArray<string> How
)
{
    /// <summary>A number that no input of the material says.</summary>
    public static Carried Of(params ReadOnlySpan<double> numbers) =>
        new([.. numbers], null, InputType.OfNumbers(numbers.Length), [], MappingKind.Exact, []);

    public bool IsNumber => Wire is null;

    /// <summary>It is this number everywhere.</summary>
    public bool Is(double number) => IsNumber && Numbers.All(n => n == number);

    /// <summary>The first number; null where it varies.</summary>
    public double? Number => IsNumber ? Numbers[0] : null;

    /// <summary>The same by a formula that comes near what the material says.</summary>
    public Carried Near(string how) => this with { Kind = MappingKind.Approximate, How = Added(how) };

    /// <summary>The same in other numbers.</summary>
    public Carried Same(string how) => this with { How = Added(how) };

    private ImmutableArray<string> Added(string how) => How.Contains(how) ? How : How.Add(how);

    /// <summary>What two are made of together.</summary>
    public (ImmutableArray<string> From, MappingKind Kind, ImmutableArray<string> How) With(Carried other) =>
        (
            [.. From.Union(other.From, StringComparer.Ordinal)],
            Kind > other.Kind ? Kind : other.Kind,
            [.. How.Union(other.How, StringComparer.Ordinal)]
        );
}
