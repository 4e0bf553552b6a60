using RootCall.Core.Audit;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Data.Rows;
using RootCall.Data.Stores;

namespace RootCall.Worker;

/// <summary>
/// Puts what a recipe would do into the ledger of a scene that came from the source the recipe is for. It stays pending
/// until the artist has looked at it.
/// </summary>
public sealed class ArrivalRecipes(HouseStore house, SceneStore scenes, LedgerStore ledgers, NameStore names)
{
    public async Task Apply(
        ArrivalRow arrival,
        MusterReport current,
        IReadOnlyDictionary<FileState, PixelStats> pixels,
        Ledger ledger,
        CancellationToken stop
    )
    {
        var wanted = (await house.Recipes(stop))
            .Select(r => r.Recipe)
            .Where(r => r.Source.Length > 0 && Wildcard.Fits(r.Source, arrival.Source) && !ledger.Entries.Any(e => e.ProposedBy == By(r)))
            .ToList();
        if (wanted.Count == 0)
            return;
        var scene = new AuditScene(
            current,
            pixels,
            await house.DestinationOf(await scenes.Destination(arrival.SceneId, stop), stop),
            await house.Rules(stop),
            await names.Read(stop)
        );
        var report = AuditRun.Make(scene, stop: stop);
        foreach (var recipe in wanted)
        {
            var plan = recipe.Run(scene, report).Plan;
            if (!plan.Edits.IsEmpty)
                await ledgers.Change(
                    arrival.SceneId,
                    l => l.Put(plan.Entry($"Recipe {recipe.Name}: {plan.Count()}", By(recipe), DateTimeOffset.UtcNow)),
                    stop
                );
        }
    }

    private static string By(Recipe recipe) => $"recipe {recipe.Name}";
}
