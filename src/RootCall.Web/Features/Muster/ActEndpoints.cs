using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Ledger;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Muster;

/// <param name="Numbers">The focus: references it may touch; null for all.</param>
internal sealed record ReplaceInPaths(string Find, string With, bool MatchCase, bool WholeName, bool Regex, IReadOnlyList<int>? Numbers)
{
    public ReplacePattern Pattern => new(Find, With, MatchCase, WholeName, Regex);
}

/// <param name="WhyNot">Why the pattern finds nothing at all: it is bad, or takes too long; null for one that was looked for.</param>
internal sealed record ReplacePreview(IEnumerable<ReplacedItem> Rows, string? WhyNot);

/// <param name="WhyNot">Why the path would not resolve; null when it does.</param>
internal sealed record ReplacedItem(int Number, string Before, string After, string? Answer, string? WhyNot);

/// <param name="Style"><c>relative</c>, <c>rootRelative</c> or <c>absolute</c>.</param>
internal sealed record WritePaths(string Style, IReadOnlyList<int>? Numbers);

internal sealed record WriteRule(string From, string To, IReadOnlyList<int>? Numbers);

internal sealed record Picked(IReadOnlyList<int>? Numbers);

/// <param name="Kind"><c>resolution</c>, <c>colour</c> or <c>skin</c>.</param>
/// <param name="Value">Empty for the file that names none.</param>
internal sealed record VariantOption(
    string Kind,
    string Value,
    int References,
    int Using,
    long BytesBefore,
    long BytesAfter,
    long MemoryBefore,
    long MemoryAfter
);

internal sealed record SwitchVariant(string Kind, string Value, IReadOnlyList<int>? Numbers);

internal sealed record HouseView(
    IEnumerable<HouseClash> Clashes,
    IEnumerable<HouseDuplicate> Duplicates,
    IEnumerable<HouseGather> Gather,
    IEnumerable<HouseUnused> Unused
);

internal sealed record HouseClash(string Name, IEnumerable<HousePlace> Files);

internal sealed record HousePlace(int Number, string Path, string Place);

internal sealed record HouseDuplicate(string Keep, IEnumerable<string> Others, IEnumerable<int> Numbers, long BytesSaved);

internal sealed record HouseGather(int Number, string Path, string Why, string Place, long Bytes);

internal sealed record HouseUnused(string Path, long Bytes);

/// <param name="Act"><c>rename</c>, <c>keepOne</c> or <c>gather</c>.</param>
/// <param name="By"><c>role</c> or <c>material</c>.</param>
internal sealed record PutInOrder(string Act, string By, IReadOnlyList<int>? Numbers);

