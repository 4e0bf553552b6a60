using RootCall.Core.Crossing;
using RootCall.Core.Destinations;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Core.Shading;
using RootCall.Core.Viewing;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.SendOff;

/// <summary>How and where a scene can be written.</summary>
/// <param name="Own">Its own format.</param>
/// <param name="Outputs">Roots that it may be written into.</param>
internal sealed record WriteChoices(string Own, IEnumerable<FormChoice> Forms, IEnumerable<OutputItem> Outputs);

/// <summary>Another format.</summary>
/// <param name="WhyNot">Why this scene is not written so; null when it is.</param>
/// <param name="Models">Shading models that it says, the usual one first.</param>
/// <param name="Leaves">What stays behind, in sentences.</param>
internal sealed record FormChoice(string Form, string Name, string? WhyNot, IEnumerable<FormModel> Models, IEnumerable<string> Leaves);

/// <param name="Looks">How many materials are of another model, and will be carried to this one.</param>
internal sealed record FormModel(string Id, string Name, int Looks);

/// <summary>A root that a copy may be written to.</summary>
internal sealed record OutputItem(Guid Id, string Name, string Folder);

/// <summary>Another format that is asked for, and the looks in it.</summary>
/// <param name="Fit">With the best fit wherever it was measured and wins.</param>
internal sealed record IntoForm(string Form, string Model, CrossingRoute Route, bool Fit)
{
    public CrossInto Asked => new(Form, new WholeCrossing(Model, Route, Fit));
}

/// <param name="Root">Id of a root for output.</param>
/// <param name="Folder">Folder in it that is made.</param>
/// <param name="Into">The format that it is written in; null for its own.</param>
internal sealed record WriteCopyTo(Guid Root, string Folder, IntoForm? Into = null);

/// <summary>Copies of a scene, in its own format or another, without what it calls for.</summary>
internal static class WrittenScenes
{
    public static void MapWrittenScenes(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}/copies").WithTags("Send-off");
        group.MapGet(string.Empty, async (Guid id, CurrentScenes current, RootStore roots, CancellationToken stop) =>
        {
            var scene = (await current.Get(id, stop)).Report.Scene;
            var outputs = (await roots.All(stop)).Where(r => r.Purpose == RootStore.Output);
            return TypedResults.Ok(
                new WriteChoices(
                    scene.Format.Name,
                    CrossedForm.All.Select(f => Choice(f, scene)),
                    outputs.Select(o => new OutputItem(o.Id, o.Name, o.Folder))
                )
            );
        });
        group.MapPost("/fetch", async (Guid id, WorkDispatcher work, CancellationToken stop) =>
            TypedResults.Ok(await work.Begin(new WriteCopy(id, null), "Write the scene to fetch it", id, stop))
        );
        group
            .MapGet("/{copy:guid}/file", (Guid id, Guid copy, DiskStore disk) =>
                Directory.Exists(disk.ToFetch(id, copy)) && Directory.GetFiles(disk.ToFetch(id, copy)) is [var file]
                    ? Results.File(file, "application/octet-stream", Path.GetFileName(file))
                    : throw new CannotUseException("That copy is no longer there; write it again.")
            )
            .ExcludeFromDescription();
        group.MapPost(string.Empty, async (Guid id, WriteCopyTo copy, RootStore roots, WorkDispatcher work, CancellationToken stop) =>
        {
            var root = (await roots.All(stop)).Find(r => r.Id == copy.Root && r.Purpose == RootStore.Output)
                ?? throw new CannotUseException("That is no root for output.");
            var folder = PortableName.Make(copy.Folder.Trim());
            return TypedResults.Ok(
                await work.Begin(
                    new WriteCopy(id, Path.Combine(root.Folder, folder), copy.Into?.Asked),
                    $"Write the scene into {root.Name}/{folder}",
                    id,
                    stop
                )
            );
        });
    }

    private static FormChoice Choice(CrossedForm form, Scene scene) =>
        new(
            form.Ending,
            form.Name,
            form.WhyNot(scene, form.Models[0]),
            form.Models.Select(m => new FormModel(m, ShadingModels.Find(m)?.Name ?? m, CrossingGoals.ToCarry(scene, m))),
            form.Leaves(scene)
        );
}
