using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Files;
using RootCall.Core.Muster;

namespace RootCall.Core.Jobs;

/// <summary>What the house has chosen, and what somebody decided about a scene beside its ledger.</summary>
public interface IHouse
{
    Task<HouseRules> Rules(CancellationToken stop);

    Task<NameDictionary> Names(CancellationToken stop);

    Task<IReadOnlyList<Recipe>> Recipes(CancellationToken stop);

    /// <summary>Relocation rules that were approved before.</summary>
    Task<IReadOnlyList<PathRewrite>> Approved(CancellationToken stop);

    /// <summary>Where the scene goes.</summary>
    Task<Destination> DestinationOf(Guid sceneId, CancellationToken stop);

    /// <summary>Causes that somebody lets stand, by cause.</summary>
    Task<IReadOnlyDictionary<string, Waiver>> Waivers(Guid sceneId, CancellationToken stop);
}