/// <summary>Decisions over many references at once. Each takes the focus and makes one entry in the ledger.</summary>
internal static class ActEndpoints
{
    public static void MapMusterActs(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}").WithTags("Muster acts");
        MapPaths(group);
        MapVariants(group);
        MapHouse(group);
        group.MapPost("/stand-ins", async (Guid id, Picked picked, Acts acts, DiskStore disk, CancellationToken stop) =>
            await acts.Put(id, s => Decisions.StandIn(s.Report, picked.Numbers ?? [], disk.StandIns, DateTimeOffset.UtcNow), stop)
        );
        group.MapPost(
            "/references/seen",
            async (Guid id, Picked picked, CurrentScenes current, SeenStore seen, WorkDispatcher work, CancellationToken stop) =>
            {
                var state = await current.Get(id, stop);
                var now = LastSeen.Changed(state.Report, picked.Numbers?.ToHashSet());
                await seen.Put(id, now, stop);
                return TypedResults.Ok(await work.Begin(new Search(id), "Take over what changed", id, stop));
            }
        );
    }

    private static ReplacedItem Item(ReplacedPath row, FolderNames names) =>
        new(row.Number, row.Before, row.After, row.To is null ? null : names.Of(Path.GetDirectoryName(row.To)!), row.WhyNot);

    private static void MapPaths(RouteGroupBuilder group)
    {
        group.MapPost("/paths/preview", async (Guid id, ReplaceInPaths replace, CurrentScenes current, CancellationToken stop) =>
        {
            var state = await current.Get(id, stop);
            try
            {
                var rows = PathReplace.Preview(state.Report, replace.Numbers?.ToHashSet(), replace.Pattern, state.Scope);
                return TypedResults.Ok(new ReplacePreview(rows.Select(r => Item(r, state.Names)), null));
            }
            catch (CannotUseException e)
            {
                // It is asked while somebody types: half a pattern is no fault.
                return TypedResults.Ok(new ReplacePreview([], e.Message));
            }
        });
        group.MapPost("/paths/replace", async (Guid id, ReplaceInPaths replace, Acts acts, CancellationToken stop) =>
            await acts.Put(
                id,
                s =>
                    Decisions.Replace(
                        s.Report,
                        replace.Pattern,
                        PathReplace.Preview(s.Report, replace.Numbers?.ToHashSet(), replace.Pattern, s.Scope),
                        DateTimeOffset.UtcNow
                    ),
                stop
            )
        );
        group.MapPost("/paths/style", async (Guid id, WritePaths write, Acts acts, RootStore roots, CancellationToken stop) =>
        {
            if (!Enum.TryParse<Core.Scenes.PathStyle>(write.Style, ignoreCase: true, out var style))
                throw new CannotUseException($"“{write.Style}” is no way to write paths.");
            var folders = (await roots.All(stop)).Select(r => r.Folder).ToList();
            return await acts.Put(
                id,
                s => Decisions.Style(s.Report, write.Numbers?.ToHashSet(), style, s.Ledger.Answers(), folders, DateTimeOffset.UtcNow),
                stop
            );
        });
        group.MapPost("/paths/rule", async (Guid id, WriteRule rule, Acts acts, CancellationToken stop) =>
            await acts.Put(
                id,
                s =>
                    Decisions.RuleByHand(
                        s.Report,
                        rule.Numbers?.ToHashSet(),
                        new(rule.From, s.Scope.Enter(rule.To) ?? throw new CannotUseException($"“{rule.To}” lies outside every root.")),
                        s.Scope,
                        s.Names.Of,
                        DateTimeOffset.UtcNow
                    ),
                stop
            )
        );
    }

    private static void MapVariants(RouteGroupBuilder group)
    {
        group.MapPost("/map-variants", async (Guid id, Picked picked, Acts acts, CancellationToken stop) =>
            TypedResults.Ok(
                (await acts.Variants(id, picked.Numbers, stop)).Select(v => new VariantOption(
                    v.Kind.ToString().ToLowerInvariant(),
                    v.Value,
                    v.Numbers.Count,
                    v.Using,
                    v.BytesBefore,
                    v.BytesAfter,
                    v.MemoryBefore,
                    v.MemoryAfter
                ))
            )
        );
        group.MapPost("/map-variants/switch", async (Guid id, SwitchVariant change, Acts acts, CancellationToken stop) =>
        {
            var choice = (await acts.Variants(id, change.Numbers, stop)).FirstOrDefault(v =>
                v.Kind.ToString().Equals(change.Kind, StringComparison.OrdinalIgnoreCase) && v.Value == change.Value
            ) ?? throw new CannotUseException("None of these references has that variant.");
            return await acts.Put(id, s => Decisions.Switch(s.Report, choice, DateTimeOffset.UtcNow), stop);
        });
    }

    private static void MapHouse(RouteGroupBuilder group)
    {
        group.MapGet("/house", async (Guid id, string? by, Acts acts, CurrentScenes current, CancellationToken stop) =>
        {
            var state = await current.Get(id, stop);
            string Of(string path) => $"{state.Names.Of(Path.GetDirectoryName(path)!)}/{Path.GetFileName(path)}";
            var house = await acts.House(state, by, stop);
            return TypedResults.Ok(
                new HouseView(
                    house.Clashes.Select(c => new HouseClash(c.Name, c.Files.Select(f => new HousePlace(f.Number, Of(f.Path), f.Place)))),
                    house.Duplicates.Select(d => new HouseDuplicate(Of(d.Keep), d.Others.Select(Of), d.Numbers, d.BytesSaved)),
                    house.Gather.Select(g => new HouseGather(g.Number, Of(g.Path), g.Why, g.Place, g.Bytes)),
                    house.Unused.Select(u => new HouseUnused(Of(u.Path), u.Bytes))
                )
            );
        });
        group.MapPost("/house", async (Guid id, PutInOrder put, Acts acts, CurrentScenes current, CancellationToken stop) =>
        {
            var house = await acts.House(await current.Get(id, stop), put.By, stop);
            var numbers = put.Numbers?.ToHashSet();
            bool Picks(int number) => numbers?.Contains(number) != false;
            return await acts.Put(
                id,
                s =>
                    put.Act switch
                    {
                        "rename" => Decisions.Place(
                            s.Report,
                            house.Clashes.SelectMany(c => c.Files).Where(f => Picks(f.Number)).Select(f => (f.Path, f.Place)),
                            "Give names of their own to",
                            s.Ledger.Answers(),
                            DateTimeOffset.UtcNow
                        ),
                        "keepOne" => Decisions.KeepOne(
                            s.Report,
                            [.. house.Duplicates.Where(d => d.Numbers.Any(Picks))],
                            DateTimeOffset.UtcNow
                        ),
                        "gather" => Decisions.Place(
                            s.Report,
                            house.Gather.Where(g => Picks(g.Number)).Select(g => (g.Path, g.Place)),
                            "Gather beside the scene",
                            s.Ledger.Answers(),
                            DateTimeOffset.UtcNow
                        ),
                        _ => throw new CannotUseException($"“{put.Act}” is no way to put the house in order."),
                    },
                stop
            );
        });
    }
}

