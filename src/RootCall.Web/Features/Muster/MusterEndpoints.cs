using RootCall.Core.Files;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Codecs;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features.Muster;

/// <summary>
/// The muster of the current scene, all rows at once: lists filter and sort in the window. A window that has a version
/// already is sent the rows that differ.
/// </summary>
/// <param name="Version">What to ask for differences from, later.</param>
/// <param name="Since">The version that the rows differ from; null when they are all rows.</param>
internal sealed record MusterView(
    string Version,
    string? Since,
    IEnumerable<StateTotal> Totals,
    int Answering,
    IEnumerable<ReferenceItem> References,
    IEnumerable<BundleItem> Bundles,
    IEnumerable<RootItem> Roots,
    DateTimeOffset MusteredAt,
    int FilesIndexed,
    IEnumerable<string> Notes
);

internal sealed record StateTotal(string State, int Count);

internal sealed record RootItem(Guid Id, string Name, string Folder, string Purpose);

/// <param name="Written">The whole path as it is called now, with what the ledger says.</param>
/// <param name="Name">Its file name.</param>
/// <param name="Folder">What stands before the name, with slashes.</param>
/// <param name="Answer">Folder of the answer, or of the clear candidate, as people call it.</param>
/// <param name="Entry">Place in the ledger of the pending entry that relinks it.</param>
/// <param name="Relinked">It answers because the applied ledger says where.</param>
internal sealed record ReferenceItem(
    int Number,
    string Kind,
    string Written,
    string Name,
    string Folder,
    string State,
    IEnumerable<string> Flags,
    string Role,
    IEnumerable<UseItem> UsedBy,
    string? Resolved,
    string? Answer,
    int? Width,
    int? Height,
    long? Bytes,
    string? Damage,
    int Candidates,
    int? Entry,
    bool Relinked
);

internal sealed record UseItem(string Material, string Input);

/// <param name="Entry">Place in the ledger of the pending entry that relinks all of it.</param>
/// <param name="Relinked">It answers because the applied ledger relinked it.</param>
/// <param name="StandIns">Neutral pictures stand in for these.</param>
/// <param name="ApprovedBefore">The same rule was approved in another scene.</param>
internal sealed record BundleItem(
    string State,
    string From,
    IEnumerable<PlaceItem> To,
    IEnumerable<int> Numbers,
    IEnumerable<int> Contradicts,
    int? Entry,
    bool Relinked,
    bool ApprovedBefore,
    bool StandIns
);

/// <param name="Path">Absolute folder.</param>
/// <param name="Name">As people call it: from the root's name on.</param>
internal sealed record PlaceItem(string Path, string Name);

internal sealed record CandidateItem(
    int Index,
    string Path,
    string Folder,
    string FolderName,
    string Name,
    double Score,
    IEnumerable<string> Reasons,
    string? Format,
    int? Width,
    int? Height,
    int? Channels,
    int? BitDepth,
    string? Colour,
    long Bytes,
    DateTimeOffset ModifiedAt,
    string? Damage,
    int SharedBy
);

/// <summary>The evidence for one reference.</summary>
/// <param name="Margin">Distance between the first two candidates; null when there are fewer.</param>
/// <param name="SettlesFrom">The margin from which Root Call settles alone.</param>
/// <param name="SettlesAt">The score from which it does.</param>
/// <param name="Blocked">Meshes that wear a material which waits for it.</param>
/// <param name="WrittenAs">How a relinked copy will write the path; null for relative to the scene.</param>
/// <param name="Place">Where it will lie in a package, when the ledger says so.</param>
internal sealed record EvidenceView(
    int Number,
    string State,
    string Written,
    string? Resolved,
    string? Damage,
    string? Format,
    int? Width,
    int? Height,
    int? Channels,
    int? BitDepth,
    string? Colour,
    IEnumerable<CandidateItem> Candidates,
    double? Margin,
    double SettlesFrom,
    double SettlesAt,
    SeenItem? Seen,
    IEnumerable<string> Blocked,
    string? WrittenAs,
    string? Place
);

