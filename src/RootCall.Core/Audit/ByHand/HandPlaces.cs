using System.Collections.Immutable;

namespace RootCall.Core.Audit;

/// <summary>A place that a person can say something about.</summary>
/// <param name="Finding">The finding that it belongs to; null when a material was picked by itself.</param>
public sealed record HandPlace(Target Place, Finding? Finding);

/// <summary>Where a person can decide.</summary>
public static class HandPlaces
{
    /// <summary>Of findings: what each is about; of one about an image, every input that reads it.</summary>
    public static ImmutableArray<HandPlace> Of(AuditScene scene, IEnumerable<Finding> findings) =>
        [.. findings.SelectMany(f => Of(scene, f.Target).Select(p => new HandPlace(p, f)))];

    /// <summary>Of materials.</summary>
    public static ImmutableArray<HandPlace> Of(AuditScene scene, IEnumerable<string> materials) =>
        [.. materials.Where(m => scene.Called(m) is not null).Select(m => new HandPlace(new("material", m), null))];

    private static IEnumerable<Target> Of(AuditScene scene, Target target)
    {
        if (target.Kind is not ("image" or "reference"))
            return target.Kind == "scene" ? []
                // A node of a material's graph is reached by its material.
                : target.Kind == "node" && scene.Called(target.Name) is not null ? [new("material", target.Name)]
                : [target];
        return scene
            .Materials.SelectMany(m => m.Maps)
            .Where(m => m.Use.Reference.Written == target.Name || m.Name.Text == target.Name)
            .Select(m => new Target("input", m.Material.Name, m.Input.Name))
            .Distinct();
    }
}
