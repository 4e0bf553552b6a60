using RootCall.Core.Imaging.Colours;

namespace RootCall.Data;

/// <summary>Where data lies and what may be looked at. Bound from the section <c>RootCall</c>.</summary>
public sealed class DataOptions
{
    public const string Section = "RootCall";

    /// <summary>Connection string of the PostgreSQL database.</summary>
    public string Database { get; set; } = string.Empty;

    /// <summary>Folder for uploads, thumbnails and packages.</summary>
    public string Data { get; set; } = ".data";

    /// <summary>
    /// The server folders that may be browsed and made roots, as <c>name=folder</c> separated by semicolons. Nothing
    /// outside them and <see cref="Data"/> is read.
    /// </summary>
    public string Folders { get; set; } = string.Empty;

    /// <summary>A worker that gives no sign of life for so long has lost its tasks to others.</summary>
    public TimeSpan Lease { get; set; } = TimeSpan.FromSeconds(15);

    /// <summary>A task that reports nothing for so long is ended.</summary>
    public TimeSpan MostSilence { get; set; } = TimeSpan.FromMinutes(15);

    /// <summary>Megabytes of decoded images that a worker keeps for the swatches that read them next.</summary>
    public int TextureMegabytes { get; set; } = 512;

    /// <summary>A config of OpenColorIO by which images are read and pictures are shown; empty for none.</summary>
    public string ColourConfig { get; set; } = string.Empty;

    /// <summary>One of its views, as <c>display/view</c>; empty for the config's own choice.</summary>
    public string ColourView { get; set; } = string.Empty;

    public ColourSetting Colours => new(ColourConfig, ColourView);

    /// <summary>Scenes opened at the very first start, absolute paths separated by semicolons.</summary>
    public string FirstScenes { get; set; } = string.Empty;

    /// <summary>Roots made at the very first start, absolute paths separated by semicolons.</summary>
    public string FirstRoots { get; set; } = string.Empty;

    public IReadOnlyList<ServerFolder> ServerFolders =>
        [
            .. Split(Folders)
                .Select(f => f.Split('=', 2))
                .Where(f => f.Length == 2)
                .Select((f, i) => new ServerFolder(i + 1, f[0].Trim(), Core.Files.RootScope.RealPath(f[1].Trim()))),
        ];

    public static IEnumerable<string> Split(string list) =>
        list.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
}

/// <param name="Path">Absolute, without links.</param>
public sealed record ServerFolder(int Id, string Name, string Path);
