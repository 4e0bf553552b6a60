using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Formats;
using RootCall.Core.Scenes;

namespace RootCall.Core.Audit;

/// <summary>A file that lies beside a scene's images, as an input can call for it.</summary>
/// <param name="Key">What it is called by.</param>
/// <param name="Answer">Answers it from where it lies, when that is not where it is called; null for none.</param>
internal sealed record BesideMap(ReferenceKey Key, RelinkReference? Answer)
{
    /// <summary>The edits that put it in, and what answers it; nothing when there is nothing to put in.</summary>
    public ImmutableArray<Edit> With(ImmutableArray<Edit> edits) => edits.IsEmpty || Answer is null ? edits : edits.Add(Answer);

    /// <param name="caller">File that the call stands in, as other references of the material name it.</param>
    public static BesideMap Of(AuditScene scene, string caller, SetFile file) => Of(scene, caller, file.Beside.Path);

    /// <param name="path">Absolute.</param>
    public static BesideMap Of(AuditScene scene, string caller, string path)
    {
        var written = Path.GetRelativePath(scene.Scene.Folder, path).Replace('\\', '/');
        // What lies in a root is called as if it lay beside the scene, and answered from the root.
        var away = written.StartsWith("..", StringComparison.Ordinal) || Path.IsPathRooted(written);
        if (away)
            written = $"textures/{Path.GetFileName(path)}";
        var key = new ReferenceKey(ReferenceKind.Image, caller, SceneFormats.Of(scene.Scene.Path).Capabilities.Written(written));
        return new(key, away ? new(key, null, path) : null);
    }
}
