using RootCall.Core.Files;

namespace RootCall.Core.Formats;

/// <summary>Finds the scenes in a delivered folder.</summary>
public static class SceneFinder
{
    /// <summary>Absolute paths of all scenes under the folder, those nearest to its top first.</summary>
    public static IReadOnlyList<string> All(string folder) =>
        [.. Directory.EnumerateFiles(folder, "*", new EnumerationOptions { RecurseSubdirectories = true, AttributesToSkip = FileAttributes.ReparsePoint })
            .Where(f => SceneFormats.IsScene(f) && !Path.GetFileName(f).StartsWith('.'))
            .OrderBy(f => f.Count(c => c == '/')).ThenBy(f => f, StringComparer.Ordinal)];

    /// <summary>The one scene of a folder.</summary>
    /// <exception cref="CannotUseException">There is none, or several.</exception>
    public static string In(string folder)
    {
        var scenes = All(folder);
        return scenes.Count switch
        {
            1 => scenes[0],
            0 => throw new CannotUseException($"“{folder}” holds no scene that is read here."),
            _ => throw new CannotUseException($"“{folder}” holds {scenes.Count} scenes ({string.Join(", ", scenes.Take(5).Select(s => Path.GetRelativePath(folder, s)))}); name one."),
        };
    }
}
