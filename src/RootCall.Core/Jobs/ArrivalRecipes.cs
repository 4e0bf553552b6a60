using RootCall.Core.Audit;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;

namespace RootCall.Core.Jobs;

/// <summary>
/// Puts what a recipe would do into the ledger of a scene that came from the source the recipe is for. It stays pending
/// until the artist has looked at it.
/// </summary>
public sealed class ArrivalRecipes(IHouse house, ILedgers ledgers, TimeProvider clock)
{
    public async Task Apply(
        Arrival arrival,
        MusterReport current,
        IReadOnlyDictionary<FileState, PixelStats> pixels,
        Ledger ledger,
        CancellationToken stop
    )
    {
        var wanted = (await house.Recipes(stop))
            .Where(r => r.Source.Length > 0 && Wildcard.Fits(r.Source, arrival.Source) && !ledger.Entries.Any(e => e.ProposedBy == r.By))
            .ToList();
        if (wanted.Count == 0)
            return;
        var scene = new AuditScene(
            current,
            pixels,
            await house.DestinationOf(arrival.SceneId, stop),
            await house.Rules(stop),
            await house.Names(stop)
        );
        var report = AuditRun.Make(scene, stop: stop);
        foreach (var recipe in wanted)
        {
            var plan = recipe.Run(scene, report).Plan;
            if (!plan.Edits.IsEmpty)
                await ledgers.Change(arrival.SceneId, l => l.Put(recipe.Entry(plan, clock.GetUtcNow())), stop);
        }
    }
}
