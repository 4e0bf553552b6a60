using System.Collections.Immutable;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.Jobs;

/// <summary>Headers, hashes and looks of files, kept between processes.</summary>
public interface IKnownFiles
{
    /// <summary>Takes what is known of the files into the cache.</summary>
    /// <param name="again">Asks for those that the cache knows too: another process may have learned more.</param>
    Task Load(FileFacts facts, IEnumerable<string> paths, CancellationToken stop, bool again = false);

    /// <summary>Writes down what the cache learned.</summary>
    Task Save(FileFacts facts, CancellationToken stop);
}

/// <summary>What each reference's file was when it was last looked at.</summary>
public interface ISeenFiles
{
    Task<ImmutableDictionary<ReferenceKey, LastSeen>> Read(Guid sceneId, CancellationToken stop);

    /// <summary>Remembers these in place of what was remembered of the same references.</summary>
    Task Put(Guid sceneId, IReadOnlyDictionary<ReferenceKey, LastSeen> seen, CancellationToken stop);
}

/// <summary>Indexes of trees, kept between processes.</summary>
public interface ITreeStore
{
    /// <summary>The stored index of a folder; null when there is none.</summary>
    Task<TreeIndex?> Load(string folder, CancellationToken stop);

    /// <param name="changed">Listings that the stored index does not have yet.</param>
    Task Save(TreeIndex index, ImmutableArray<FolderListing> changed, CancellationToken stop);
}
