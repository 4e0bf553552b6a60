using Microsoft.AspNetCore.Http.HttpResults;
using RootCall.Core.Audit;
using RootCall.Core.Files;
using RootCall.Data.Stores;

namespace RootCall.Web.Features.Audit;

internal sealed record RecipeItem(string Id, string Name, string Description, string Source, int Steps, IEnumerable<StepItem> StepList);

internal sealed record StepItem(string What, string Match);

/// <summary>Entries of a ledger to be made a recipe of.</summary>
internal sealed record RecordRecipe(string Name, IReadOnlyList<Guid> Entries);

internal sealed record RecipeText(string Id, string Text);

internal sealed record RunRecipe(IReadOnlyList<string>? Keys, Guid? Seen);

/// <summary>What a recipe would do here.</summary>
internal sealed record RecipePreview(FixView Fix, IEnumerable<string> Unmatched);

/// <summary>Recipes: recorded from what was fixed, applied to what comes.</summary>
internal static class RecipeEndpoints
{
    public static void MapRecipes(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/recipes").WithTags("Recipes");
        group.MapGet(string.Empty, async (HouseStore house, CancellationToken stop) =>
            TypedResults.Ok((await house.Recipes(stop)).Select(r => Item(r.Id, r.Recipe)))
        );
        group.MapGet("/{recipe}", async (string recipe, HouseStore house, CancellationToken stop) =>
            TypedResults.Ok(new RecipeText(recipe, (await house.RecipeOf(recipe, stop)).Write()))
        );
        group
            .MapGet("/{recipe}/file", async (string recipe, HouseStore house, CancellationToken stop) =>
                HouseEndpoints.File((await house.RecipeOf(recipe, stop)).Write(), $"{recipe}.json")
            )
            .ExcludeFromDescription();
        group.MapPut(string.Empty, async (RecipeText text, HouseStore house, CancellationToken stop) =>
        {
            var read = Recipe.Read(text.Text, "the text");
            var id = text.Id.Length > 0 ? text.Id : IdOf(read.Name);
            await house.SetRecipe(id, read, stop);
            return TypedResults.Ok(Item(id, read));
        });
        group.MapDelete("/{recipe}", async (string recipe, HouseStore house, CancellationToken stop) =>
        {
            await house.RemoveRecipe(recipe, stop);
            return TypedResults.NoContent();
        });
        var scene = api.MapGroup("/scenes/{id:guid}/recipes").WithTags("Recipes");
        scene.MapPost("/record", async (Guid id, RecordRecipe record, LedgerStore ledgers, HouseStore house, CancellationToken stop) =>
        {
            var ledger = await ledgers.Read(id, stop);
            var picked = ledger.Entries.Where(e => record.Entries.Contains(e.Id)).ToList();
            if (picked.Count == 0)
                throw new CannotUseException("Pick the entries to make a recipe of.");
            var recipe = Recipe.Record(record.Name.Trim().Length > 0 ? record.Name.Trim() : picked[0].Sentence, picked);
            var recipeId = IdOf(recipe.Name);
            await house.SetRecipe(recipeId, recipe, stop);
            return TypedResults.Ok(Item(recipeId, recipe));
        });
        scene.MapPost("/{recipe}/dry-run", DryRun);
        scene.MapPost(
            "/{recipe}/apply",
            async (Guid id, string recipe, RunRecipe request, Audits audits, HouseStore house, CancellationToken stop) =>
            {
                var state = await audits.Get(id, stop);
                var wanted = await house.RecipeOf(recipe, stop);
                var keys = request.Keys?.ToHashSet(StringComparer.Ordinal);
                var plan = wanted
                    .Run(
                        state.Scene,
                        keys is null
                            ? state.Report
                            : state.Report with
                            {
                                Findings = [.. state.Report.Findings.Where(f => keys.Contains(f.Key))],
                            }
                    )
                    .Plan;
                return TypedResults.Ok(await audits.Put(id, state, wanted.Entry(plan, DateTimeOffset.UtcNow), request.Seen, stop));
            }
        );
    }

    /// <summary>Nothing for a recipe that is gone: another window may just have removed it.</summary>
    private static async Task<Results<Ok<RecipePreview>, NoContent>> DryRun(
        Guid id,
        string recipe,
        Audits audits,
        HouseStore house,
        CancellationToken stop
    )
    {
        if (await house.FindRecipe(recipe, stop) is not { } wanted)
            return TypedResults.NoContent();
        var state = await audits.Get(id, stop);
        var run = wanted.Run(state.Scene, state.Report);
        return TypedResults.Ok(new RecipePreview(AuditShapes.Fix(run.Plan), run.Unmatched));
    }

    private static string IdOf(string name) =>
        new string([.. name.ToLowerInvariant().Select(c => char.IsAsciiLetterOrDigit(c) ? c : '-')]).Trim('-') is { Length: > 0 } id
            ? id[..Math.Min(id.Length, 60)]
            : Guid.NewGuid().ToString("N");

    private static RecipeItem Item(string id, Recipe r) =>
        new(
            id,
            r.Name,
            r.Description,
            r.Source,
            r.Steps.Length,
            r.Steps.Select(s => new StepItem(
                s.Describe(),
                string.Join(
                    ", ",
                    new[]
                    {
                        s.Match.Name != "*" ? $"material {s.Match.Name}" : null,
                        s.Match.Part != "*" ? $"input {s.Match.Part}" : null,
                        s.Match.Image != "*" ? $"image {s.Match.Image}" : null,
                    }.OfType<string>()
                )
                    is { Length: > 0 } match
                    ? match
                    : "everything"
            ))
        );
}
