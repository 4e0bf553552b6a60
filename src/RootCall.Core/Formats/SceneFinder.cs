using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats;

/// <summary>Finds the scenes in a delivered folder.</summary>
public static class SceneFinder
{
    /// <summary>Whether there is a scene under the folder; none is read.</summary>
    public static bool Any(string folder) => Files(folder).Any();

    /// <summary>
    /// Absolute paths of all scenes under the folder, those nearest to its top first; a layer or document that another
    /// of them calls is part of that one.
    /// </summary>
    /// <param name="parsed">Where what is parsed on the way is kept for whoever reads the scenes next.</param>
    public static IReadOnlyList<string> All(string folder, ParsedFiles? parsed = null)
    {
        var files = Files(folder).OrderBy(f => f.Count(c => c == '/')).ThenBy(f => f, StringComparer.Ordinal).ToList();
        if (files.Count < 2)
            return files;
        var called = files.SelectMany(f => Called(f, folder, parsed)).ToHashSet(StringComparer.Ordinal);
        var own = files.Where(f => !called.Contains(f)).ToList();
        return own.Count > 0 ? own : files; // They call each other in a circle.
    }

    private static IEnumerable<string> Files(string folder) =>
        Directory
            .EnumerateFiles(
                folder,
                "*",
                new EnumerationOptions { RecurseSubdirectories = true, AttributesToSkip = FileAttributes.ReparsePoint }
            )
            .Where(f => SceneFormats.IsScene(f) && !Path.GetFileName(f).StartsWith('.'));

    private static List<string> Called(string file, string folder, ParsedFiles? parsed)
    {
        if (!Composed.Contains(Path.GetExtension(file).ToLowerInvariant()))
            return [];
        try
        {
            var scene = SceneFormats.Read(file, new(new([folder]), Bounds.Default) { Alone = true, Parsed = parsed });
            return scene
                .References.Where(r => r.Kind is ReferenceKind.Layer or ReferenceKind.Document)
                .Select(r => WrittenPath.Parse(r.Written).Locate(r.BaseFolder))
                .OfType<string>()
                .Where(p => p != file)
                .ToList();
        }
        catch (CannotUseException)
        {
            return []; // Told when it is opened.
        }
    }

    private static readonly string[] Composed = [".usda", ".usdc", ".usd", ".mtlx", ".dae"];

    /// <summary>The one scene of a folder.</summary>
    /// <exception cref="CannotUseException">There is none, or several.</exception>
    public static string In(string folder)
    {
        var scenes = All(folder);
        return scenes.Count switch
        {
            1 => scenes[0],
            0 => throw new CannotUseException($"“{folder}” holds no scene that is read here."),
            _ => throw new CannotUseException(
                $"“{folder}” holds {scenes.Count} scenes "
                    + $"({string.Join(", ", scenes.Take(5).Select(s => Path.GetRelativePath(folder, s)))}); name one."
            ),
        };
    }
}
