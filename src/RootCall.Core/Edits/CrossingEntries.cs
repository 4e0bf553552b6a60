using System.Collections.Immutable;
using System.Globalization;
using RootCall.Core.Crossing;
using RootCall.Core.Crossing.Baking;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Edits;

/// <summary>A material and the one that it was crossed to.</summary>
/// <param name="Arrived">Name of the one that the look comes from.</param>
/// <param name="Crossed">Name of the other one.</param>
public sealed record CrossedPair(string Arrived, string Crossed);

/// <summary>What a crossing of one material says beyond its formulas.</summary>
/// <param name="Set">Inputs that are given other numbers.</param>
/// <param name="Baked">Inputs that read images which were made for them.</param>
/// <param name="Files">The references of these images, each with its file.</param>
public sealed record CrossChange(
    ImmutableArray<SetInput> Set,
    ImmutableArray<BakedInput> Baked,
    ImmutableArray<(ReferenceKey Key, string File)> Files
)
{
    public CrossingRoute Route { get; init; }

    public static CrossChange None { get; } = new([], [], []);

    /// <summary>The same with its files in another folder.</summary>
    public CrossChange In(string folder) =>
        this with
        {
            Files = [.. Files.Select(f => (f.Key, Path.Combine(folder, Path.GetFileName(f.File))))],
        };
}

/// <summary>Which looks the objects of a scene wear.</summary>
public enum WornLook
{
    Arrived,
    Crossed,
}

/// <summary>
/// Decisions of a crossing as entries of the ledger: take over, show either look, sweep the originals out. Each can be undone by itself.
/// </summary>
public static class CrossingEntries
{
    private const string Proposer = "crossing";

    /// <summary>Carries materials over and gives the crossed ones to all that wears the originals.</summary>
    /// <param name="changes">What is said beyond the formulas, by material.</param>
    /// <param name="note">Why somebody took over what moves far; empty for nothing.</param>
    /// <exception cref="Files.CannotUseException">There is nothing to carry over, or the format does not say the model.</exception>
    public static LedgerEntry TakeOver(
        Scene scene,
        IReadOnlyList<Material> materials,
        string model,
        IReadOnlyDictionary<string, CrossChange> changes,
        DateTimeOffset at,
        string note = ""
    )
    {
        var name = ShadingModels.Find(model)?.Name ?? throw new Files.CannotUseException($"There is no shading model “{model}”.");
        var can = SceneFormats.Of(scene.Path).Capabilities;
        if (WhyNot(can, model) is { } why)
            throw new Files.CannotUseException(why);
        if (materials.Count == 0)
            throw new Files.CannotUseException("No material was picked.");
        var names = scene.Materials.Select(m => m.Name).ToHashSet(StringComparer.Ordinal);
        var assigns = can.WhyNot(SceneAct.Assign) is null;
        var edits = ImmutableArray.CreateBuilder<Edit>();
        foreach (var material in materials)
        {
            var called = Called(scene, material);
            var beside = Free($"{material.Name}_{(assigns ? model.Replace('-', '_') : "arrived")}", names);
            var change = changes.GetValueOrDefault(material.Name, CrossChange.None);
            edits.Add(new CrossMaterial(called, model, beside, change.Set) { Baked = change.Baked, Route = change.Route });
            edits.AddRange(change.Files.Select(f => new RelinkReference(f.Key, null, f.File)));
            if (assigns)
                edits.AddRange(Assigned(scene, material, beside));
        }

        var sentence = $"Carry {Count(materials.Count, "material")} to {name}";
        return Entry(note.Length > 0 ? $"{sentence}: {note}" : sentence, edits.ToImmutable(), at);
    }

    /// <summary>Null when a scene of the format can hold a material of that model.</summary>
    public static string? WhyNot(FormatCapabilities can, string model) =>
        can.ReadOnlyBecause is { } only ? $"{only}."
        : can.Maker?.Models.Contains(model) == true ? null
        : $"{can.Name} does not say {ShadingModels.Find(model)?.Name ?? model}.";

