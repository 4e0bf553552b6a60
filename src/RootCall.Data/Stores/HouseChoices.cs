using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;

namespace RootCall.Data.Stores;

/// <summary>All that a job asks the house for, from the stores that keep it.</summary>
public sealed class HouseChoices(HouseStore house, NameStore names, RuleStore rules, WaiverStore waivers, SceneStore scenes) : IHouse
{
    public Task<HouseRules> Rules(CancellationToken stop) => house.Rules(stop);

    public Task<NameDictionary> Names(CancellationToken stop) => names.Read(stop);

    public async Task<IReadOnlyList<Recipe>> Recipes(CancellationToken stop) => [.. (await house.Recipes(stop)).Select(r => r.Recipe)];

    public async Task<IReadOnlyList<PathRewrite>> Approved(CancellationToken stop) => await rules.Approved(stop);

    public async Task<Destination> DestinationOf(Guid sceneId, CancellationToken stop) =>
        await house.DestinationOf(await scenes.Destination(sceneId, stop), stop);

    public Task<IReadOnlyDictionary<string, Waiver>> Waivers(Guid sceneId, CancellationToken stop) => waivers.Read(sceneId, stop);
}
