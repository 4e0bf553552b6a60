using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Looks;

/// <summary>Paths that one own file writes, as another one would write them.</summary>
internal static class ReferencePaths
{
    /// <param name="file">The own file that will write it, relative to the scene's folder.</param>
    public static ReferenceKey In(Scene scene, ReferenceKey key, string file)
    {
        if (key.File == file || key.File.Length == 0)
            return key with { File = file };
        var (from, to) = (FolderOf(scene, key.File), FolderOf(scene, file));
        if (
            from == to
            || WrittenPath.Parse(key.Written) is not { Origin: PathOrigin.Relative } written
            || written.Locate(from) is not { } place
        )
            return key with { File = file };
        return key with { File = file, Written = Path.GetRelativePath(to, place).Replace('\\', '/') };
    }

    private static string FolderOf(Scene scene, string file) => Path.GetDirectoryName(Path.GetFullPath(file, scene.Folder))!;
}
