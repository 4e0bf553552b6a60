using RootCall.Core.Audit;
using RootCall.Core.Audit.Output;
using RootCall.Core.Bench;
using RootCall.Core.Muster;
using RootCall.Core.SendOff;
using RootCall.Core.Viewing;
using RootCall.Data.Rows;
using RootCall.Data.Stores;
using RootCall.Web.Features.Pictures;

namespace RootCall.Web.Features.Audit;

/// <summary>An audit as files: for people, for a build machine, for a code viewer.</summary>
internal sealed class AuditFiles(Audits audits, SceneStore scenes, PackageStore packages, MarkStore marks, DiskStore disk)
{
    /// <param name="format"><c>html</c>, <c>junit</c>, else SARIF.</param>
    public async Task<IResult> Get(Guid id, string? format, CancellationToken stop)
    {
        var state = await audits.Get(id, stop);
        using var file = new MemoryStream();
        var name = Path.GetFileNameWithoutExtension(state.Scene.Scene.Path);
        switch (format)
        {
            case "html":
                ReadableReport.Write(file, await Readable(id, state, stop));
                return Results.File(file.ToArray(), "text/html; charset=utf-8", $"{name}.html");
            case "junit":
                var open = state.Report.Findings.RemoveAll(f => state.Waivers.ContainsKey(f.Cause.Key));
                JunitReport.Write(file, state.Scene, state.Report with { Findings = open }, Severity.Blocker);
                return Results.File(file.ToArray(), "application/xml", $"{name}.junit.xml");
            default:
                SarifLog.Write(
                    file,
                    state.Scene,
                    state.Report,
                    typeof(AuditEndpoints).Assembly.GetName().Version!.ToString(3),
                    state.Waivers
                );
                return Results.File(file.ToArray(), "application/sarif+json", $"{name}.sarif");
        }
    }

    private async Task<ReadableScene> Readable(Guid id, AuditState state, CancellationToken stop)
    {
        var arrival = state.Current.Arrival;
        return new(await scenes.Title(id, stop), state.Scene, state.Report, state.Current.Ledger, DateTimeOffset.UtcNow)
        {
            Arrived = FormattableString.Invariant(
                $"Version {arrival.Version}, arrived {arrival.ArrivedAt:d MMMM yyyy} from {arrival.Source}."
            ),
            Waivers = state.Waivers,
            Marks = await Still(id, state, stop),
            Proofs = [.. (await packages.Of(id, stop)).Select(Proof)],
            Swatch = material => Swatch(state, material),
            Picture = key =>
                state.Scene.Answer(key) is { Resolved: { } path, Stamp: { } stamp }
                    ? Made(disk.Picture(path, stamp, IPictureStore.Side))
                    : null,
        };
    }

    /// <summary>Marks of materials that are still there and look as they did.</summary>
    private async Task<IReadOnlyList<MaterialMark>> Still(Guid id, AuditState state, CancellationToken stop)
    {
        var looks = MeasuredLook.Of(state.Current.Report).ToLookup(l => state.Scene.NameOf(l.Material), l => l.Print);
        return [.. (await marks.Read(id, stop)).Values.Where(m => looks[m.Material].Contains(m.Look))];
    }

    /// <summary>What the stages have shown already: a report waits for no worker.</summary>
    private byte[]? Swatch(AuditState state, string material) =>
        SwatchOrder
            .Sides.OrderDescending()
            .Select(side => SwatchEndpoints.Order(state.Current.Report, material, null, side))
            .OfType<SwatchOrder>()
            .Select(order => Made(SwatchEndpoints.Place(order, disk).Output))
            .FirstOrDefault(png => png is not null);

    private static byte[]? Made(string path) => File.Exists(path) && new FileInfo(path).Length > 0 ? File.ReadAllBytes(path) : null;

    private static ReadableProof Proof(PackageRow p) =>
        new(
            p.Name,
            p.BuiltAt,
            p.Files,
            p.BytesAfter,
            p.Resolved,
            p.Unresolved,
            p is { DeltaEMean: { } mean, DeltaEMost: { } most }
                ? FormattableString.Invariant($"mean ΔE {mean:0.00}, largest {most:0.0}")
                : p.NoFrames ?? "not drawn"
        );
}
