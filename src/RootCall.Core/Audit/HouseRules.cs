using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.RegularExpressions;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Shading;
using RootCall.Core.Viewing;

namespace RootCall.Core.Audit;

/// <summary>A studio's own choice of rules, severities, thresholds, naming patterns and shader types.</summary>
public sealed record HouseRules
{
    private static readonly HouseRulesContext Json = new(JsonText.Options());

    public string Name
    {
        get;
        init => field = value ?? field;
    } = string.Empty;

    /// <summary>By rule or by family: <c>off</c>, <c>note</c>, <c>warning</c> or <c>blocker</c>.</summary>
    public ImmutableSortedDictionary<string, string> Severities
    {
        get;
        init => field = value ?? field;
    } = ImmutableSortedDictionary<string, string>.Empty;

    /// <summary>By <c>rule-id/name</c>.</summary>
    public ImmutableSortedDictionary<string, double> Thresholds
    {
        get;
        init => field = value ?? field;
    } = ImmutableSortedDictionary<string, double>.Empty;

    /// <summary>Regular expressions by kind of thing: <c>material</c>, <c>mesh</c>, <c>node</c>, <c>texture</c>.</summary>
    public ImmutableSortedDictionary<string, string> Patterns
    {
        get;
        init => field = value ?? field;
    } = ImmutableSortedDictionary<string, string>.Empty;

    /// <summary>Words that things are called here before somebody gives them a name, with or without a number behind.</summary>
    public ImmutableArray<string> DefaultNames
    {
        get;
        init => field = JsonText.Or(value);
    } = [];

    public ImmutableArray<ShaderType> ShaderTypes
    {
        get;
        init => field = JsonText.Or(value);
    } = [];

    /// <summary>What ships: every rule as it is, no patterns.</summary>
    public static HouseRules Standard { get; } = new();

    public bool IsOn(string rule) => Choice(rule) != "off";

    /// <summary>Null when the house leaves it to the rule.</summary>
    public Severity? SeverityOf(string rule) => Choice(rule) is { } word ? Audit.Severities.Parse(word) : null;

    public double? Threshold(string rule, string name) => Thresholds.TryGetValue($"{rule}/{name}", out var value) ? value : null;

    /// <summary>One of the house's default names, with or without a number behind.</summary>
    public bool IsDefault(string name)
    {
        var word = name.TrimEnd([.. "0123456789"]).TrimEnd(' ', '_', '.', '-', '#');
        return DefaultNames.Contains(word, StringComparer.OrdinalIgnoreCase)
            || DefaultNames.Contains(name, StringComparer.OrdinalIgnoreCase);
    }

    /// <summary>How images are called that are made here.</summary>
    public BakedNames Baked(NameDictionary words) => new(Patterns.GetValueOrDefault("texture"), words);

    /// <summary>Null when the house has no pattern for that kind of thing.</summary>
    public Regex? Pattern(string kind) =>
        Patterns.TryGetValue(kind, out var pattern) ? new(pattern, RegexOptions.CultureInvariant, TimeSpan.FromMilliseconds(100)) : null;

    private string? Choice(string rule) =>
        Severities.TryGetValue(rule, out var own) || Severities.TryGetValue(rule[..rule.IndexOf('.', StringComparison.Ordinal)], out own)
            ? own
            : null;

    public string Write() => JsonSerializer.Serialize(this, Json.HouseRules);

    /// <exception cref="CannotUseException">It is no house rules, or names a rule, a severity or a pattern that is none.</exception>
    public static HouseRules Read(string json, string from)
    {
        var read = JsonText.Read(json, from, "set of house rules", Json.HouseRules);
        foreach (var (rule, word) in read.Severities)
        {
            if (RuleCatalog.Find(rule) is null && !RuleCatalog.Families.Contains(rule))
                throw new CannotUseException($"{from} names the rule “{rule}”; there is none.");
            if (word != "off" && Audit.Severities.Parse(word) is null)
                throw new CannotUseException($"{from} gives {rule} the severity “{word}”; there are off, note, warning and blocker.");
        }

        foreach (var key in read.Thresholds.Keys)
            if (
                key.Split('/') is not [var rule, var name]
                || RuleCatalog.Find(rule)?.Descriptor.Thresholds.Any(t => t.Name == name) != true
            )
                throw new CannotUseException($"{from} sets “{key}”; no rule has that number.");
        foreach (var (kind, pattern) in read.Patterns)
        {
            try
            {
                _ = new Regex(pattern, RegexOptions.CultureInvariant, TimeSpan.FromMilliseconds(100));
            }
            catch (ArgumentException e)
            {
                throw new CannotUseException($"{from} has a pattern for {kind} that cannot be read: {e.Message}", e);
            }
        }

        return read;
    }
}

[JsonSerializable(typeof(HouseRules))]
internal sealed partial class HouseRulesContext : JsonSerializerContext;
