using RootCall.Core.Jobs;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Scenes;

/// <param name="Title">What people call the scene from now on.</param>
internal sealed record RenameScene(string Title);

/// <summary>Keeps the shelf of scenes in order: what they are called, what goes, and what is found in them.</summary>
internal static class ShelfEndpoints
{
    /// <summary>Fewer letters would find everything.</summary>
    private const int LeastLetters = 2;

    public static void MapShelf(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes").WithTags("Scenes");
        group.MapGet("/found", async (string? text, SceneSearch search, CancellationToken stop) =>
            TypedResults.Ok(text?.Trim() is { Length: >= LeastLetters } letters ? await search.Find(letters, stop) : [])
        );
        group.MapPatch("/{id:guid}", async (Guid id, RenameScene rename, SceneStore scenes, CancellationToken stop) =>
        {
            await scenes.Rename(id, rename.Title, stop);
            return TypedResults.NoContent();
        });
        group.MapGet("/{id:guid}/removal", async (Guid id, SceneRemoval removal, CancellationToken stop) =>
            TypedResults.Ok(await removal.Preview(id, stop))
        );
        group.MapDelete("/{id:guid}", async (Guid id, SceneRemoval removal, WorkStore tasks, WorkDispatcher work, CancellationToken stop) =>
        {
            foreach (var open in (await tasks.Recent(stop)).Where(w => w.SceneId == id && w.EndedAt is null))
                await work.Cancel(open.Id, stop);
            await removal.Remove(id, stop);
            return TypedResults.NoContent();
        });
        group.MapDelete(
            "/{id:guid}/versions/{version:int}",
            async (Guid id, int version, SceneRemoval removal, WorkDispatcher work, CancellationToken stop) =>
            {
                await removal.RemoveVersion(id, version, stop);
                return TypedResults.Ok(await work.Begin(new Search(id), "Muster the version that is left", id, stop));
            }
        );
        api.MapDelete("/packages/{id:guid}", async (Guid id, SceneRemoval removal, CancellationToken stop) =>
            {
                await removal.RemovePackage(id, stop);
                return TypedResults.NoContent();
            })
            .WithTags("Send-off");
        api.MapPost("/store/sweep", async (WorkDispatcher work, CancellationToken stop) =>
                TypedResults.Ok(await work.Begin(new SweepStore(), "Sweep the store", null, stop))
            )
            .WithTags("Scenes");
    }
}
