using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Roots;

/// <summary>Textures that were added to a scene from somebody's own computer, in one delivery.</summary>
/// <param name="Name">What was dropped: a folder, or the first of several files.</param>
/// <param name="Answering">References of the scene that are answered from it.</param>
internal sealed record AddedTextures(Guid Id, string Name, int Files, long Bytes, DateTimeOffset AddedAt, int Answering);

/// <summary>What was added to one scene, and how it is taken out again.</summary>
internal static class AddedEndpoints
{
    public static void MapAdded(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}/added").WithTags("Roots");
        group.MapGet(string.Empty, async (Guid id, DiskStore disk, CurrentScenes current, CancellationToken stop) =>
        {
            var answers = (await current.Get(id, stop)).Report.References.Select(r => r.Resolved).OfType<string>().ToList();
            return TypedResults.Ok(Deliveries(disk.Added(id)).Select(d => Added(d, answers)).OrderBy(a => a.AddedAt));
        });
        group.MapDelete("/{delivery:guid}", async (Guid id, Guid delivery, DiskStore disk, WorkDispatcher work, CancellationToken stop) =>
        {
            var folder = new DirectoryInfo(Path.Combine(disk.Added(id), delivery.ToString("N")));
            if (!folder.Exists)
                throw new CannotUseException("These textures are no longer there.");
            folder.Delete(recursive: true);
            return TypedResults.Ok(await work.Begin(new Search(id), "Look without the files taken out", id, stop));
        });
    }

    private static DirectoryInfo[] Deliveries(string folder) => Directory.Exists(folder) ? new DirectoryInfo(folder).GetDirectories() : [];

    private static AddedTextures Added(DirectoryInfo delivery, List<string> answers)
    {
        var files = delivery.GetFiles("*", SearchOption.AllDirectories);
        var top = delivery.EnumerateFileSystemInfos().OrderBy(f => f.Name, StringComparer.Ordinal).FirstOrDefault();
        return new(
            Guid.Parse(delivery.Name),
            top?.Name ?? string.Empty,
            files.Length,
            files.Sum(f => f.Length),
            delivery.CreationTimeUtc,
            answers.Count(a => RootScope.IsInside(delivery.FullName, a))
        );
    }
}
