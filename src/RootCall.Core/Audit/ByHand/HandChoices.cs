using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Muster;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>What a person can say at a place.</summary>
[JsonConverter(typeof(HandKindConverter))]
public enum HandKind
{
    Material,
    Map,
    Value,
    UvSet,
    Name,
}

public sealed class HandKindConverter() : JsonStringEnumConverter<HandKind>(JsonNamingPolicy.KebabCaseLower);

/// <summary>An input that can be given a value or an image.</summary>
/// <param name="What">What it is for, in words.</param>
/// <param name="Now">Its value as it stands, written or by default; empty when none is known.</param>
/// <param name="Default">By the model's specification; empty when it gives none.</param>
/// <param name="Among">How many of the places have it.</param>
public sealed record HandInput(
    string Name,
    string What,
    InputType Type,
    ImmutableArray<double> Now,
    ImmutableArray<double> Default,
    double? Min,
    double? Max,
    bool IsColour,
    int Among
);

/// <summary>An image that can be connected.</summary>
/// <param name="Path">Absolute.</param>
/// <param name="Role">What its name says it is for; null when it says nothing.</param>
/// <param name="IsOfSet">It belongs to a set that the places read already.</param>
public sealed record HandImage(string Path, Role? Role, int? Width, int? Height, bool IsOfSet);

