using RootCall.Core.SendOff;

namespace RootCall.Core.Jobs;

/// <summary>Packages that were built and proven.</summary>
public interface IPackages
{
    /// <summary>Whether a job has published its package already.</summary>
    Task<bool> Has(Guid job, CancellationToken stop);

    /// <summary>Publishes a package, once: only while the attempt is held.</summary>
    Task Publish(IAttempt attempt, Guid sceneId, BuiltPackage built, Proof proof, CancellationToken stop);
}
