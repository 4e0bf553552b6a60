using System.Text.Json;
using System.Text.Json.Serialization;

namespace RootCall.Core.Bench;

/// <summary>What somebody who has looked at a material says of it.</summary>
[JsonConverter(typeof(MarkKindConverter))]
public enum MarkKind
{
    /// <summary>It was looked at, and is as it should be.</summary>
    Seen,

    /// <summary>It is not as it should be; a word says why.</summary>
    Wrong,
}

public sealed class MarkKindConverter() : JsonStringEnumConverter<MarkKind>(JsonNamingPolicy.KebabCaseLower);

/// <param name="Material">By name, or by id where several share the name.</param>
/// <param name="Word">What is not right; empty where it is.</param>
/// <param name="Look">Hash of what it looked like then (<see cref="Viewing.MeasuredLook.Print"/>).</param>
public sealed record MaterialMark(string Material, MarkKind Kind, string Word, string Look, DateTimeOffset At)
{
    /// <summary>Letters of the longest word.</summary>
    public const int MostWord = 300;
}
