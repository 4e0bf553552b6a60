using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Crossing;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>
/// Edits recorded with matchers, so that the same family of mistakes is fixed in the next scene. An open JSON file; its
/// schema is <c>docs/recipe.schema.json</c>.
/// </summary>
/// <param name="Description">What it is for, in the artist's words.</param>
/// <param name="Source">Sources of arrivals that it is applied to by itself; <c>*</c> stands for anything. Empty for none.</param>
public sealed record Recipe(
    string Name,
    ImmutableArray<RecipeStep> Steps,
    int Version = Recipe.CurrentVersion,
    string Description = "",
    string Source = ""
)
{
    public const int CurrentVersion = 1;

    private static readonly RecipeContext Json = new(JsonText.Options());

    /// <summary>How a ledger calls who proposed what it does.</summary>
    [JsonIgnore]
    public string By => $"recipe {Name}";

    /// <summary>What it would do in a scene, as one entry for the ledger.</summary>
    /// <exception cref="CannotUseException">It would do nothing; the sentence says why.</exception>
    public LedgerEntry Entry(FixPlan plan, DateTimeOffset at) => plan.Entry($"Recipe {Name}: {plan.Count()}", By, at);

    public string Write() => JsonSerializer.Serialize(this, Json.Recipe);

    /// <exception cref="CannotUseException">It is no recipe, or is of a later version, or names a rule that is not there.</exception>
    public static Recipe Read(string json, string from)
    {
        var read = JsonText.Read(json, from, "recipe", Json.Recipe);
        if (read.Version > CurrentVersion)
            throw new CannotUseException($"{from} is a recipe of version {read.Version}; this program reads up to {CurrentVersion}.");
        if (read.Steps.IsDefaultOrEmpty)
            throw new CannotUseException($"{from} has no steps.");
        foreach (var step in read.Steps)
            if (step.Rule is { } rule ? RuleCatalog.Find(rule) is null : step.Set is null && step.Cross is null)
                throw new CannotUseException(
                    step.Rule is null
                        ? $"A step of {from} names neither a rule nor a value nor a crossing."
                        : $"{from} names the rule “{step.Rule}”; there is none."
                );
        return read;
    }

    /// <summary>A recipe of entries that were put in: what their findings have in common becomes the matcher.</summary>
    /// <exception cref="CannotUseException">Nothing in them can be found again in another scene.</exception>
    public static Recipe Record(string name, IEnumerable<LedgerEntry> entries)
    {
        var steps = ImmutableArray.CreateBuilder<RecipeStep>();
        foreach (var entry in entries)
        {
            // What a person decided is not the rule's own fix.
            var byRule = entry.ProposedBy != LedgerEntry.HandProposed;
            foreach (var family in (byRule ? entry.Fixed : []).AsEnumerable().GroupBy(f => (f.Rule, f.Cause)))
                steps.Add(
                    new()
                    {
                        Rule = family.Key.Rule,
                        Cause = family.Key.Cause,
                        Match = new(
                            Common(family.Select(f => f.Name)),
                            Common(family.Select(f => f.Part)),
                            Common(family.Select(f => f.Image))
                        ),
                    }
                );
            if (byRule && !entry.Fixed.IsEmpty)
                continue;
            foreach (var alike in entry.Edits.OfType<CrossMaterial>().Where(e => !e.Set.IsEmpty).GroupBy(e => (e.Model, Said: Said(e.Set))))
                steps.Add(
                    new()
                    {
                        Cross = new(
                            alike.Key.Model,
                            [.. alike.First().Set.Select(s => new RecipeValue(s.Input, [.. s.Value.Numbers], s.Value.Text))]
                        ),
                        Match = new(Common(alike.Select(e => e.Material))),
                    }
                );
            foreach (
                var values in entry.Edits.OfType<SetValue>().Where(e => e.To is not null).GroupBy(e => (e.Input, To: e.To!.ToString()))
            )
                steps.Add(
                    new()
                    {
                        Set = new(values.Key.Input, [.. values.First().To!.Numbers], values.First().To!.Text),
                        Match = new(Common(values.Select(v => v.Material)), values.Key.Input, "*"),
                    }
                );
        }

        return steps.Count > 0
            ? new(name, steps.ToImmutable())
            : throw new CannotUseException(
                "Only fixes, values and what is said of crossings can be recorded; these entries relink or assign."
            );
    }

    private static string Said(IEnumerable<SetInput> set) => string.Join(' ', set.Select(s => $"{s.Input}={s.Value}"));

    /// <summary>What it says of a material that crosses to a model, in place of the formulas; the last step counts.</summary>
    public ImmutableArray<SetInput> Crossed(string model, string material) =>
        [
            .. Steps
                .Where(s => s.Cross?.Model == model && RecipeMatch.Like(s.Match.Name, material))
                .SelectMany(s => s.Cross!.Set)
                .GroupBy(v => v.Input)
                .Select(g => new SetInput(g.Key, g.Last().ToValue())),
        ];

    /// <summary>What the names begin and end with in common, with <c>*</c> for the rest.</summary>
    public static string Common(IEnumerable<string?> names)
    {
        var all = names.Select(n => n ?? string.Empty).Distinct(StringComparer.Ordinal).ToList();
        if (all.Count == 0)
            return "*";
        if (all is [var only])
            return only.Length == 0 ? "*" : only;
        var shortest = all.Min(n => n.Length);
        var (head, tail) = (0, 0);
        while (head < shortest && all.All(n => n[head] == all[0][head]))
            head++;
        while (tail < shortest - head && all.All(n => n[^(tail + 1)] == all[0][^(tail + 1)]))
            tail++;
        return $"{(head >= 2 ? all[0][..head] : string.Empty)}*{(tail >= 2 ? all[0][^tail..] : string.Empty)}";
    }

    /// <summary>The findings and values that it would fix in a scene, as one plan.</summary>
    /// <param name="only">Materials that values are set on; null for all that match.</param>
    public RecipeRun Run(AuditScene scene, AuditReport report, Func<MaterialView, bool>? only = null)
    {
        var matched = report.Findings.Where(f => Steps.Any(s => s.Fits(f))).ToList();
        var plan = FixPlan.Make(matched);
        var values = Steps
            .Where(s => s.Set is not null)
            .SelectMany(s => s.Values(scene, only))
            .Where(v => !plan.Edits.Any(e => e.Target == v.Target));
        return new(
            plan with
            {
                Edits = plan.Edits.AddRange(values),
            },
            [
                .. Steps.Where(s => s.Rule is not null && !report.Findings.Any(s.Fits)).Select(s => $"{s.Rule}: nothing matches."),
                .. Steps.Where(s => s.Cross is not null).Select(s => $"{s.Describe()}: taken where materials are carried there."),
            ]
        );
    }
}

