using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.SendOff;

/// <summary>
/// Names of the scene's own files in a place of their own: as they lie around the scene, or beside it when they came
/// from elsewhere.
/// </summary>
internal static class OwnFileNames
{
    public static ImmutableArray<string> For(Scene scene)
    {
        var names = ImmutableArray.CreateBuilder<string>();
        foreach (var file in scene.Files)
        {
            var relative = Path.GetRelativePath(scene.Folder, file.Path);
            var outside = relative.StartsWith("..", StringComparison.Ordinal) || Path.IsPathRooted(relative);
            if (file.WrittenAs is { } name)
                relative = Path.Combine(Path.GetDirectoryName(relative) ?? string.Empty, name);
            var wanted = outside ? Path.GetFileName(file.Path) : relative;
            names.Add(
                FreeName.Find(string.Join('/', wanted.Split('/').Select(PortableName.Make)), n =>
                    names.Contains(n, StringComparer.OrdinalIgnoreCase)
                )
            );
        }

        return names.ToImmutable();
    }
}

/// <summary>A readable suffix that makes a name free: <c>rib.png</c>, <c>rib-b.png</c>, <c>rib-c.png</c>.</summary>
internal static class FreeName
{
    public static string Find(string name, Predicate<string> taken)
    {
        if (!taken(name))
            return name;
        var ending = Path.GetExtension(name);
        var stem = name[..^ending.Length];
        for (var n = 1; ; n++)
        {
            var suffix = n < 26 ? ((char)('a' + n)).ToString() : (n + 1).ToString(null, System.Globalization.CultureInfo.InvariantCulture);
            if (!taken($"{stem}-{suffix}{ending}"))
                return $"{stem}-{suffix}{ending}";
        }
    }
}
