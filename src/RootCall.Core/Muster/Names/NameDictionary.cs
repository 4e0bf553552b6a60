using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Files;
using RootCall.Core.Shading;

namespace RootCall.Core.Muster;

/// <summary>
/// The words of texture names and their spellings, as data a studio can edit. What ships (<c>names.json</c>) is common
/// practice.
/// </summary>
public sealed class NameDictionary
{
    private readonly FrozenDictionary<string, Role> roles;
    private readonly FrozenSet<string> sizes;
    private readonly FrozenSet<string> colours;
    private readonly FrozenSet<string> skins;

    /// <summary>
    /// For each first letter the lengths of roles' spellings, a bit each: an index asks about a million words that are none.
    /// </summary>
    private readonly ulong[] roleLengths = new ulong[128];

    private NameDictionary(NameWords words)
    {
        Words = words;
        // What was kept by an earlier version may name a role that is none: its spellings say nothing.
        roles = words
            .Roles.Where(r => Shading.Roles.Of(r.Key) is not null)
            .SelectMany(r => r.Value.Select(s => KeyValuePair.Create(s, Shading.Roles.Of(r.Key)!.Value)))
            .ToFrozenDictionary(StringComparer.Ordinal);
        foreach (var spelling in roles.Keys)
            if (char.IsAscii(spelling[0]) && spelling.Length < 64)
                roleLengths[spelling[0]] |= 1UL << spelling.Length;
        sizes = words.Sizes.ToFrozenSet(StringComparer.Ordinal);
        colours = words.Colours.ToFrozenSet(StringComparer.Ordinal);
        skins = words.Skins.ToFrozenSet(StringComparer.Ordinal);
    }

    /// <summary>The dictionary that ships.</summary>
    public static NameDictionary Standard { get; } = Shipped();

    public NameWords Words { get; }

    /// <exception cref="CannotUseException">The text is no such dictionary; the message says what is wrong with it.</exception>
    public static NameDictionary Parse(string json) => Of(Read(json));

    /// <summary>One that was kept: it was looked at when it was written, and is taken as it stands.</summary>
    /// <exception cref="CannotUseException">The text is no such dictionary.</exception>
    public static NameDictionary Kept(string json) => new(Read(json));

    private static NameWords Read(string json)
    {
        try
        {
            return JsonSerializer.Deserialize(json, NameWordsContext.Default.NameWords)
                ?? throw new CannotUseException("The dictionary of names is empty.");
        }
        catch (JsonException e)
        {
            throw new CannotUseException($"The dictionary of names cannot be read at line {e.LineNumber + 1}: {e.Message}", e);
        }
    }

    /// <exception cref="CannotUseException">A spelling is no single word in lower case, or stands for two things.</exception>
    public static NameDictionary Of(NameWords words)
    {
        if (words.Roles.Keys.FirstOrDefault(r => Roles.Of(r) is null) is { } unknown)
            throw new CannotUseException(
                $"“{unknown}” is no role that a map can have; there are {string.Join(", ", Enum.GetValues<Role>().Select(r => r.Word()))}."
            );
        var known = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (
            var (meaning, spelling) in words
                .Roles.SelectMany(r => r.Value.Select(s => (r.Key, s)))
                .Concat(words.Sizes.Select(s => ("sizes", s)))
                .Concat(words.Colours.Select(s => ("colours", s)))
                .Concat(words.Skins.Select(s => ("skins", s)))
        )
        {
            if (spelling.Length == 0 || !spelling.All(c => char.IsLower(c) || char.IsDigit(c)))
                throw new CannotUseException(
                    $"“{spelling}” under {meaning} is no single word of lower-case letters and digits. Nothing was changed."
                );
            if (!known.TryAdd(spelling, meaning))
                throw new CannotUseException(
                    $"“{spelling}” stands under {known[spelling]} and under {meaning}; a spelling means one thing. Nothing was changed."
                );
        }

        return new(words);
    }

    public string ToJson() => JsonSerializer.Serialize(Words, NameWordsContext.Default.NameWords) + "\n";

    internal Role? Role(ReadOnlySpan<char> word)
    {
        if (word.Length is > 0 and < 64 && char.IsAscii(word[0]) && (roleLengths[word[0]] & (1UL << word.Length)) == 0)
            return null;
        return roles.GetAlternateLookup<ReadOnlySpan<char>>().TryGetValue(word, out var role) ? role : null;
    }

    /// <summary>2k, 4096, 2048x1024, low.</summary>
    internal bool IsSize(ReadOnlySpan<char> word)
    {
        if (sizes.GetAlternateLookup<ReadOnlySpan<char>>().Contains(word))
            return true;
        if (word.Length is 2 or 3 && word[^1] == 'k')
            return IsDigits(word[..^1]);
        var by = word.IndexOf('x');
        return by is >= 3 and <= 5 && IsDigits(word[..by]) && word.Length - by - 1 is >= 3 and <= 5 && IsDigits(word[(by + 1)..]);
    }

    internal bool IsColour(ReadOnlySpan<char> word) => colours.GetAlternateLookup<ReadOnlySpan<char>>().Contains(word);

    /// <summary>skin, skin2, variantb.</summary>
    internal bool IsSkin(ReadOnlySpan<char> word)
    {
        var letters = word.Length;
        while (letters > 0 && char.IsAsciiDigit(word[letters - 1]))
            letters--;
        var look = skins.GetAlternateLookup<ReadOnlySpan<char>>();
        return look.Contains(word[..letters]) || (letters == word.Length && letters > 1 && look.Contains(word[..^1]));
    }

    internal static bool IsDigits(ReadOnlySpan<char> text) => text.Length > 0 && !text.ContainsAnyExceptInRange('0', '9');

    private static NameDictionary Shipped()
    {
        using var stream = typeof(NameDictionary).Assembly.GetManifestResourceStream("RootCall.Core.names.json")!;
        return Of(JsonSerializer.Deserialize(stream, NameWordsContext.Default.NameWords)!);
    }
}

/// <summary>The editable part: every spelling is one word in lower case without separators.</summary>
/// <param name="Roles">What a map is for, with the spellings of each: <c>normal</c>: nrm, norm, nor.</param>
/// <param name="Sizes">Words for a resolution; 2k, 8k and 2048x1024 are known besides.</param>
/// <param name="Colours">Colour words that tell variants of one map apart.</param>
/// <param name="Skins">Words that begin a skin or variant: skin2, variant_b.</param>
public sealed record NameWords(
    ImmutableSortedDictionary<string, ImmutableArray<string>> Roles,
    ImmutableArray<string> Sizes,
    ImmutableArray<string> Colours,
    ImmutableArray<string> Skins
);

[JsonSourceGenerationOptions(
    PropertyNamingPolicy = JsonKnownNamingPolicy.CamelCase,
    WriteIndented = true,
    RespectRequiredConstructorParameters = true,
    RespectNullableAnnotations = true
)]
[JsonSerializable(typeof(NameWords))]
internal sealed partial class NameWordsContext : JsonSerializerContext;
