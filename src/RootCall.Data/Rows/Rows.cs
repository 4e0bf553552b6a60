using System.Text.Json;

namespace RootCall.Data.Rows;

/// <summary>A scene as the artist knows it: one row in Arrivals, with a version for each time it arrived.</summary>
public sealed class SceneRow
{
    public Guid Id { get; set; }

    public required string Name { get; set; }

    public DateTimeOffset CreatedAt { get; set; }

    /// <summary>Id of the destination it is audited for.</summary>
    public string Destination { get; set; } = "plain";

    /// <summary>Counts up whenever something arrives, is mustered or decided: what was made of an older one is old.</summary>
    public long Revision { get; set; }

    /// <summary>References with the applied ledger, as they were last counted; null when they never were.</summary>
    public int? ShownReferences { get; set; }

    /// <summary>How many of those do not answer.</summary>
    public int? ShownUnanswered { get; set; }

    /// <summary>The revision at which they were counted.</summary>
    public long? ShownRevision { get; set; }

    /// <summary>Open findings that block the render, as they were last counted; null when the scene was never audited.</summary>
    public int? ShownBlockers { get; set; }

    public int? ShownWarnings { get; set; }

    /// <summary>The revision that was audited.</summary>
    public long? AuditedRevision { get; set; }

    public List<ArrivalRow> Arrivals { get; set; } = [];
}

/// <summary>One arrival of a scene. What the reader saw is kept whole, so that it need not be read again to be shown.</summary>
public sealed class ArrivalRow
{
    public Guid Id { get; set; }

    public Guid SceneId { get; set; }

    public int Version { get; set; }

    /// <summary>Absolute path of the scene file: inside a root, or in the store for an upload.</summary>
    public required string Path { get; set; }

    /// <summary>Where it came from, in words.</summary>
    public required string Source { get; set; }

    public bool Uploaded { get; set; }

    public DateTimeOffset ArrivedAt { get; set; }

    public long Bytes { get; set; }

    public required string FormatId { get; set; }

    public required string FormatName { get; set; }

    public int Nodes { get; set; }

    public int Meshes { get; set; }

    public int Materials { get; set; }

    public int Images { get; set; }

    public long Triangles { get; set; }

    /// <summary>
    /// The scene without its references (<see cref="References"/>), as JSON of <c>RootCall.Core.Scenes.Scene</c>; null in a head that
    /// was read without its documents.
    /// </summary>
    public JsonDocument Scene { get; set; } = null!;

    /// <summary>To find the scene by.</summary>
    public List<string> MaterialNames { get; set; } = [];

    /// <summary>Counts up with each muster, so that a cached one is known to be old.</summary>
    public int MusterRevision { get; set; }

    public DateTimeOffset MusteredAt { get; set; }

    public int FilesIndexed { get; set; }

    /// <summary>How many references it has, and how many of them do not answer, without the ledger.</summary>
    public int ReferenceCount { get; set; }

    public int Unanswered { get; set; }

    /// <summary>What could not be listed in the roots.</summary>
    public List<string> MusterNotes { get; set; } = [];

    /// <summary>Images beside those in use, as JSON of <c>RootCall.Core.Muster.FileBeside</c>; null for none.</summary>
    public JsonDocument? Beside { get; set; }

    /// <summary>
    /// Entries of the ledger that are in <see cref="Scene"/> already: those that reach further than can be told without
    /// its files.
    /// </summary>
    public List<Guid> Included { get; set; } = [];

    /// <summary>
    /// References that entries of the ledger bring, as JSON of <c>RootCall.Core.Muster.MusteredReference</c>; null when
    /// there are none.
    /// </summary>
    public JsonDocument? Brought { get; set; }

    /// <summary>Edits of the ledger that no longer apply, as JSON of <c>RootCall.Data.Stores.RefusedEdit</c>; null when all do.</summary>
    public JsonDocument? Refused { get; set; }

    public List<ReferenceRow> References { get; set; } = [];
}

/// <summary>A reference with its answer as the last muster found it.</summary>
public sealed class ReferenceRow
{
    public Guid ArrivalId { get; set; }

