using Microsoft.AspNetCore.SignalR;

namespace RootCall.Web.Live;

/// <summary>
/// Tells open windows how far long tasks are, and what became another of the scene they show: <c>work</c> goes to all, since
/// all show the list of tasks, <c>scene</c> only to those that show that scene or the list of scenes.
/// </summary>
internal sealed class WorkHub : Hub
{
    /// <summary>Files that the scene uses were written, on disk.</summary>
    public const string Files = "files";

    /// <summary>Windows that show the list of scenes.</summary>
    public const string List = "list";

    public static string GroupOf(Guid scene) => scene.ToString();

    /// <summary>What the window shows from here on.</summary>
    /// <param name="scene">Null for none.</param>
    /// <param name="list">The list of all scenes besides.</param>
    public async Task Look(Guid? scene, bool list)
    {
        string[] groups = [.. scene is { } id ? new[] { GroupOf(id) } : [], .. list ? new[] { List } : []];
        if (Context.Items[nameof(Look)] is string[] before)
            foreach (var group in before.Except(groups))
                await Groups.RemoveFromGroupAsync(Context.ConnectionId, group);
        Context.Items[nameof(Look)] = groups;
        foreach (var group in groups)
            await Groups.AddToGroupAsync(Context.ConnectionId, group);
    }
}
