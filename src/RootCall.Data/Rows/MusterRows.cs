using System.Text.Json;

namespace RootCall.Data.Rows;

/// <summary>The index of a folder with everything below it; its contents are rows of <see cref="IndexFolderRow"/>.</summary>
public sealed class IndexTreeRow
{
    public Guid Id { get; set; }

    /// <summary>Absolute, without links.</summary>
    public required string Folder { get; set; }

    public int Files { get; set; }

    public int Folders { get; set; }

    public DateTimeOffset IndexedAt { get; set; }

    public List<string> Notes { get; set; } = [];
}

/// <summary>One folder of an index: files stand in columns, as <c>RootCall.Core.Muster.FolderListing</c> has them.</summary>
public sealed class IndexFolderRow
{
    public Guid TreeId { get; set; }

    public required string Path { get; set; }

    /// <summary>Ticks, UTC: PostgreSQL's timestamps are ten times coarser than file systems'.</summary>
    public long Modified { get; set; }

    public required string[] Names { get; set; }

    public required long[] Sizes { get; set; }

    /// <summary>Ticks, UTC.</summary>
    public required long[] Times { get; set; }

    public required string[] Folders { get; set; }
}

/// <summary>What was found out about one state of a file, shared by all scenes.</summary>
public sealed class KnownFileRow
{
    public required string Path { get; set; }

    public long Bytes { get; set; }

    /// <summary>Ticks, UTC.</summary>
    public long Modified { get; set; }

    /// <summary>JSON of <c>RootCall.Core.Imaging.ProbeResult</c>.</summary>
    public JsonDocument? Probe { get; set; }

    public string? Hash { get; set; }

    public long? Look { get; set; }

    /// <summary>JSON of <c>RootCall.Core.Imaging.Pixels.PixelStats</c>.</summary>
    public JsonDocument? Pixels { get; set; }

    /// <summary>JSON of <c>RootCall.Core.Imaging.Pixels.Undecoded</c>; null when it was decoded, or not tried.</summary>
    public JsonDocument? Undecoded { get; set; }
}

/// <summary>What a reference's file was when somebody last looked at it.</summary>
public sealed class SeenFileRow
{
    public Guid SceneId { get; set; }

    /// <summary>JSON of <c>RootCall.Core.Scenes.ReferenceKey</c>.</summary>
    public required string Reference { get; set; }

    /// <summary>JSON of <c>RootCall.Core.Muster.LastSeen</c>.</summary>
    public required JsonDocument Body { get; set; }
}

/// <summary>A relocation rule that was approved for a root, offered in the next scene.</summary>
public sealed class ApprovedRuleRow
{
    public Guid Id { get; set; }

    /// <summary>Folder of the root it leads into.</summary>
    public required string Root { get; set; }

    public required string From { get; set; }

    public required string To { get; set; }

    public int Times { get; set; }

    public DateTimeOffset ApprovedAt { get; set; }
}

/// <summary>A choice of the house, as JSON.</summary>
public sealed class SettingRow
{
    public required string Key { get; set; }

    public required JsonDocument Value { get; set; }
}