/// <summary>What the file was when it was last looked at.</summary>
internal sealed record SeenItem(long Bytes, DateTimeOffset ModifiedAt, int? Width, int? Height);

internal static class MusterEndpoints
{
    public static void MapMuster(this IEndpointRouteBuilder api)
    {
        var group = api.MapGroup("/scenes/{id:guid}").WithTags("Muster");
        group.MapGet("/muster", async (Guid id, string? since, MusterViews views, CancellationToken stop) =>
            TypedResults.Ok(await views.Get(id, since, stop))
        );
        group.MapGet(
            "/references/{number:int}",
            async (Guid id, int number, CurrentScenes current, SeenStore seen, CancellationToken stop) =>
            {
                var state = await current.Get(id, stop);
                var reference = Find(state.Report, number);
                return TypedResults.Ok(Evidence(reference, state, await seen.Of(id, reference.Reference.Key, stop)));
            }
        );
        group.MapPost("/search", async (Guid id, WorkDispatcher work, CancellationToken stop) =>
            TypedResults.Ok(await work.Begin(new Search(id), "Search the roots", id, stop))
        );
    }

    /// <exception cref="CannotUseException">The scene has no such reference.</exception>
    public static MusteredReference Find(MusterReport report, int number) =>
        report.References.FirstOrDefault(r => r.Number == number) ?? throw new CannotUseException($"The scene has no reference {number}.");

    private static EvidenceView Evidence(MusteredReference r, CurrentState state, LastSeen? seen)
    {
        var report = state.Report;
        ImageFacts? f = r.Facts;
        return new(
            r.Number,
            r.State.Word(),
            r.Reference.Written,
            r.Resolved,
            r.Damage,
            f is null ? null : ImageCodecs.Of(f.Format).Name,
            f?.Width,
            f?.Height,
            f?.Channels,
            f?.BitDepth,
            f?.Colour,
            r.Candidates.Select((c, i) => Candidate(c, i, r, state)),
            r.Candidates.Length > 1 ? Math.Round(r.Candidates[0].Score - r.Candidates[1].Score, 3) : null,
            EvidenceWeights.Margin,
            EvidenceWeights.Settles,
            seen is null
                ? null
                : new(
                    seen.Stamp.Bytes,
                    new(seen.Stamp.ModifiedUtc, TimeSpan.Zero),
                    seen.Width > 0 ? seen.Width : null,
                    seen.Height > 0 ? seen.Height : null
                ),
            r.State.Answers() && !r.Flags.HasFlag(ReferenceFlags.StandIn) ? [] : Wearers(r, report),
            state.Edited.Current.Answers.GetValueOrDefault(r.Reference.Key) is { Style: { } style }
                ? Core.Edits.SetPathStyle.Words(style)
                : null,
            state.Edited.Current.Answers.GetValueOrDefault(r.Reference.Key)?.Place
        );
    }

    private static IEnumerable<string> Wearers(MusteredReference r, MusterReport report)
    {
        var materials = r.Reference.UsedBy.Select(u => u.Material).Where(m => m.Length > 0).ToHashSet(StringComparer.Ordinal);
        return report
            .Scene.Meshes.Where(m => m.Parts.Any(p => p.Material is { } worn && materials.Contains(worn)))
            .Select(m => m.Name)
            .Distinct();
    }

    private static CandidateItem Candidate(Core.Muster.Candidate c, int index, MusteredReference r, CurrentState state)
    {
        var folder = Path.GetDirectoryName(c.Path)!;
        return new(
            index,
            c.Path,
            folder,
            state.Names.Of(folder),
            Path.GetFileName(c.Path),
            c.Score,
            c.Reasons,
            c.Facts is null ? null : ImageCodecs.Of(c.Facts.Format).Name,
            c.Facts?.Width,
            c.Facts?.Height,
            c.Facts?.Channels,
            c.Facts?.BitDepth,
            c.Facts?.Colour,
            c.Stamp.Bytes,
            new(c.Stamp.ModifiedUtc, TimeSpan.Zero),
            c.Damage,
            state.Shared(r.State, folder)
        );
    }
}