/// <summary>What several acts need.</summary>
internal sealed class Acts(CurrentScenes current, LedgerStore ledgers, IndexStore indexes, NameStore names, FileFacts facts)
{
    /// <summary>Puts a decision about the current state into the ledger.</summary>
    public async Task<LedgerView> Put(Guid id, Func<Decided, LedgerEntry> decide, CancellationToken stop)
    {
        var state = await current.Get(id, stop);
        var entry = decide(new(state.Report, state.Ledger, state.Scope, state.Names));
        return LedgerEndpoints.View(await ledgers.Change(id, l => l.Put(entry), stop), state);
    }

    public async Task<ImmutableArray<MapVariant>> Variants(Guid id, IReadOnlyList<int>? numbers, CancellationToken stop)
    {
        var state = await current.Get(id, stop);
        var picked = numbers?.ToHashSet();
        var folders = state
            .Report.References.Where(r => r.Resolved is not null && picked?.Contains(r.Number) != false)
            .Select(r => Path.GetDirectoryName(r.Resolved)!)
            .Distinct(StringComparer.Ordinal)
            .ToList();
        var listings = await indexes.Folders(folders, stop);
        return MapVariants.Find(state.Report, picked, listings.GetValueOrDefault, facts, await names.Read(stop));
    }

    public async Task<HouseOrder> House(CurrentState state, string? by, CancellationToken stop)
    {
        var libraries = state.Roots.Where(r => r.Purpose == "library").Select(r => r.Folder).ToList();
        return HouseOrder.Of(
            state.Report,
            by == "material" ? GatherBy.Material : GatherBy.Role,
            libraries,
            state.Scope,
            await indexes.Below(state.Report.Scene.Folder, stop),
            facts
        );
    }
}

/// <summary>What a decision is made about.</summary>
internal sealed record Decided(MusterReport Report, Core.Edits.Ledger Ledger, RootScope Scope, FolderNames Names);
