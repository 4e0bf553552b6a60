namespace RootCall.Data.Rows;

/// <summary>A cause that somebody lets stand, in one scene.</summary>
public sealed class WaiverRow
{
    public Guid SceneId { get; set; }

    /// <summary>Key of the cause.</summary>
    public required string Cause { get; set; }

    public required string Reason { get; set; }

    public DateTimeOffset At { get; set; }
}
