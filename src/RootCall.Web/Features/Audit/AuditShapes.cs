using System.Globalization;
using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;
using RootCall.Core.Imaging;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Web.Features.Audit;

/// <summary>Turns an audit into what the stage shows.</summary>
internal static class AuditShapes
{
    private const int LinesShown = 60;

    public static AuditView View(AuditState state)
    {
        var causes = state.Report.Causes.Select(c => Cause(state, c)).ToList();
        var open = causes.Where(c => c.Waived is null).ToList();
        var safe = Audits.Picked(state, new(null, null, true, null));
        int Sum(string severity) => open.Where(c => c.Severity == severity).Sum(c => c.Count);
        return new(
            Destination(state.Scene.Destination),
            state.Measured,
            state.ToMeasure,
            open.Sum(c => c.Count),
            Sum("blocker"),
            Sum("warning"),
            Sum("note"),
            safe.Count,
            causes,
            state.Report.Failed,
            state.Report.Coverage.Sentence,
            state.Report.Coverage.Open,
            state.Report.Coverage.IsFull,
            safe.Where(f => f.Target.Material is not null).CountBy(f => f.Target.Material!).ToDictionary()
        );
    }

    public static DestinationItem Destination(Destination d)
    {
        var models = d.Models.IsEmpty
            ? "any model"
            : string.Join(", ", d.Models.Take(3).Select(m => ShadingModels.Find(m)?.Name ?? m))
                + (d.Models.Length > 3 ? $" and {d.Models.Length - 3} more" : string.Empty);
        return new(
            d.Id,
            d.Name,
            d.Description,
            models,
            d.PackageBytes is { } bytes ? string.Create(CultureInfo.InvariantCulture, $"{bytes / 1e6:0.#} MB") : string.Empty,
            IsOwn(d)
        );
    }

    /// <summary>The house's, or one that ships and was changed.</summary>
    private static bool IsOwn(Destination destination) =>
        destination.Id != Core.Destinations.Destination.Plain.Id && !DestinationFiles.Shipped.Any(s => s.Equals(destination));

    public static CauseItem Cause(AuditState state, CauseGroup group)
    {
        var pending = state.PendingFixes;
        var places = group.Findings.Select(f => pending.TryGetValue(f.Key, out var place) ? place : (int?)null).ToList();
        var names = group
            .Findings.Select(f =>
                f.Target.Kind == "input" || f.Target.Part is null ? Called(state, f) : $"{Called(state, f)}, {f.Target.Part}"
            )
            .Distinct()
            .ToList();
        return new(
            group.Cause.Key,
            group.Rule,
            group.Severity.Word(),
            group.Findings.Length,
            group.Findings.Length == 1 ? group.Cause.One : group.Cause.Many,
            string.Join(", ", names.Take(3)) + (names.Count > 3 ? $" and {names.Count - 3} more" : string.Empty),
            group.Findings.Count(f => f.Fixes.Length > 0),
            group.Findings.All(f => f.Fixes is [{ IsSafe: true }, ..]),
            places.All(p => p is not null) ? places[0] : null,
            state.Waivers.GetValueOrDefault(group.Cause.Key)?.Reason
        );
    }

    public static RuleView Rule(RuleDescriptor d, HouseRules house) =>
        new(
            d.Id,
            d.Family,
            d.Title,
            (house.SeverityOf(d.Id) ?? d.Severity).Word(),
            d.Severity.Word(),
            house.IsOn(d.Id),
            d.Expects,
            d.Why,
            d.Source,
            d.Fix,
            d.Thresholds.Select(t => new ThresholdView(t.Name, house.Threshold(d.Id, t.Name) ?? t.Value, t.Value, t.Unit, t.Meaning)),
            d.Example.Format,
            d.Example.Text
        );

