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
    private const int Rungs = 7;
    private const int LinesShown = 60;

    public static AuditView View(AuditState state)
    {
        var causes = state.Report.Causes.Select(c => Cause(state, c)).ToList();
        var open = causes.Where(c => c.Waived is null).ToList();
        int Sum(string severity) => open.Where(c => c.Severity == severity).Sum(c => c.Count);
        return new(
            Destination(state.Scene.Destination),
            state.Measured,
            state.ToMeasure,
            open.Sum(c => c.Count),
            Sum("blocker"),
            Sum("warning"),
            Sum("note"),
            Audits.Picked(state, new(null, null, true, null)).Count,
            causes,
            state.Report.Failed
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
        // The clearest is the one that says most: the surest fix, then the most evidence.
        var shown = group.Findings.FirstOrDefault(f => f.Key == member)
            ?? group
                .Findings.OrderByDescending(f => f.Fixes.FirstOrDefault()?.Confidence ?? 0)
                .ThenByDescending(f => f.Evidence.Length)
                .First();
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
                MaterialOf(f),
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

    private static string? MaterialOf(Finding f) => f.Target.Kind is "material" or "input" ? f.Target.Name : null;

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
        if (MaterialOf(finding) is { } name && state.Scene.Called(name)?.Role(Role.BaseColour)?.Maps is [{ Answer: { } paint }, ..])
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
            && MaterialOf(finding) is { } name
            && state.Scene.Called(name)?.Role(Role.BaseColour)?.Maps is [{ } paint, ..]
        )
            images.Add(Image(id, state, paint.Use.Reference, null));
        return new(
            finding.Evidence.OfType<WireEvidence>().Select(w => new WireItem(NameOf(state, w.Image), w.Channels.Word(), w.Now, w.After)),
            Rail(state, finding),
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

    private static string Words(ImageFacts f) =>
        $"{(f.IsFloat ? f.BitDepth == 16 ? "half" : "float" : $"{f.BitDepth} bit")}, "
        + $"{f.Channels switch { 1 => "one channel", 2 => "two channels", 3 => "three channels", _ => "four channels" }}";

    private static string? Url(Guid id, AuditState state, ReferenceKey key)
    {
        if (state.Scene.Answer(key) is not { } answer)
            return UrlOfPath(id, state, key.Written);
        var picture = $"/api/scenes/{id}/references/{answer.Number}/picture";
        return answer.Resolved is not null || answer.Reference.Carried is not null ? picture
            : answer.Candidates.IsEmpty ? null
            : $"{picture}?candidate=0";
    }

    private static string? UrlOfPath(Guid id, AuditState state, string path)
    {
        var at = state.Current.Report.Beside.Select((b, i) => (b.Path, i)).FirstOrDefault(b => b.Path == path);
        if (at.Path is not null)
            return $"/api/scenes/{id}/beside/{at.i}/picture";
        return state.Current.Report.References.FirstOrDefault(r => r.Resolved == path) is { } reference
            ? $"/api/scenes/{id}/references/{reference.Number}/picture"
            : null;
    }

    /// <summary>The inputs of the material in question: those that the finding and its fix touch, and what else is set.</summary>
    private static List<RailItem> Rail(AuditState state, Finding finding)
    {
        if (MaterialOf(finding) is not { } name || state.Scene.Called(name) is not { } material)
            return [];
        var edits = finding.Fixes.FirstOrDefault()?.Edits.ToList() ?? [];
        var touched = edits
            .Select(InputOf)
            .OfType<string>()
            .Concat(finding.Evidence.OfType<WireEvidence>().SelectMany(w => new[] { w.Now, w.After }))
            .Append(finding.Target.Part)
            .OfType<string>()
            .ToHashSet(StringComparer.Ordinal);
        var order = material.Model?.Inputs.Select(i => i.Name).Concat(material.Inputs.Select(i => i.Name)).Distinct().ToList()
            ?? [.. material.Inputs.Select(i => i.Name)];
        var set = material
            .Inputs.Where(i => i.IsConnected || i.Input.Value is not null)
            .Select(i => i.Name)
            .ToHashSet(StringComparer.Ordinal);
        var shown = order
            .Where(touched.Contains)
            .Concat(order.Where(n => set.Contains(n) && !touched.Contains(n)))
            .Take(Rungs)
            .ToHashSet(StringComparer.Ordinal);
        return
        [
            .. order
                .Where(shown.Contains)
                .Select(n => new RailItem(
                    n,
                    material.Input(n)?.Maps is [var map, ..] ? map.FileText : null,
                    Now(material, edits, n),
                    After(material, edits, n, state)
                )),
        ];
    }

    private static string? InputOf(Edit edit) =>
        edit switch
        {
            SetImage i => i.Input,
            SetValue v => v.Input,
            _ => null,
        };

    /// <summary>In these formats a value beside an image multiplies it; in a graph it would take its place.</summary>
    private static bool Multiplied(MaterialView material, string name) =>
        (material.IsGltf || material.Type.StartsWith("mtl-", StringComparison.Ordinal)) && material.Input(name)?.IsConnected == true;

    /// <summary>How an image is read, where that and not the image changes.</summary>
    private static (string Now, string After)? Setting(Edit? edit)
    {
        if (edit is not SetImage { From: { } a, To: { } b } || a.Reference != b.Reference)
            return null;
        static string Space(ImageUse u) =>
            u.DeclaredSpace.Length > 0 ? u.DeclaredSpace
            : u.EffectiveSpace != ColourSpace.Unsaid ? u.EffectiveSpace.Word()
            : "undeclared";
        static string List(IReadOnlyList<double> n, string standard) =>
            n.Count == 0 ? standard : string.Join(' ', n.Select(v => v.ToString("0.##", CultureInfo.InvariantCulture)));
        if (a.UvSet != b.UvSet)
            return ($"UV set {a.UvSet}", $"UV set {b.UvSet}");
        if (a.DeclaredSpace != b.DeclaredSpace)
            return ($"read as {Space(a)}", $"read as {Space(b)}");
        if (a.Channels != b.Channels)
            return ($"channels {a.Channels.Word()}", $"channel {b.Channels.Word()}");
        if (a.WrapU != b.WrapU || a.WrapV != b.WrapV)
            return ($"wraps: {Wrap(a)}", $"wraps: {Wrap(b)}");
        if (a.Transform != b.Transform)
            return (
                $"repeats {a.Transform.ScaleU:0.##} x {a.Transform.ScaleV:0.##}",
                $"repeats {b.Transform.ScaleU:0.##} x {b.Transform.ScaleV:0.##}"
            );
        return ($"scale {List(a.Scale, "1")}, bias {List(a.Bias, "0")}", $"scale {List(b.Scale, "1")}, bias {List(b.Bias, "0")}");
    }

    private static string Wrap(ImageUse use) =>
        use.WrapU == WrapMode.FromFile ? "as the file says" : use.WrapU.ToString().ToLowerInvariant();

    private static string Now(MaterialView material, List<Edit> edits, string name)
    {
        if (Setting(edits.FirstOrDefault(e => InputOf(e) == name)) is { } setting)
            return setting.Now;
        if (Multiplied(material, name) && edits.Any(e => e is SetValue v && v.Input == name))
            return $"the map times {Numbers(material.Input(name)!.Factor?.Numbers ?? material.Input(name)!.Input.Default?.Numbers ?? [])}";
        var input = material.Input(name);
        if (input?.Maps is [var map, ..])
            return map.Stats is { } stats && map.Channel.IsOne()
                ? string.Create(CultureInfo.InvariantCulture, $"the map, mean {stats.Mean:0.##}")
                : map.FileText;
        if (input?.Input.Effective?.Text is { } text)
            return text;
        return Numbers(input?.Numbers ?? material.Model?.Input(name)?.Default ?? []);
    }

    private static string? After(MaterialView material, List<Edit> edits, string name, AuditState state)
    {
        foreach (var edit in edits.Where(e => InputOf(e) == name).Reverse())
        {
            if (Setting(edit) is { } setting)
                return setting.After;
            if (edit is SetValue { To: null } or SetImage { To: null })
                return Numbers(material.Model?.Input(name)?.Default ?? []);
            if (edit is SetValue { To: { } factor } && Multiplied(material, name))
                return $"the map times {Numbers(factor.Numbers)}";
            if (edit is SetValue { To: { } value })
                return value.Text ?? Numbers(value.Numbers);
            if (edit is SetImage { To: { } to })
                return
                    to.Channels.IsOne()
                    && state.Scene.Answer(to.Reference) is { } answer
                    && state.Scene.Pixels(answer)?.Channel(to.Channels) is { } stats
                    ? string.Create(CultureInfo.InvariantCulture, $"the map, mean {stats.Mean:0.##}")
                    : Path.GetFileName(to.Reference.Written);
        }

        return null;
    }

    private static string Numbers(IReadOnlyList<double> numbers) =>
        numbers.Count == 0 ? "default" : string.Join(' ', numbers.Select(n => n.ToString("0.00#", CultureInfo.InvariantCulture)));
}
