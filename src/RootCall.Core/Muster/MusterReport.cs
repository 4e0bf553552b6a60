using System.Collections.Immutable;
using System.Text.Json.Serialization;
using RootCall.Core.Imaging;
using RootCall.Core.Scenes;

namespace RootCall.Core.Muster;

/// <summary>A reference with its answer.</summary>
/// <param name="Resolved">Absolute path of the file that answers (also when it is damaged); null otherwise.</param>
/// <param name="Stamp">Size and time of that file, or the carried length.</param>
/// <param name="Damage">Why a damaged file will not read.</param>
/// <param name="Candidates">Best first; empty when the reference answers.</param>
public sealed record MusteredReference(
    Reference Reference,
    ReferenceState State,
    ReferenceFlags Flags,
    string? Resolved,
    FileStamp? Stamp,
    ImageFacts? Facts,
    string? Damage,
    ImmutableArray<Candidate> Candidates
)
{
    [JsonIgnore]
    public int Number => Reference.Number;

    /// <summary>All files of a tiled image (a path with &lt;UDIM&gt; or &lt;UVTILE&gt;), in order; empty for any other.</summary>
    public ImmutableArray<string> Tiles { get; init; } = [];

    /// <summary>Of a tiled image or a sequence: the path that stands for all its files; null for any other.</summary>
    public string? Pattern { get; init; }

    /// <summary>The path that calls the answer.</summary>
    [JsonIgnore]
    public string? Called =>
        Pattern is null || Resolved is null ? Resolved : Path.Combine(Path.GetDirectoryName(Resolved)!, Path.GetFileName(Pattern));

    /// <summary>The candidate that Root Call would take by itself.</summary>
    [JsonIgnore]
    public Candidate? Clear => State == ReferenceState.Elsewhere ? Candidates[0] : null;
}

/// <summary>What a scene calls for, and what answers.</summary>
public sealed record MusterReport(Scene Scene, ImmutableArray<MusteredReference> References, ImmutableArray<string> Notes)
{
    public IReadOnlyDictionary<ReferenceState, int> Totals =>
        Enum.GetValues<ReferenceState>().ToDictionary(s => s, s => References.Count(r => r.State == s));

    /// <summary>Images that lie in the folders of those that answer, and are of the same things by their names.</summary>
    public ImmutableArray<FileBeside> Beside { get; init; } = [];

    public int Answering => References.Count(r => r.State.Answers());
}

/// <summary>An image that the scene does not call for.</summary>
/// <param name="Facts">What its header says; null for a damaged file.</param>
public sealed record FileBeside(string Path, FileStamp Stamp, ImageFacts? Facts);
