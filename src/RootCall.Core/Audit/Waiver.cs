namespace RootCall.Core.Audit;

/// <summary>A cause that somebody has looked at and lets stand.</summary>
/// <param name="Cause">Key of the cause.</param>
/// <param name="Reason">Why, in the artist's words.</param>
public sealed record Waiver(string Cause, string Reason, DateTimeOffset At);