    /// <summary>Pairs that the ledger made and the scene still has, the last one of each material.</summary>
    public static ImmutableArray<CrossedPair> Pairs(Scene scene, Ledger ledger)
    {
        var assigns = SceneFormats.Of(scene.Path).Capabilities.WhyNot(SceneAct.Assign) is null;
        return
        [
            .. ledger
                .Applied.SelectMany(e => e.Edits)
                .OfType<CrossMaterial>()
                .Select(c => assigns ? new CrossedPair(c.Material, c.Beside) : new CrossedPair(c.Beside, c.Material))
                .Where(p => scene.Called(p.Arrived) is not null && scene.Called(p.Crossed) is not null)
                .GroupBy(p => p.Arrived)
                .Select(g => g.Last()),
        ];
    }

    /// <summary>Gives one look of each pair to whatever wears the other.</summary>
    /// <exception cref="Files.CannotUseException">Nothing wears the other one.</exception>
    public static LedgerEntry Show(Scene scene, IReadOnlyList<CrossedPair> pairs, WornLook look, DateTimeOffset at)
    {
        var edits = ImmutableArray.CreateBuilder<Edit>();
        foreach (var pair in pairs)
        {
            var (from, to) = look == WornLook.Crossed ? (pair.Arrived, pair.Crossed) : (pair.Crossed, pair.Arrived);
            if (scene.Called(from) is { } worn)
                edits.AddRange(Assigned(scene, worn, to));
        }

        return edits.Count == 0
            ? throw new Files.CannotUseException($"Nothing wears the {(look == WornLook.Crossed ? "arrived" : "crossed")} looks.")
            : Entry($"Wear the {(look == WornLook.Crossed ? "crossed" : "arrived")} looks", edits.ToImmutable(), at);
    }

    /// <summary>Takes the originals out.</summary>
    /// <exception cref="Files.CannotUseException">There is nothing to take out, or the format cannot.</exception>
    public static LedgerEntry Sweep(Scene scene, IReadOnlyList<CrossedPair> pairs, DateTimeOffset at)
    {
        if (SceneFormats.Of(scene.Path).Capabilities.WhyNot(SceneAct.RemoveMaterial) is { } why)
            throw new Files.CannotUseException(why);
        var idle = pairs.Where(p => scene.Called(p.Arrived) is { } m && !Worn(scene, m).Any()).ToList();
        return idle.Count == 0
            ? throw new Files.CannotUseException("No original stands by unused.")
            : Entry(
                $"Sweep {Count(idle.Count, "original")} out",
                [.. idle.Select(p => new RemoveMaterial(Called(scene, scene.Called(p.Arrived)!)))],
                at
            );
    }

    private static LedgerEntry Entry(string sentence, ImmutableArray<Edit> edits, DateTimeOffset at) =>
        LedgerEntry.ByHand(sentence, edits, at) with
        {
            ProposedBy = Proposer,
        };

    private static string Count(int count, string one) =>
        string.Create(CultureInfo.InvariantCulture, $"{count:N0} {one}{(count == 1 ? string.Empty : "s")}");

    private static string Called(Scene scene, Material material) =>
        scene.Materials.Count(m => m.Name == material.Name) > 1 ? material.Id : material.Name;

    private static IEnumerable<(Mesh Mesh, MeshPart Part)> Worn(Scene scene, Material material) =>
        from mesh in scene.Meshes
        from part in mesh.Parts
        where part.MaterialId.Length > 0 ? part.MaterialId == material.Id : part.Material == material.Name
        select (mesh, part);

    private static IEnumerable<Edit> Assigned(Scene scene, Material material, string to) =>
        Worn(scene, material)
            .Select(w => new AssignMaterial(
                w.Mesh.Id,
                w.Mesh.Parts.Length > 1 || w.Part.Bound == BoundBy.Itself ? w.Part.Name : string.Empty,
                w.Part.Material,
                to
            ))
            .Distinct();

    private static string Free(string wanted, HashSet<string> names)
    {
        var name = wanted;
        for (var n = 2; !names.Add(name); n++)
            name = string.Create(CultureInfo.InvariantCulture, $"{wanted}_{n}");
        return name;
    }
}
