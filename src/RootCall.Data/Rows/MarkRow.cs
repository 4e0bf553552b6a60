using RootCall.Core.Bench;

namespace RootCall.Data.Rows;

/// <summary>What somebody who looked at a material said of it.</summary>
public sealed class MarkRow
{
    public Guid SceneId { get; set; }

    public required string Material { get; set; }

    public MarkKind Kind { get; set; }

    public required string Word { get; set; }

    /// <summary>Hash of what it looked like then.</summary>
    public required string Look { get; set; }

    public DateTimeOffset At { get; set; }
}
