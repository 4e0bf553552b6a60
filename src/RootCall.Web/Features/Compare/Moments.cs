using RootCall.Core.Scenes;
using RootCall.Core.Viewing;
using RootCall.Data.Stores;
using RootCall.Web.Features.Pictures;
using static System.FormattableString;

namespace RootCall.Web.Features.Compare;

/// <summary>Moments of scenes, and how a material looks in them.</summary>
internal sealed class Moments(CurrentScenes current, SceneStore scenes, SceneSearch search)
{
    /// <param name="material">Other scenes are listed that have one of that name; null for none.</param>
    public async Task<IEnumerable<MomentItem>> All(Guid id, string? material, CancellationToken stop)
    {
        var state = await current.Get(id, stop);
        var all = new List<MomentItem> { new("now", "now", "with all that is applied"), new("arrived", "arrived", "without the ledger") };
        foreach (var (entry, number) in state.Ledger.Entries.Select((e, i) => (e, i + 1)).Reverse())
            all.Add(new($"entry-{entry.Id}", Invariant($"after entry {number}"), entry.Sentence));
        for (var version = state.Arrival.Version - 1; version > 0; version--)
            if (await scenes.Arrival(id, version, stop) is { } older)
                all.Add(new(Invariant($"version-{version}"), Invariant($"version {version}"), older.Source));
        if (string.IsNullOrEmpty(material))
            return all;
        var having = await search.WithMaterial(material, stop);
        foreach (var other in (await scenes.List(stop)).Where(s => s.Id != id && having.Contains(s.Id)))
            all.Add(new($"scene-{other.Id}", other.Title, $"{other.Format}, from {other.Source}"));
        return all;
    }

    /// <summary>Null for a material that is not there then, or has no surface.</summary>
    public async Task<SwatchOrder?> Look(MomentPicture asked, string word, CancellationToken stop)
    {
        var moment = SceneMoment.Of(word, asked.Id);
        var report = await current.At(moment, stop);
        var now = (await current.Get(asked.Id, stop)).Report.Scene.Called(asked.Material) ?? new Material(asked.Material);
        return moment.Counterpart(now, report.Scene, asked.Id) is { Graph.SurfaceNode: not null } found
            ? SwatchOrder.Of(found, report, SwatchEndpoints.Lit(asked.Light), SwatchEndpoints.Side(asked.Side))
            : null;
    }

    /// <summary>The second moment's look, with the first's to measure it against.</summary>
    public async Task<SwatchOrder?> Pair(MomentPicture asked, CancellationToken stop) =>
        await Look(asked, asked.After, stop) is { } after ? after with { Before = await Look(asked, asked.Before, stop) } : null;
}
