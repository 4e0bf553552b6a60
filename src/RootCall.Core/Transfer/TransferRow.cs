using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Transfer;

/// <summary>One thing that is not the same in two scenes that should show the same asset.</summary>
/// <param name="Kind"><c>scene</c>, <c>node</c>, <c>mesh</c>, <c>material</c> or <c>image</c>.</param>
/// <param name="Name">Its name: in the first scene, or in the second when it is extra there.</param>
/// <param name="What">
/// What differs: <c>missing</c>, <c>extra</c>, <c>map</c>, <c>input</c>, <c>tiling</c>, <c>uv set</c>, <c>colour
/// space</c>, <c>value</c>, <c>assignment</c>, <c>triangles</c>.
/// </param>
/// <param name="A">What the first scene says; null when it says nothing.</param>
/// <param name="B">What the second says.</param>
public sealed record TransferRow(string Kind, string Name, string What, string? A, string? B)
{
    /// <summary>The role of the material's input; null where none is concerned.</summary>
    public string? Input { get; init; }

    /// <summary>The image concerned in the first scene, and the one in the second.</summary>
    public ReferenceKey? ImageA { get; init; }

    public ReferenceKey? ImageB { get; init; }

    /// <summary>The edits that make the second scene say what the first says; empty when there is none.</summary>
    public ImmutableArray<Edit> Restore { get; init; } = [];

    /// <summary>Why it cannot be restored; null when it can.</summary>
    public string? WhyNot { get; init; }

    /// <summary>Rows of one family have one cause: the same thing differs of the same role.</summary>
    public string Family => Input is null ? $"{Kind} {What}" : $"{What} {Input}";
}

/// <summary>What did not survive between two scenes.</summary>
/// <param name="Same">Things that were compared and are the same, by kind.</param>
public sealed record TransferReport(ImmutableArray<TransferRow> Rows, ImmutableDictionary<string, int> Same)
{
    public IEnumerable<TransferFamily> Families =>
        Rows.GroupBy(r => r.Family)
            .Select(g => new TransferFamily(g.Key, Sentence(g.First(), g.Count()), [.. g], g.SelectMany(r => r.Restore).Count()))
            .OrderBy(f => Weight(f.Rows[0]))
            .ThenByDescending(f => f.Rows.Length);

    /// <summary>What changes the picture comes first, what is only bookkeeping last.</summary>
    private static int Weight(TransferRow row) =>
        row.What switch
        {
            "missing" when row.Kind == "material" => 0,
            "map" => 1,
            "input" => 2,
            "assignment" => 3,
            "tiling" or "uv transform" => 4,
            "colour space" => 5,
            "uv set" or "wrap" or "channels" => 6,
            "value" or "shading model" => 7,
            "missing" or "lods" => 8,
            "unit" or "up axis" or "bounding box" => 9,
            "extra" => 12,
            _ => 10,
        };

    private static string Sentence(TransferRow row, int count)
    {
        var input = row.Input ?? string.Empty;
        string Of(string one, string many) => count == 1 ? $"1 {one}" : Invariant($"{count:N0} {many}");
        return (row.Kind, row.What) switch
        {
            (_, "map") when row.B is null => $"{Of($"{input} map", $"{input} maps")} did not arrive",
            (_, "map") when row.A is null => $"{Of($"{input} map", $"{input} maps")} came from nowhere",
            (_, "map") => $"{Of($"{input} input reads", $"{input} inputs read")} another image",
            (_, "input") => $"{Of($"{input} map sits", $"{input} maps sit")} in another input",
            (_, "tiling") => $"{Of($"{input} map", $"{input} maps")} lost the tiling",
            (_, "uv transform") => $"{Of($"{input} map is", $"{input} maps are")} moved or turned",
            (_, "uv set") => $"{Of($"{input} map reads", $"{input} maps read")} another UV set",
            (_, "colour space") => $"{Of($"{input} map is", $"{input} maps are")} read in another colour space",
            (_, "channels") => $"{Of($"{input} input takes", $"{input} inputs take")} other channels",
            (_, "wrap") => $"{Of($"{input} map wraps", $"{input} maps wrap")} otherwise",
            (_, "value") => $"{Of($"{input} value", $"{input} values")} changed",
            (_, "assignment") => $"{Of("assignment", "assignments")} changed",
            ("scene", "unit") => "The unit changed",
            ("scene", "up axis") => "Another axis is up",
            ("scene", "bounding box") => "The whole has another size",
            ("scene", _) => $"The {row.What} changed",
            (_, "missing") => $"{Of(row.Kind, Plural(row.Kind))} did not arrive",
            (_, "extra") => $"{Of($"{row.Kind} is", $"{Plural(row.Kind)} are")} new",
            (_, "lods") => $"{Of("object has", "objects have")} fewer or more levels of detail",
            _ => $"{Of(row.Kind, Plural(row.Kind))}: {row.What} changed",
        };
    }

    private static string Plural(string kind) => kind == "mesh" ? "meshes" : kind + "s";
}

/// <param name="Key">Identity of the family.</param>
/// <param name="Sentence">What happened, with its count.</param>
/// <param name="Edits">Edits that restore the family; 0 when nothing can.</param>
public sealed record TransferFamily(string Key, string Sentence, ImmutableArray<TransferRow> Rows, int Edits);