    public int Number { get; set; }

    public required string Kind { get; set; }

    public required string Written { get; set; }

    public required string State { get; set; }

    public string? Resolved { get; set; }

    /// <summary>Everything, as JSON of <c>RootCall.Core.Muster.MusteredReference</c>.</summary>
    public required JsonDocument Body { get; set; }
}

/// <summary>A folder the artist lets Root Call look in; it lies inside one of the folders the settings list.</summary>
public sealed class RootRow
{
    public Guid Id { get; set; }

    public required string Name { get; set; }

    public required string Folder { get; set; }

    /// <summary>Roots are searched in this order; among equal candidates the first root wins.</summary>
    public int Position { get; set; }

    /// <summary>
    /// <c>search</c>, <c>library</c> (shared by many scenes: its files keep their place) or <c>output</c> (may be
    /// written to, is not searched).
    /// </summary>
    public string Purpose { get; set; } = "search";

    public DateTimeOffset AddedAt { get; set; }
}

public sealed class LedgerEntryRow
{
    public Guid Id { get; set; }

    public Guid SceneId { get; set; }

    /// <summary>Order in the ledger; unique for a scene, so that two writers cannot take the same place.</summary>
    public int Sequence { get; set; }

    public required string Sentence { get; set; }

    public required string State { get; set; }

    public required string ProposedBy { get; set; }

    public DateTimeOffset At { get; set; }

    /// <summary>The relocation rule it applies, as JSON of <c>RootCall.Core.PathRewrite</c>; null for any other entry.</summary>
    public JsonDocument? Rule { get; set; }

    /// <summary>The findings it fixes, as JSON of <c>RootCall.Core.Edits.FixedFinding</c>; null for any other entry.</summary>
    public JsonDocument? Fixed { get; set; }

    public required JsonDocument Edits { get; set; }
}

public sealed class PackageRow
{
    public Guid Id { get; set; }

    public Guid SceneId { get; set; }

    public required string Name { get; set; }

    public required string Path { get; set; }

    public DateTimeOffset BuiltAt { get; set; }

    public int Files { get; set; }

    public long BytesBefore { get; set; }

    public long BytesAfter { get; set; }

    /// <summary>References that answer inside the package, opened alone.</summary>
    public int Resolved { get; set; }

    /// <summary>Those that do not: "state written", a line each.</summary>
    public List<string> Unresolved { get; set; } = [];

    public List<string> BrokenFiles { get; set; } = [];

    /// <summary>How far the frame from the package lies from the one from before, CIEDE2000; null without frames.</summary>
    public double? DeltaEMean { get; set; }

    public double? DeltaEMost { get; set; }

    /// <summary>Why there are no frames.</summary>
    public string? NoFrames { get; set; }
}

/// <summary>A long task: what was asked, how far it is, how it ended.</summary>
public sealed class WorkRow
{
    public Guid Id { get; set; }

    public required string Kind { get; set; }

    public required string Title { get; set; }

    public Guid? SceneId { get; set; }

    public required string State { get; set; }

    public string Phase { get; set; } = string.Empty;

    public string Detail { get; set; } = string.Empty;

    public long Done { get; set; }

    public long Total { get; set; }

    public string? Error { get; set; }

    public DateTimeOffset CreatedAt { get; set; }

    public DateTimeOffset? EndedAt { get; set; }

    /// <summary>The queue's own id, by which the task is cancelled; null until it is in the queue.</summary>
    public string? JobId { get; set; }

    /// <summary>Made anew by each worker that takes the task up: only who knows it may go on, publish or delete.</summary>
    public Guid? Token { get; set; }

    /// <summary>How many workers have taken it up.</summary>
    public int Attempts { get; set; }

    /// <summary>By the database's clock; the worker that has it in hand moves this on. After that it is lost.</summary>
    public DateTimeOffset? LeaseUntil { get; set; }

    /// <summary>What the task needs to know, as JSON of the record its kind has.</summary>
    public required JsonDocument Request { get; set; }
}
