using System.Collections.Immutable;
using RootCall.Core.Edits;

namespace RootCall.Core.Audit;

/// <summary>
/// One thing that is looked for. A rule only reports: it prints nothing, touches no disk and keeps nothing between calls;
/// its fixes are edits that somebody else makes. Every concrete rule of the assembly is found by itself (<see cref="RuleCatalog"/>).
/// </summary>
public abstract class Rule
{
    public abstract RuleDescriptor Descriptor { get; }

    public string Id => Descriptor.Id;

    /// <summary>What it finds depends on where the scene goes; all others find the same for every destination.</summary>
    public virtual bool AsksDestination => Descriptor.Family == "destination";

    /// <summary>What is wrong in a scene.</summary>
    public abstract IEnumerable<Finding> Inspect(AuditScene scene);

    protected Finding Found(Target target, string message, string one, string many, string? about = null) =>
        new(Id, Descriptor.Severity, target, message, new(about is null ? Id : $"{Id}/{about}", one, many));

    protected Finding Found(MaterialView material, string message, string one, string many, string? about = null) =>
        Found(new Target("material", material.Name), message, one, many, about);

    protected Finding Found(InputView input, string message, string one, string many, string? about = null) =>
        Found(new Target("input", input.Material.Name, input.Name), message, one, many, about);

    /// <summary>A number of the house rules, or the rule's own.</summary>
    protected double Limit(AuditScene scene, string name) =>
        scene.House.Threshold(Id, name) ?? Descriptor.Thresholds.First(t => t.Name == name).Value;
}

/// <summary>A rule that looks at one material and what it reads: after an edit it runs again only for materials that changed.</summary>
public abstract class MaterialRule : Rule
{
    public abstract IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene);

    public sealed override IEnumerable<Finding> Inspect(AuditScene scene) => scene.Materials.SelectMany(m => Inspect(m, scene));
}

/// <summary>A rule that looks at each input of the surface shader.</summary>
public abstract class InputRule : MaterialRule
{
    public abstract IEnumerable<Finding> Inspect(InputView input, AuditScene scene);

    public sealed override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene) =>
        material.Inputs.SelectMany(i => Inspect(i, scene));
}

/// <summary>A rule that looks at each image that feeds an input.</summary>
public abstract class MapRule : MaterialRule
{
    public abstract IEnumerable<Finding> Inspect(MapView map, AuditScene scene);

    public sealed override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene) =>
        material.Maps.SelectMany(m => Inspect(m, scene));
}

public static class FindingExtensions
{
    public static Finding With(this Finding finding, params ReadOnlySpan<Evidence> evidence) =>
        finding with
        {
            Evidence = finding.Evidence.AddRange(evidence.ToArray()),
        };

    public static Finding Fix(this Finding finding, string title, double confidence, params ReadOnlySpan<Edit> edits) =>
        finding.Fix(title, confidence, ImmutableArray.Create(edits));

    /// <summary>Nothing is offered when there is no edit.</summary>
    public static Finding Fix(this Finding finding, string title, double confidence, ImmutableArray<Edit> edits) =>
        edits.IsEmpty ? finding : finding with { Fixes = finding.Fixes.Add(new(title, confidence, edits)) };

    /// <summary>As serious as its evidence is sure.</summary>
    public static Finding At(this Finding finding, Severity severity) => finding with { Severity = severity };

    public static Finding Decide(this Finding finding, string what) => finding with { Decide = what };
}
