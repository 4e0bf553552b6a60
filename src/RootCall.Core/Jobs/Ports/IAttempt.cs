namespace RootCall.Core.Jobs;

/// <summary>
/// One attempt at a job, as its host runs it. Another may be begun while this one sleeps: what others would feel is done only
/// while this one is held.
/// </summary>
public interface IAttempt
{
    /// <summary>The job; the same for every attempt at it.</summary>
    Guid Job { get; }

    /// <summary>This attempt. It names what is written on the way, so that no other attempt touches it.</summary>
    Guid Token { get; }

    /// <summary>Tells how far the job is; a job that tells nothing for long is ended.</summary>
    /// <param name="phase">What is being done: <c>unpacking</c>, <c>reading</c>, <c>looking in the roots</c>.</param>
    /// <param name="detail">What is in hand, usually a file name.</param>
    /// <param name="total">0 when it is not known.</param>
    void Report(string phase, string detail = "", long done = 0, long total = 0);

    /// <summary>Does something while no other attempt can take the job up.</summary>
    /// <exception cref="OperationCanceledException">Another attempt has it, or it has ended.</exception>
    Task Held(Action act, CancellationToken stop);
}
