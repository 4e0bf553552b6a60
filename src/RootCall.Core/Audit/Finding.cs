using System.Collections.Immutable;
using System.Text.Json.Serialization;
using RootCall.Core.Audit.Roles;
using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>One thing that is not as a rule expects.</summary>
/// <param name="Rule">Id of the rule.</param>
/// <param name="Message">One sentence: what is, and what is expected.</param>
/// <param name="Cause">The family it belongs to.</param>
public sealed record Finding(string Rule, Severity Severity, Target Target, string Message, Cause Cause)
{
    public ImmutableArray<Evidence> Evidence { get; init; } = [];

    /// <summary>Best first; empty when only a person can decide.</summary>
    public ImmutableArray<Fix> Fixes { get; init; } = [];

    /// <summary>What the artist must decide, or why the fix cannot be written; null when a fix says it all.</summary>
    public string? Decide { get; init; }

    /// <summary>The same thing in two audits of one scene.</summary>
    public string Key => $"{Rule}|{Target.Kind}|{Target.Name}|{Target.Part}|{Cause.Key}";
}

/// <param name="Kind"><c>material</c>, <c>input</c>, <c>image</c>, <c>mesh</c>, <c>node</c>, <c>reference</c> or <c>scene</c>.</param>
/// <param name="Part">The input of a material, the part of a mesh; null for the whole.</param>
public sealed record Target(string Kind, string Name, string? Part = null)
{
    /// <summary>The material it is about; null for none.</summary>
    public string? Material => Kind is "material" or "input" ? Name : null;

    public override string ToString() => Part is null ? Name : $"{Name}, {Part}";
}

/// <summary>A family of findings with one reason.</summary>
/// <param name="Key">Starts with the rule's id.</param>
/// <param name="One">The sentence for a single one, without its number: “roughness map feeds subsurface”.</param>
/// <param name="Many">The sentence for several: “roughness maps feed subsurface”.</param>
public sealed record Cause(string Key, string One, string Many)
{
    public string Sentence(int count) =>
        count == 1 ? $"1 {One}" : string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{count:N0} {Many}");
}

/// <summary>Edits that make a finding disappear.</summary>
/// <param name="Title">In the imperative.</param>
/// <param name="Confidence">0 to 1: how sure it is that this is what was meant.</param>
public sealed record Fix(string Title, double Confidence, ImmutableArray<Edit> Edits)
{
    /// <summary>From here on a fix is put in together with all other safe ones.</summary>
    public const double SafeFrom = 0.9;

    [JsonIgnore]
    public bool IsSafe => Confidence >= SafeFrom;
}

/// <summary>What was seen.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "type")]
[JsonDerivedType(typeof(NumberEvidence), "number")]
[JsonDerivedType(typeof(WireEvidence), "wire")]
[JsonDerivedType(typeof(ValueEvidence), "value")]
[JsonDerivedType(typeof(PictureEvidence), "picture")]
[JsonDerivedType(typeof(PairEvidence), "pair")]
[JsonDerivedType(typeof(ReadingEvidence), "reading")]
[JsonDerivedType(typeof(TextEvidence), "text")]
public abstract record Evidence;

/// <param name="Low">Least that is expected; null when there is none.</param>
/// <param name="High">Most that is expected.</param>
public sealed record NumberEvidence(string What, double Value, string Unit, double? Low = null, double? High = null) : Evidence;

/// <summary>An image on the wrong wire.</summary>
/// <param name="Channels">The channels that arrive: <c>r</c>, <c>rgb</c>.</param>
/// <param name="Now">Input that it feeds.</param>
/// <param name="After">Input that it should feed; null for none.</param>
public sealed record WireEvidence(ReferenceKey Image, Channels Channels, string Now, string? After) : Evidence;

/// <summary>A value, and what it would be.</summary>
public sealed record ValueEvidence(string Where, string Now, string? After) : Evidence;

/// <summary>An image, perhaps one channel of it that gives the reason.</summary>
public sealed record PictureEvidence(ReferenceKey Image, Channels? Channel = null) : Evidence;

/// <summary>Two things to be seen side by side.</summary>
/// <param name="Kind"><c>material</c> or <c>image</c>.</param>
public sealed record PairEvidence(string Kind, string A, string B, string Differ) : Evidence;

/// <summary>What an image is made for: what speaks for each role, likeliest first.</summary>
public sealed record ReadingEvidence(ImmutableArray<RoleSum> Sums) : Evidence;

/// <param name="Role">In a person's words.</param>
/// <param name="Bits">The sum of <paramref name="Of"/>.</param>
public sealed record RoleSum(string Role, int Bits, ImmutableArray<RoleEvidence> Of);

public sealed record TextEvidence(string Text) : Evidence;