    public static CauseView Cause(Guid id, AuditState state, CauseGroup group, string? member)
    {
        var shown = group.Findings.FirstOrDefault(f => f.Key == member) ?? group.Clearest;
        var pending = state.PendingFixes;
        var plan = FixPlan.Make(group.Findings);
        return new(
            Cause(state, group),
            Rule(RuleCatalog.Find(group.Rule)!.Descriptor, state.Scene.House),
            group.Findings.Select(f => new MemberItem(
                f.Key,
                f.Target.Kind,
                Called(state, f),
                f.Target.Part,
                f.Message,
                f.Decide,
                f.Fixes.FirstOrDefault()?.Title,
                f.Fixes.FirstOrDefault()?.Confidence ?? 0,
                f.Target.Material,
                Picture(id, state, f),
                pending.ContainsKey(f.Key)
            )),
            shown.Key,
            Evidence(id, state, shown),
            Plot(group),
            Fix(plan)
        );
    }

    public static FixView Fix(FixPlan plan) =>
        new(
            plan.Fixed.IsEmpty ? string.Empty : plan.Fixed[0].Fixes[0].Title,
            plan.Edits.IsEmpty ? string.Empty : plan.Count(),
            plan.Edits.Length,
            plan.Fixed.IsEmpty ? 0 : plan.Fixed.Min(f => f.Fixes[0].Confidence),
            plan.Fixed.Length,
            plan.Edits.Take(LinesShown).Select(e => new EditLine(e.Word, Where(e), Short(e.Text.Before), Short(e.Text.After))),
            plan.Left.Take(LinesShown).Select(l => new LeftLine(l.Finding.Target.ToString(), l.Reason))
        );

    private static string Where(Edit edit) =>
        edit.Text.Where.Length > 0 ? edit.Text.Where
        : edit is RelinkReference r ? Path.GetFileName(r.Reference.Written)
        : string.Empty;

    private static string Short(string text) => text.StartsWith('/') ? Path.GetFileName(text) : text;

    /// <summary>A material by its name also where several share it and its id is what tells it.</summary>
    private static string Called(AuditState state, Finding f) => state.Scene.Called(f.Target.Name)?.Material.Name ?? f.Target.Name;

    private static PlotView? Plot(CauseGroup group)
    {
        var dots = group
            .Findings.Select(f => (f.Key, Number: f.Evidence.OfType<NumberEvidence>().FirstOrDefault()))
            .Where(d => d.Number is not null)
            .ToList();
        return dots.Count == 0
            ? null
            : new(
                dots[0].Number!.What,
                dots[0].Number!.Unit,
                dots[0].Number!.Low,
                dots[0].Number!.High,
                dots.Where(d => d.Number!.What == dots[0].Number!.What && double.IsFinite(d.Number.Value))
                    .Select(d => new PlotDot(d.Key, d.Number!.Value))
            );
    }

    private static string? Picture(Guid id, AuditState state, Finding finding)
    {
        // A material stands for itself by what it is painted with.
        if (finding.Target.Material is { } name && state.Scene.Called(name)?.Role(Role.BaseColour)?.Maps is [{ Answer: { } paint }, ..])
            return Url(id, state, paint.Reference.Key);
        return finding
            .Evidence.Select(e =>
                e switch
                {
                    PictureEvidence p => p.Image,
                    WireEvidence w => (ReferenceKey?)w.Image,
                    _ => null,
                }
            )
            .OfType<ReferenceKey>()
            .Select(k => Url(id, state, k))
            .FirstOrDefault(u => u is not null);
    }

