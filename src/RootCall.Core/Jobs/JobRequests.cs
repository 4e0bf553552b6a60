using System.Collections.Immutable;
using RootCall.Core.Crossing;
using RootCall.Core.Viewing;

namespace RootCall.Core.Jobs;

/// <summary>What a job is asked to do. Each has a kind by which a host finds it.</summary>
public abstract record JobRequest
{
    public static string KindOf(Type type) => type.Name.ToLowerInvariant();
}

/// <summary>Bring scenes in: a file in a server folder, or an upload that lies in the store's incoming folder.</summary>
/// <param name="Path">Absolute path of the scene; null for an upload.</param>
/// <param name="Incoming">Id of the received upload; null for a scene opened in place.</param>
/// <param name="Name">What was dropped, as people call it.</param>
/// <param name="VersionOf">
/// The scene of which an uploaded file named <paramref name="FileName"/> is another version; null for new scenes.
/// </param>
/// <param name="TexturesOf">The scene that an upload without any scene in it is textures of; null when none was picked.</param>
public sealed record Arrive(
    string? Path,
    Guid? Incoming,
    string Name,
    Guid? VersionOf = null,
    string? FileName = null,
    Guid? TexturesOf = null
) : JobRequest;

/// <summary>List the roots again and muster the scene against them.</summary>
public sealed record Search(Guid SceneId) : JobRequest;

/// <summary>Take carried images out and put the edits that call them into the ledger.</summary>
/// <param name="Numbers">References of the carried images.</param>
public sealed record Extract(Guid SceneId, IReadOnlyList<int> Numbers) : JobRequest;

/// <summary>Build a package and prove it.</summary>
/// <param name="Zip">A zip; otherwise a folder.</param>
/// <param name="AllowMissing">Build although references stay unanswered.</param>
/// <param name="AllowStandIns">Build although neutral pictures stand in for missing ones.</param>
/// <param name="Into">The format that it is written in; null for its own.</param>
public sealed record Pack(Guid SceneId, string Name, bool Zip, bool AllowMissing, bool AllowStandIns = false, CrossInto? Into = null)
    : JobRequest;

/// <summary>Bring the index of a root up to date, sizes and times of files too.</summary>
/// <param name="Folder">Absolute.</param>
public sealed record ListRoot(string Folder) : JobRequest;

/// <summary>Find out what the files that answer look like and hold, so that they are known again under another name.</summary>
/// <param name="HasArrived">The scene has just arrived: recipes for its source act now, and never again.</param>
public sealed record Remember(Guid SceneId, bool HasArrived = false) : JobRequest;

/// <summary>Remove from the store what nothing uses.</summary>
public sealed record SweepStore : JobRequest;

/// <summary>Draw a frame of the scene.</summary>
/// <param name="Camera">By name; null for the scene's first, or one that frames it.</param>
public sealed record Draw(Guid SceneId, FrameLighting Light, string? Camera) : JobRequest;

/// <summary>Draw the whole scene before and after a crossing.</summary>
public sealed record DrawCrossing(Guid SceneId, WholeCrossing Crossing) : JobRequest;

/// <summary>Make a scene ready to be walked around.</summary>
public sealed record MakeView(Guid SceneId) : JobRequest;

/// <summary>Draw two moments beside each other.</summary>
/// <param name="SceneId">The scene in hand.</param>
public sealed record DrawMoments(Guid SceneId, SceneMoment Before, SceneMoment After, FrameLighting Light) : JobRequest;

/// <summary>Write a copy of the scene's own files into a root for output, or to be fetched.</summary>
/// <param name="Folder">Absolute, inside an output root; it is made. Null to keep the copy in the store until somebody fetches it.</param>
/// <param name="Into">The format that it is written in; null for its own.</param>
public sealed record WriteCopy(Guid SceneId, string? Folder, CrossInto? Into = null) : JobRequest;

/// <summary>Another format, and the looks in it.</summary>
/// <param name="Form">Ending of its files (<see cref="SendOff.CrossedForm"/>).</param>
public sealed record CrossInto(string Form, WholeCrossing Looks);

/// <summary>Measure how far a crossing moves looks.</summary>
/// <param name="Model">Id of the shading model that they are carried to.</param>
/// <param name="Materials">By name; null for all.</param>
/// <param name="Fit">The best fit is looked for, too, where the formulas leave something to win.</param>
public sealed record MeasureCrossing(Guid SceneId, string Model, CrossingRoute Route, IReadOnlyList<string>? Materials, bool Fit = false)
    : JobRequest;

/// <summary>Put the looks of a scene into numbers, and how far each lies from how it arrived.</summary>
public sealed record MeasureLooks(Guid SceneId) : JobRequest;

/// <summary>Carry materials to another shading model, with the images that the format needs for it.</summary>
/// <param name="Materials">By name.</param>
/// <param name="Set">What is said in place of the formulas, by material.</param>
public sealed record Cross(
    Guid SceneId,
    string Model,
    CrossingRoute Route,
    IReadOnlyList<string> Materials,
    IReadOnlyDictionary<string, ImmutableArray<SetInput>> Set,
    string Note = ""
) : JobRequest;