/// <param name="Unmatched">Steps that found nothing to do.</param>
public sealed record RecipeRun(FixPlan Plan, ImmutableArray<string> Unmatched);

/// <summary>One step: the fix of a rule, or a value for an input.</summary>
public sealed record RecipeStep
{
    /// <summary>The rule whose fix is taken; null for a value.</summary>
    public string? Rule { get; init; }

    /// <summary>Only findings of this family; null for all of the rule.</summary>
    public string? Cause { get; init; }

    /// <summary>A value to set; null for a fix.</summary>
    public RecipeValue? Set { get; init; }

    /// <summary>What is said of materials that are carried to another shading model; null for a fix or a value.</summary>
    public RecipeCrossing? Cross { get; init; }

    public RecipeMatch Match
    {
        get;
        init => field = value ?? field;
    } = new();

    /// <summary>What it does, as people read it.</summary>
    public string Describe() =>
        Rule is { } rule ? RuleCatalog.Find(rule)?.Descriptor.Title ?? rule
        : Cross is { } cross ? $"In {ShadingModels.Find(cross.Model)?.Name ?? cross.Model}: {string.Join(", ", cross.Set.Select(Said))}"
        : $"Set {Said(Set!)}";

    private static string Said(RecipeValue value) => $"{value.Input} to {value.ToValue()}";

    internal bool Fits(Finding finding) =>
        finding.Rule == Rule && (Cause is null || finding.Cause.Key == Cause) && Match.Fits(finding.AsFixed());

    internal IEnumerable<Edit> Values(AuditScene scene, Func<MaterialView, bool>? only) =>
        from material in scene.Materials
        where RecipeMatch.Like(Match.Name, material.Name) && only?.Invoke(material) != false
        let input = material.Input(Set!.Input)
        where input is not null && !input.IsConnected && input.Input.Value?.Equals(Set!.ToValue()) != true
        select (Edit)new SetValue(material.Name, Set!.Input, input.Input.Value, Set!.ToValue());
}

/// <param name="Model">Id of the shading model that is crossed to.</param>
/// <param name="Set">Inputs of that model, given numbers in place of the formulas.</param>
public sealed record RecipeCrossing(string Model, ImmutableArray<RecipeValue> Set);

/// <param name="Numbers">One for a number, three for a colour.</param>
public sealed record RecipeValue(string Input, ImmutableArray<double> Numbers, string? Text = null)
{
    public ShaderValue ToValue() => new(Numbers.IsDefault ? [] : Numbers, Text);
}

/// <summary>Which things a step is for; <c>*</c> stands for anything.</summary>
/// <param name="Name">Material, mesh or image.</param>
/// <param name="Part">Input of the material, or part of the mesh.</param>
/// <param name="Image">File name of the image in question.</param>
public sealed record RecipeMatch(string Name = "*", string Part = "*", string Image = "*")
{
    internal bool Fits(FixedFinding finding) => Like(Name, finding.Name) && Like(Part, finding.Part) && Like(Image, finding.Image);

    internal static bool Like(string pattern, string? text) => Wildcard.Fits(pattern, text ?? string.Empty);
}

[JsonSerializable(typeof(Recipe))]
internal sealed partial class RecipeContext : JsonSerializerContext;
