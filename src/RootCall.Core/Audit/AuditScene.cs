using System.Collections.Frozen;
using System.Collections.Immutable;
using RootCall.Core.Destinations;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>
/// Everything rules are handed: the scene, its muster, what is known of its images, where it goes and what the house
/// wants.
/// </summary>
public sealed class AuditScene
{
    private readonly Dictionary<ReferenceKey, MusteredReference> answers;
    private readonly IReadOnlyDictionary<FileState, PixelStats> pixels;
    private readonly HashSet<string> repeated;
    private readonly NameDictionary names;

    /// <param name="pixels">Statistics of images, where they are known.</param>
    /// <param name="before">An earlier state of the scene: materials that are as they were there are not taken apart again.</param>
    public AuditScene(
        MusterReport report,
        IReadOnlyDictionary<FileState, PixelStats> pixels,
        Destination destination,
        HouseRules house,
        NameDictionary? names = null,
        AuditScene? before = null
    )
    {
        (Report, this.pixels, Destination, House, this.names) = (report, pixels, destination, house, names ?? NameDictionary.Standard);
        answers = new(report.References.Length);
        foreach (var reference in report.References)
            answers.TryAdd(reference.Reference.Key, reference);
        repeated = [.. report.Scene.Materials.GroupBy(m => m.Name).Where(g => g.Count() > 1).Select(g => g.Key)];
        var users = report
            .Scene.Meshes.SelectMany(m => m.Parts.Select(p => (Mesh: m, Part: p)))
            .Where(u => u.Part.Material.Length > 0)
            .ToLookup(u => u.Part.Material);
        var known = new Dictionary<Material, MaterialView>(ReferenceEqualityComparer.Instance);
        if (before is not null && ReferenceEquals(before.names, this.names))
            foreach (var view in before.Everything)
                known[view.Material] = view;
        var views = new MaterialView[report.Scene.Materials.Length];
        Parallel.For(0, views.Length, i =>
        {
            var material = report.Scene.Materials[i];
            views[i] =
                known.TryGetValue(material, out var there) && there.IsSoIn(this, users[material.Name])
                    ? there
                    : new(material, this, [.. users[material.Name]]);
        });
        Everything = [.. views];
        Index = new(report.Scene);
        Materials = [.. views.Where(v => !v.Material.IsTemplate)];
        sets = new(() => ImageSets.Of(this));
        largest = new(LargestWritten);
        hasEnvironment = new(() =>
            Scene.Lights.Any(l => l.Type.Contains("Dome", StringComparison.OrdinalIgnoreCase))
            || Images.Any(r => MapRole.Of(r.Reference, Names) == Role.Environment)
        );
    }

    private AuditScene(AuditScene same, Destination destination)
    {
        (Report, pixels, Destination, House, names) = (same.Report, same.pixels, destination, same.House, same.names);
        (answers, repeated, sets, hasEnvironment, largest) = (same.answers, same.repeated, same.sets, same.hasEnvironment, same.largest);
        (Everything, Materials, Index) = (same.Everything, same.Materials, same.Index);
    }

    private readonly Lazy<ImageSets> sets;
    private readonly Lazy<bool> hasEnvironment;
    private readonly Lazy<FrozenDictionary<string, double>> largest;

    /// <summary>What the scene's materials write for the same input at most; 0 for nothing.</summary>
    public double Largest(InputView input) => largest.Value.GetValueOrDefault(input.What);

    /// <summary>Inputs for which something is written that is far from a share of 1, with the largest of it.</summary>
    internal string OtherScales =>
        string.Join(
            ' ',
            largest.Value.Where(l => l.Value > 2).OrderBy(l => l.Key, StringComparer.Ordinal).Select(l => $"{l.Key}={l.Value}")
        );

    private FrozenDictionary<string, double> LargestWritten() =>
        Materials
            .SelectMany(m => m.Inputs)
            .Select(i => (i.What, Numbers: (i.IsConnected ? i.Factor : i.Input.Value)?.Numbers ?? []))
            .Where(i => i.Numbers.Length > 0)
            .GroupBy(i => i.What, i => i.Numbers.Max())
            .ToFrozenDictionary(g => g.Key, g => g.Max(), StringComparer.Ordinal);

    /// <summary>The same scene with all that is known of it, on its way to somewhere else.</summary>
    public AuditScene For(Destination destination) => new(this, destination);

    public MusterReport Report { get; }

    public Scene Scene => Report.Scene;

    public Destination Destination { get; }

    public HouseRules House { get; }

    /// <summary>Materials that something can show.</summary>
    public ImmutableArray<MaterialView> Materials { get; }

    /// <summary>Those and the templates.</summary>
    public ImmutableArray<MaterialView> Everything { get; }

    /// <summary>Files that lie beside the images in use, by set.</summary>
    public ImageSets Sets => sets.Value;

    public NameDictionary Names => names;

    /// <summary>Images that the scene calls for.</summary>
    public IEnumerable<MusteredReference> Images => Report.References.Where(r => r.Reference.Kind == ReferenceKind.Image);

    public MusteredReference? Answer(ReferenceKey key) => answers.GetValueOrDefault(key);

    public PixelStats? Pixels(MusteredReference? reference) =>
        reference is { Resolved: { } path, Stamp: { } stamp } ? Pixels(new FileState(path, stamp)) : null;

    public PixelStats? Pixels(FileState image) => pixels.GetValueOrDefault(image);

    public FileName FileName(string name) => Muster.FileName.Of(name, names);

    /// <summary>The material that a finding names: by what edits call it, else by its id.</summary>
    public MaterialView? Called(string name) => Index.Places.TryGetValue(name, out var at) ? Everything[at] : null;

    /// <summary>Where things of the scene are found by name.</summary>
    internal SceneIndex Index { get; }

    /// <summary>What edits call a material by: its name, or its id where several share the name.</summary>
    public string NameOf(Material material) => repeated.Contains(material.Name) ? material.Id : material.Name;

    /// <summary>The format can hold environment maps or lights, so that none there means none.</summary>
    public bool HasEnvironment => hasEnvironment.Value;

    public bool IsFormat(params ReadOnlySpan<string> ids)
    {
        foreach (var id in ids)
            if (Scene.Format.Id == id)
                return true;
        return false;
    }

    public bool IsUsd => Scene.Format.Id.StartsWith("usd", StringComparison.Ordinal);
}