/// <summary>All that can be said at some places, likeliest first.</summary>
public sealed record HandChoices(
    ImmutableArray<HandKind> Kinds,
    ImmutableArray<HandInput> Inputs,
    ImmutableArray<HandImage> Images,
    ImmutableArray<string> Materials,
    ImmutableArray<string> UvSets
)
{
    /// <summary>What the format cannot say, each with the reason; these kinds come last.</summary>
    public required ImmutableSortedDictionary<HandKind, string> Refused { get; init; }

    public static HandChoices Of(AuditScene scene, ImmutableArray<HandPlace> places)
    {
        var materials = places
            .Where(p => p.Place.Kind is "material" or "input")
            .Select(p => (View: scene.Called(p.Place.Name), p.Place.Part))
            .Where(p => p.View is not null)
            .Select(p => (View: p.View!, p.Part))
            .ToList();
        var named = materials.Select(m => m.Part).OfType<string>().ToHashSet(StringComparer.Ordinal);
        var inputs = materials
            .SelectMany(m => InputsOf(m.View).Where(i => m.Part is null || i.Name == m.Part))
            .GroupBy(i => i.Name, StringComparer.Ordinal)
            .Select(g => g.First() with { Among = g.Count() })
            .OrderByDescending(i => named.Contains(i.Name))
            .ThenByDescending(i => i.Among)
            .ToImmutableArray();
        var sets = materials.SelectMany(m => m.View.Users).SelectMany(u => u.Mesh.UvSets).Distinct().ToImmutableArray();
        var kinds = KindsOf(places, inputs, sets, ReadsOneOf(sets, materials.SelectMany(m => m.View.Maps)));
        var can = SceneFormats.Of(scene.Scene.Path).Capabilities;
        var refused = kinds
            .Select(k => (Kind: k, Why: can.WhyNot(ActOf(k, places[0].Place.Kind))))
            .Where(k => k.Why is not null)
            .ToImmutableSortedDictionary(k => k.Kind, k => k.Why!);
        return new(
            [.. kinds.OrderBy(refused.ContainsKey)],
            inputs,
            ImagesFor(scene, [.. materials.Select(m => m.View)]),
            // What is called for and nowhere defined cannot be worn.
            [.. scene.Materials.Where(m => m.Type.Length > 0).Select(m => m.Name)],
            sets
        )
        {
            Refused = refused,
        };
    }

    private static SceneAct ActOf(HandKind kind, string place) =>
        (kind, place) switch
        {
            (HandKind.Material, _) => SceneAct.Assign,
            (HandKind.Map or HandKind.UvSet, _) => SceneAct.SetImage,
            (HandKind.Value, _) => SceneAct.SetValue,
            (_, "mesh") => SceneAct.RenameMesh,
            (_, "node") => SceneAct.RenameNode,
            _ => SceneAct.RenameMaterial,
        };

    /// <summary>There is a set to choose: several, or one that a map does not read though it names its set.</summary>
    private static bool ReadsOneOf(ImmutableArray<string> sets, IEnumerable<MapView> maps) =>
        sets.Length > 0 && maps.Any(m => sets.Length > 1 || (m.Use.UvSet.Length > 0 && m.Use.UvSet != sets[0]));

    private static ImmutableArray<HandKind> KindsOf(
        ImmutableArray<HandPlace> places,
        ImmutableArray<HandInput> inputs,
        ImmutableArray<string> sets,
        bool choosesSets
    )
    {
        if (places.IsEmpty)
            return [];
        var kinds = new List<HandKind>();
        var of = places[0].Place.Kind;
        if (of is "material" or "mesh" && Family(places) != "naming")
            kinds.Add(HandKind.Material);
        if (inputs.Any(i => i.Type.TakesImage))
            kinds.Add(HandKind.Map);
        if (!inputs.IsEmpty)
            kinds.Add(HandKind.Value);
        if (choosesSets)
            kinds.Add(HandKind.UvSet);
        if (of is "material" or "mesh" or "node")
            kinds.Add(HandKind.Name);
        // The rule's family says what it is most likely about; materials that were picked want a value.
        var first = Family(places) switch
        {
            "naming" => HandKind.Name,
            "assignment" => HandKind.Material,
            "values" or null => HandKind.Value,
            _ when places[0].Finding!.Rule.Contains("uv-set", StringComparison.Ordinal) => HandKind.UvSet,
            _ => HandKind.Map,
        };
        return [.. kinds.OrderByDescending(k => k == first)];
    }

    private static string? Family(ImmutableArray<HandPlace> places) => places[0].Finding?.Rule.Split('.')[0];

    private static IEnumerable<HandInput> InputsOf(MaterialView material)
    {
        var there = material.Inputs.Select(i => i.Name).ToHashSet(StringComparer.Ordinal);
        return material
            .Inputs.Where(i => i.Type.Numbers > 0)
            .Select(i => Input(i.Name, i.Type, i.Spec, i.Numbers))
            .Concat(
                (material.Model?.Inputs ?? [])
                    .Where(s => !there.Contains(s.Name) && s.Type.Numbers > 0)
                    .Select(s => Input(s.Name, s.Type, s, s.Default))
            );
    }

    private static HandInput Input(string name, InputType type, ModelInput? spec, ImmutableArray<double> now) =>
        new(
            name,
            spec?.Role?.Word() ?? name,
            type,
            now.IsDefault ? [] : now,
            spec?.Default ?? [],
            spec?.Min,
            spec?.Max,
            spec?.IsColour ?? type.IsColour,
            1
        );

    private static ImmutableArray<HandImage> ImagesFor(AuditScene scene, IReadOnlyList<MaterialView> materials)
    {
        var mine = materials.SelectMany(m => m.Maps).Select(m => m.Name).ToList();
        var used = scene
            .Images.Where(i => i is { Resolved: not null, Reference.Carried: null, Pattern: null })
            .Select(i => (Path: i.Resolved!, i.Facts));
        var beside = scene.Report.Beside.Select(b => (b.Path, b.Facts));
        return
        [
            .. used.Concat(beside)
                .DistinctBy(i => i.Path)
                .Select(i => (i.Path, i.Facts, Name: scene.FileName(Path.GetFileName(i.Path))))
                .Select(i => new HandImage(
                    i.Path,
                    i.Name.EndsWithRole ? i.Name.Role : null,
                    i.Facts?.Width,
                    i.Facts?.Height,
                    mine.Exists(m => m.IsOfSet(i.Name) || m.Folded == i.Name.Folded)
                ))
                .OrderByDescending(i => i.IsOfSet)
                .ThenBy(i => Path.GetFileName(i.Path), StringComparer.Ordinal),
        ];
    }
}
