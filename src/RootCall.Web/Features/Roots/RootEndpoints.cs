using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Data.Rows;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Roots;

/// <param name="Files">Files in its index; null before it was listed.</param>
/// <param name="Notes">What could not be listed in it.</param>
/// <param name="Rules">Relocation rules that were approved and lead into it.</param>
internal sealed record RootDetail(
    Guid Id,
    string Name,
    string Folder,
    string Purpose,
    int Position,
    int? Files,
    int? Folders,
    DateTimeOffset? IndexedAt,
    IEnumerable<string> Notes,
    IEnumerable<RuleItem> Rules
);

internal sealed record RuleItem(string From, string To);

internal sealed record AddRoot(string Folder);

/// <summary>What is to change; the rest is null.</summary>
/// <param name="Purpose"><c>search</c>, <c>library</c> or <c>output</c>.</param>
/// <param name="Position">From 1: roots are searched in this order.</param>
internal sealed record ChangeRoot(string? Name, string? Purpose, int? Position);

/// <summary>The words of texture names; every spelling is one word in lower case without separators.</summary>
internal sealed record NamesView(
    IReadOnlyDictionary<string, IReadOnlyList<string>> Roles,
    IReadOnlyList<string> Sizes,
    IReadOnlyList<string> Colours,
    IReadOnlyList<string> Skins
);

/// <summary>Where Root Call looks, and by which words it tells names apart.</summary>
internal static class RootEndpoints
{
    public static void MapRoots(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/roots").WithTags("Roots");
        group.MapGet(string.Empty, async (RootStore roots, IndexStore indexes, RuleStore rules, CancellationToken stop) =>
        {
            var trees = (await indexes.Trees(stop)).ToDictionary(t => t.Folder, StringComparer.Ordinal);
            var approved = await rules.Approved(stop);
            return TypedResults.Ok((await roots.All(stop)).Select(r => Detail(r, trees.GetValueOrDefault(r.Folder), approved)));
        });
        group.MapPost(string.Empty, async (AddRoot add, RootStore roots, WorkDispatcher work, CancellationToken stop) =>
        {
            var root = await roots.Add(add.Folder, DateTimeOffset.UtcNow, stop);
            await work.Start(new ListRoot(root.Folder), $"List {root.Name}", null, stop);
            return TypedResults.Ok(Detail(root, null, []));
        });
        group.MapPatch("/{id:guid}", async (Guid id, ChangeRoot change, RootStore roots, CancellationToken stop) =>
            TypedResults.Ok(Detail(await roots.Change(id, change.Name, change.Purpose, change.Position, stop), null, []))
        );
        group.MapPost("/{id:guid}/list", async (Guid id, RootStore roots, WorkDispatcher work, CancellationToken stop) =>
        {
            var root = (await roots.All(stop)).Find(r => r.Id == id)
                ?? throw new Core.Files.CannotUseException("There is no such root any more.");
            return TypedResults.Ok(await work.Begin(new ListRoot(root.Folder), $"List {root.Name}", null, stop));
        });
        group.MapDelete("/{id:guid}", async (Guid id, RootStore roots, CancellationToken stop) =>
        {
            await roots.Remove(id, stop);
            return TypedResults.NoContent();
        });
        group.MapPost("/rules/forget", async (RuleItem rule, RuleStore rules, CancellationToken stop) =>
        {
            await rules.Forget(rule.From, rule.To, stop);
            return TypedResults.NoContent();
        });
        api.MapGet("/names", async (NameStore names, CancellationToken stop) => TypedResults.Ok(View((await names.Read(stop)).Words)))
            .WithTags("Names");
        api.MapPut("/names", async (NamesView words, NameStore names, CancellationToken stop) =>
            {
                await names.Write(
                    new(
                        words.Roles.ToImmutableSortedDictionary(r => r.Key, r => r.Value.ToImmutableArray()),
                        [.. words.Sizes],
                        [.. words.Colours],
                        [.. words.Skins]
                    ),
                    stop
                );
                return TypedResults.Ok(View((await names.Read(stop)).Words));
            })
            .WithTags("Names");
    }

    private static RootDetail Detail(RootRow r, IndexTreeRow? tree, IEnumerable<PathRewrite> approved) =>
        new(
            r.Id,
            r.Name,
            r.Folder,
            r.Purpose,
            r.Position,
            tree?.Files,
            tree?.Folders,
            tree?.IndexedAt,
            tree?.Notes ?? [],
            approved.Where(a => Core.Files.RootScope.IsInside(r.Folder, a.To)).Select(a => new RuleItem(a.From, a.To))
        );

    private static NamesView View(NameWords words) =>
        new(words.Roles.ToDictionary(r => r.Key, r => (IReadOnlyList<string>)r.Value), words.Sizes, words.Colours, words.Skins);
}
