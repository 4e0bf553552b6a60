using RootCall.Core.Scenes;

namespace RootCall.Core.Muster;

/// <summary>
/// How a reference's path reads with what edits say of it: what a copy beside the scene would be written with. Without any, it is what
/// the file says.
/// </summary>
public static class CalledNow
{
    public static string Of(MusteredReference reference, Scene scene)
    {
        var own = reference.Reference;
        var answer = scene.Answers.GetValueOrDefault(own.Key);
        if (own.Carried is not null || answer is null or { File: null, Style: null } || reference.Called is not { } called)
            return own.Written;
        var path = answer.Style switch
        {
            PathStyle.Absolute => called,
            PathStyle.RootRelative when answer.Root is { } root => Path.GetRelativePath(root, called),
            _ => Path.GetRelativePath(own.BaseFolder, called),
        };
        return path.Replace('\\', '/');
    }

    /// <summary>The folder that a path of the reference starts from when it is relative.</summary>
    public static string From(MusteredReference reference, Scene scene) =>
        scene.Answers.GetValueOrDefault(reference.Reference.Key) is { Style: PathStyle.RootRelative, Root: { } root }
            ? root
            : reference.Reference.BaseFolder;
}