    private static FoundEvidence Evidence(Guid id, AuditState state, Finding finding)
    {
        var pictures = finding
            .Evidence.OfType<PictureEvidence>()
            .Select(p => (Key: p.Image, p.Channel))
            .Concat(finding.Evidence.OfType<WireEvidence>().Select(w => (Key: w.Image, Channel: (Channels?)w.Channels)))
            .DistinctBy(p => p.Key);
        var images = pictures.Select(p => Image(id, state, p.Key, p.Channel)).ToList();
        // A finding about values shows what the material is painted with.
        if (
            images.Count == 0
            && finding.Target.Material is { } name
            && state.Scene.Called(name)?.Role(Role.BaseColour)?.Maps is [{ } paint, ..]
        )
            images.Add(Image(id, state, paint.Use.Reference, null));
        return new(
            finding.Evidence.OfType<WireEvidence>().Select(w => new WireItem(NameOf(state, w.Image), w.Channels.Word(), w.Now, w.After)),
            MaterialRail.Of(state.Scene, finding),
            finding.Evidence.OfType<ValueEvidence>(),
            images,
            finding
                .Evidence.OfType<PairEvidence>()
                .Select(p => new PairItem(
                    p.Kind,
                    p.Kind == "image" ? Path.GetFileName(p.A) : p.A,
                    p.Kind == "image" ? Path.GetFileName(p.B) : p.B,
                    p.Differ,
                    PairPicture(id, state, p.Kind, p.A),
                    PairPicture(id, state, p.Kind, p.B)
                )),
            finding.Evidence.OfType<ReadingEvidence>().SelectMany(r => r.Sums),
            finding.Evidence.OfType<TextEvidence>().Select(t => t.Text)
        );
    }

    private static string? PairPicture(Guid id, AuditState state, string kind, string name) =>
        kind == "image"
            ? UrlOfPath(id, state, name)
            : state.Scene.Called(name)?.Maps.Select(m => Url(id, state, m.Use.Reference)).FirstOrDefault(u => u is not null);

    private static string NameOf(AuditState state, ReferenceKey key) =>
        Path.GetFileName(state.Scene.Answer(key)?.Resolved ?? key.Written.Replace('\\', '/'));

    private static ImageItem Image(Guid id, AuditState state, ReferenceKey key, Channels? channel)
    {
        var answer = state.Scene.Answer(key);
        var beside = answer is null ? state.Current.Report.Beside.FirstOrDefault(b => b.Path == key.Written) : null;
        var facts = answer?.Facts ?? beside?.Facts;
        var pixels =
            answer is not null ? state.Scene.Pixels(answer)
            : beside is not null ? state.Scene.Pixels(new FileState(beside.Path, beside.Stamp))
            : null;
        var stats = pixels?.Channel(channel ?? Channels.Rgb);
        return new(
            NameOf(state, key),
            Url(id, state, key),
            facts?.Width,
            facts?.Height,
            facts is null ? string.Empty : Words(facts),
            (channel ?? Channels.Rgb).Word(),
            stats?.Histogram,
            stats?.Min,
            stats?.Mean,
            stats?.Max,
            pixels?.Grey > 0.98
        );
    }

    public static string Words(ImageFacts f) =>
        $"{(f.IsFloat ? f.BitDepth == 16 ? "half" : "float" : $"{f.BitDepth} bit")}, "
        + $"{f.Channels switch { 1 => "one channel", 2 => "two channels", 3 => "three channels", _ => "four channels" }}";

    public static string? Url(Guid id, AuditState state, ReferenceKey key)
    {
        if (state.Scene.Answer(key) is not { } answer)
            return UrlOfPath(id, state, key.Written);
        var picture = $"/api/scenes/{id}/references/{answer.Number}/picture";
        return answer.Resolved is not null || answer.Reference.Carried is not null ? picture
            : answer.Candidates.IsEmpty ? null
            : $"{picture}?candidate=0";
    }

    public static string? UrlOfPath(Guid id, AuditState state, string path)
    {
        var at = state.Current.Report.Beside.Select((b, i) => (b.Path, i)).FirstOrDefault(b => b.Path == path);
        if (at.Path is not null)
            return $"/api/scenes/{id}/beside/{at.i}/picture";
        return state.Current.Report.References.FirstOrDefault(r => r.Resolved == path) is { } reference
            ? $"/api/scenes/{id}/references/{reference.Number}/picture"
            : null;
    }
}
