using RootCall.Core.Viewing;

namespace RootCall.Core.Jobs;

/// <summary>Where the store keeps what on disk; all are absolute, and on one file system.</summary>
public interface IStorePlaces
{
    /// <summary>An upload as it was received.</summary>
    string Incoming(Guid id);

    /// <summary>The tree of an upload that has arrived.</summary>
    string Arrival(Guid id);

    /// <summary>Where the contents with that hash lie or belong.</summary>
    string Blob(string sha256);

    /// <summary>Own files of a scene with its ledger's edits made.</summary>
    string Edited(Guid sceneId);

    /// <summary>Textures that were added to a scene from somebody's own computer, a folder for each delivery.</summary>
    string Added(Guid sceneId);

    /// <summary>Images that were taken out of a scene.</summary>
    string Extracted(Guid sceneId);

    /// <summary>A copy of a scene that waits to be fetched.</summary>
    string ToFetch(Guid sceneId, Guid job);

    /// <param name="token">Of the attempt that builds it.</param>
    string Package(Guid token, string name);

    /// <summary>Where the frame of a scene under that light lies or belongs.</summary>
    string Frame(Guid sceneId, FrameLighting light, string? camera);

    /// <summary>The folder of the frames of a scene before and after a crossing.</summary>
    string CrossingFrame(Guid sceneId, WholeCrossing crossing);

    /// <summary>The folder of a view of the scene; beside it lie other views of that scene alone.</summary>
    /// <param name="print">A hash of all that it is made of.</param>
    string View(Guid sceneId, string print);

    /// <summary>The folder of the frames of two moments beside each other.</summary>
    string MomentFrames(DrawMoments moments);

    /// <summary>Where the measure of a crossing lies or belongs.</summary>
    /// <param name="print">A hash of all that it is made of.</param>
    string Crossing(string print);

    /// <summary>Where a look in numbers lies or belongs.</summary>
    /// <param name="print">A hash of all that it is made of.</param>
    string Look(string print);

    /// <summary>Which colours pictures are made with (<see cref="Imaging.Colours.ColourSetting.Print"/>).</summary>
    string? ColourPrint { get; }

    /// <summary>What an attempt needs only while it runs.</summary>
    string Work(Guid token);

    /// <summary>What is needed only for a moment, by no job.</summary>
    string Moment { get; }
}

/// <summary>Second names for files.</summary>
public interface IFileLinks
{
    /// <summary>Gives a file's contents a second name, so that two trees share one copy; copies where that cannot be.</summary>
    void Create(string existing, string name);

    /// <summary>How many names a file's contents have.</summary>
    int Count(string path);
}
