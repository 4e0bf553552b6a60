using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Data.Stores;
using RootCall.Web.Features.Audit;

namespace RootCall.Web.Features.Many;

internal sealed record ManyScenes(IReadOnlyList<Guid> Scenes);

/// <summary>One decision for several scenes: a recipe, or a relocation rule.</summary>
/// <param name="Recipe">Its id; null for a rule.</param>
internal sealed record ManyDecision(IReadOnlyList<Guid> Scenes, string? Recipe, ManyRule? Rule);

/// <param name="From">What was called from there.</param>
/// <param name="To">Absolute folder that it lies in now.</param>
internal sealed record ManyRule(string From, string To);

/// <summary>What several scenes could be decided by.</summary>
/// <param name="Rules">Relocation rules that any of them suggests, those that settle most first.</param>
internal sealed record ManyChoices(IEnumerable<RuleChoice> Rules, IEnumerable<RecipeChoice> Recipes);

/// <param name="Name">Of the folder, as people call it.</param>
/// <param name="Settles">References, in all of the scenes.</param>
/// <param name="Scenes">How many of the scenes it settles something in.</param>
internal sealed record RuleChoice(string From, string To, string Name, int Settles, int Scenes);

internal sealed record RecipeChoice(string Id, string Name, string Description);

/// <summary>What a decision does in one scene.</summary>
/// <param name="Sentence">Of the entry; null when there is none.</param>
/// <param name="Left">Findings that the recipe fits and that are left.</param>
/// <param name="WhyNot">Why nothing is done there; null when something is.</param>
internal sealed record ManyRow(Guid Scene, string Title, string? Sentence, int Edits, int Left, string? WhyNot);

/// <summary>The same decision made about several scenes: a dry run first, then one entry in the ledger of each.</summary>
internal static class ManyEndpoints
{
    /// <summary>Each is read and audited; more are done in several goes.</summary>
    private const int Most = 300;

    public static void MapMany(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/many").WithTags("Scenes");
        group.MapPost("/choices", async (ManyScenes many, ManyDecisions decisions, CancellationToken stop) =>
            TypedResults.Ok(await decisions.Choices(Bounded(many.Scenes), stop))
        );
        group.MapPost("/preview", async (ManyDecision decision, ManyDecisions decisions, CancellationToken stop) =>
            TypedResults.Ok(await decisions.Make(decision, Bounded(decision.Scenes), put: false, stop))
        );
        group.MapPost("/apply", async (ManyDecision decision, ManyDecisions decisions, CancellationToken stop) =>
            TypedResults.Ok(await decisions.Make(decision, Bounded(decision.Scenes), put: true, stop))
        );
    }

    private static List<Guid> Bounded(IReadOnlyList<Guid> scenes) =>
        scenes.Distinct().ToList() is { Count: > 0 and <= Most } picked
            ? picked
            : throw new CannotUseException($"Pick scenes first, at most {Most}.");
}

internal sealed class ManyDecisions(CurrentScenes current, Audits audits, HouseStore house, LedgerStore ledgers, SceneStore scenes)
{
    public async Task<ManyChoices> Choices(List<Guid> picked, CancellationToken stop)
    {
        var rules = new List<(RelocationRule Rule, string Name)>();
        foreach (var id in picked)
        {
            var state = await current.Get(id, stop);
            rules.AddRange(RelocationRules.Infer(state.Report.References).Select(r => (r, state.Names.Of(r.To))));
        }

        return new(
            rules
                .GroupBy(r => (r.Rule.From, r.Rule.To))
                .Select(g => new RuleChoice(g.Key.From, g.Key.To, g.First().Name, g.Sum(r => r.Rule.Settles.Length), g.Count()))
                .OrderByDescending(r => r.Settles),
            (await house.Recipes(stop)).Select(r => new RecipeChoice(r.Id, r.Recipe.Name, r.Recipe.Description))
        );
    }

    /// <param name="put">Puts the entries in; else it is told what they would be.</param>
    public async Task<List<ManyRow>> Make(ManyDecision decision, List<Guid> picked, bool put, CancellationToken stop)
    {
        var rows = new List<ManyRow>(picked.Count);
        foreach (var id in picked)
        {
            var title = await scenes.Title(id, stop);
            try
            {
                var (entry, left) = await Entry(id, decision, stop);
                if (put)
                    await ledgers.Change(id, l => l.Put(entry), stop);
                rows.Add(new(id, title, entry.Sentence, entry.Edits.Length, left, null));
            }
            catch (CannotUseException e)
            {
                rows.Add(new(id, title, null, 0, 0, e.Message));
            }
        }

        return rows;
    }

    private async Task<(LedgerEntry Entry, int Left)> Entry(Guid id, ManyDecision decision, CancellationToken stop)
    {
        if (decision.Recipe is { } recipe)
        {
            var state = await audits.Get(id, stop);
            var wanted = await house.RecipeOf(recipe, stop);
            var plan = wanted.Run(state.Scene, state.Report).Plan;
            return (wanted.Entry(plan, DateTimeOffset.UtcNow), plan.Left.Length);
        }

        if (decision.Rule is not { } rule)
            throw new CannotUseException("Choose a recipe or a relocation rule first.");
        var scene = await current.Get(id, stop);
        var to = scene.Scope.Enter(rule.To) ?? throw new CannotUseException($"“{rule.To}” lies outside every root of this scene.");
        var entry = RelocationRules.Infer(scene.Report.References).Any(r => r.From == rule.From && r.To == to)
            ? Decisions.ApproveRule(scene.Report, rule.From, to, scene.Names.Of, DateTimeOffset.UtcNow)
            : Decisions.RuleByHand(scene.Report, null, new(rule.From, to), scene.Scope, scene.Names.Of, DateTimeOffset.UtcNow);
        return (entry, 0);
    }
}
