using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.Audit;

/// <summary>What somebody works on: some materials of a scene, and what they call for and is found of them.</summary>
/// <param name="Materials">By name and by id.</param>
/// <param name="Meshes">Named ones, and those that wear the materials; by name.</param>
public sealed record AuditFocus(ImmutableHashSet<string> Materials, ImmutableHashSet<string> Meshes)
{
    /// <param name="materials">By name or id.</param>
    /// <param name="meshes">By name or id: what they wear is in focus.</param>
    /// <returns>Null when nothing is named: then all is in focus.</returns>
    /// <exception cref="CannotUseException">The scene has none of that name.</exception>
    public static AuditFocus? Of(Scene scene, IReadOnlyCollection<string> materials, IReadOnlyCollection<string> meshes)
    {
        if (materials.Count == 0 && meshes.Count == 0)
            return null;
        if (materials.FirstOrDefault(n => !scene.Materials.Any(m => m.Name == n || m.Id == n)) is { } gone)
            throw new CannotUseException($"The scene has no material {gone}.");
        if (meshes.FirstOrDefault(n => !scene.Meshes.Any(m => m.Name == n || m.Id == n)) is { } lost)
            throw new CannotUseException($"The scene has no mesh {lost}.");
        var named = scene.Meshes.Where(m => meshes.Contains(m.Name) || meshes.Contains(m.Id)).ToList();
        var worn = named.SelectMany(m => m.Parts).SelectMany(p => new[] { p.Material, p.MaterialId }).Where(m => m.Length > 0).ToHashSet();
        var wanted = scene
            .Materials.Where(m => materials.Contains(m.Name) || materials.Contains(m.Id) || worn.Contains(m.Name) || worn.Contains(m.Id))
            .SelectMany(m => new[] { m.Name, m.Id })
            .ToImmutableHashSet(StringComparer.Ordinal);
        var wearing = scene.Meshes.Where(m => m.Parts.Any(p => p.Material.Length > 0 && wanted.Contains(p.Material)));
        return new(wanted, [.. named.Concat(wearing).Select(m => m.Name)]);
    }

    /// <summary>A material of it calls for that.</summary>
    public bool Has(Reference reference) => reference.UsedBy.Any(u => Materials.Contains(u.Material));

    /// <summary>The report with what is in focus alone.</summary>
    public MusterReport Narrow(MusterReport report) => report with { References = [.. report.References.Where(r => Has(r.Reference))] };

    /// <summary>It is about a material of it, an image that one reads, or a mesh that wears one.</summary>
    public bool Has(AuditScene scene, Finding finding) =>
        finding.Target.Kind == "mesh"
            ? Meshes.Contains(finding.Target.Name)
            : HandPlaces.Of(scene, [finding]).Any(p => p.Place.Material is { } m && Materials.Contains(m));

    /// <summary>The report with what is in focus alone; its coverage is that of the whole scene.</summary>
    public AuditReport Narrow(AuditScene scene, AuditReport report) =>
        report with
        {
            Findings = report.Findings.RemoveAll(f => !Has(scene, f)),
        };
}
