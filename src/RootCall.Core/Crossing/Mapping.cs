using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace RootCall.Core.Crossing;

/// <summary>What becomes of an input in another shading model; the later, the worse.</summary>
[JsonConverter(typeof(MappingKindConverter))]
public enum MappingKind
{
    /// <summary>The other model says the same in the same or in other numbers.</summary>
    Exact,

    /// <summary>A formula comes near it.</summary>
    Approximate,

    /// <summary>The other model cannot say it.</summary>
    Lost,
}

/// <summary>Kinds as words in JSON: <c>exact</c>.</summary>
public sealed class MappingKindConverter() : JsonStringEnumConverter<MappingKind>(JsonNamingPolicy.CamelCase);

/// <summary>A row of a crossing: where an input goes.</summary>
/// <param name="From">Inputs of the material that it is made of; empty where the other model's own default had to be undone.</param>
/// <param name="To">The input that it goes to; empty when it is lost.</param>
/// <param name="Detail">The formula with its source, or what is lost; empty where the number is the same.</param>
/// <param name="Before">The value, or what feeds it.</param>
/// <param name="After">The value, or what feeds it; empty when it is lost.</param>
/// <param name="IsClamped">The other model's range cut it off.</param>
public sealed record Mapping(
    ImmutableArray<string> From,
    string To,
    MappingKind Kind,
    string Detail,
    string Before,
    string After,
    bool IsClamped
);
