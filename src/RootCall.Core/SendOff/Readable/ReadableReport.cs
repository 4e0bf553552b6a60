using System.Globalization;
using System.Text;
using System.Xml;
using System.Xml.Linq;
using RootCall.Core.Audit;
using RootCall.Core.Bench;
using RootCall.Core.Edits;
using RootCall.Core.Muster;

namespace RootCall.Core.SendOff;

/// <summary>
/// A report for people: one HTML file with its pictures in it, that opens anywhere and prints. Arrival, muster, findings, waivers, edits
/// and proofs, in the order they came about; long lists are cut, and say by how much.
/// </summary>
public static class ReadableReport
{
    private const int CausesShown = 60;
    private const int MembersShown = 12;
    private const int PicturesShown = 6;
    private const int RowsShown = 200;

    public static void Write(Stream to, ReadableScene scene)
    {
        var open = scene.Found.Causes.Where(c => !scene.Waivers.ContainsKey(c.Cause.Key)).ToList();
        var page = new XElement(
            "html",
            new XAttribute("lang", "en"),
            new XElement(
                "head",
                new XElement("meta", new XAttribute("charset", "utf-8")),
                new XElement("title", $"{scene.Title}: report"),
                new XElement("style", Style)
            ),
            new XElement(
                "body",
                Head(scene, open),
                Findings(scene, open),
                Waived(scene),
                Marks(scene),
                Muster(scene),
                Edits(scene),
                Proofs(scene)
            )
        );
        using var writer = XmlWriter.Create(
            to,
            new()
            {
                OmitXmlDeclaration = true,
                Encoding = new UTF8Encoding(false),
                Indent = true,
                CheckCharacters = false,
            }
        );
        writer.WriteRaw("<!doctype html>\n");
        page.WriteTo(writer);
    }

    private static object[] Head(ReadableScene scene, List<CauseGroup> open)
    {
        var report = scene.Audit.Report;
        var counts = report.Scene.Counts;
        int Open(Severity severity) => open.Where(c => c.Severity == severity).Sum(c => c.Findings.Length);
        return
        [
            new XElement("h1", scene.Title),
            P(
                $"{report.Scene.Format.Name}. {scene.Arrived} For {scene.Audit.Destination.Name}. Reported {Time(scene.At)}.".Replace(
                    "  ",
                    " "
                )
            ),
            P(
                $"{N(counts.Nodes)} nodes, {N(counts.Meshes)} meshes, {N(counts.Triangles)} triangles, {N(counts.Materials)} materials, "
                    + $"{N(report.References.Length)} references."
            ),
            new XElement(
                "ul",
                new XAttribute("class", "sums"),
                Sum("block the render", Open(Severity.Blocker)),
                Sum("warnings", Open(Severity.Warning)),
                Sum("notes", Open(Severity.Note)),
                Sum("calls that nobody answers", report.References.Length - report.Answering),
                Sum("entries applied", scene.Ledger.Applied.Count()),
                Sum("pending", scene.Ledger.Pending.Count())
            ),
            P(scene.Found.Coverage.Sentence),
            .. report.Scene.Notes.Take(MembersShown).Select(n => P($"{n.Message} ({n.Place})", "quiet")),
        ];
    }

    private static object[] Findings(ReadableScene scene, List<CauseGroup> open) =>
        [
            H2("Findings"),
            .. open.Count == 0 ? [P("Nothing is open.")] : open.Take(CausesShown).Select(c => Cause(scene, c)),
            .. More(open.Count - CausesShown, "causes"),
        ];

    private static XElement Cause(ReadableScene scene, CauseGroup cause)
    {
        var rule = RuleCatalog.Find(cause.Rule)?.Descriptor;
        var first = cause.Clearest;
        return new(
            "section",
            new XAttribute("class", cause.Severity.Word()),
            new XElement("h3", $"{cause.Severity.Word()}: {cause.Cause.Sentence(cause.Findings.Length)}"),
            P($"{rule?.Expects} {rule?.Why}".Trim()),
            Pictures(scene, cause),
            new XElement(
                "ul",
                cause.Findings.Take(MembersShown).Select(f => new XElement("li", f.Message)),
                cause.Findings.Length > MembersShown ? new XElement("li", $"and {N(cause.Findings.Length - MembersShown)} more") : null
            ),
            P(first.Fixes is [var fix, ..] ? $"What would mend it: {fix.Title}." : first.Decide ?? string.Empty),
            P($"Rule {cause.Rule}. {rule?.Source}", "quiet")
        );
    }

    private static XElement? Pictures(ReadableScene scene, CauseGroup cause)
    {
        var shown = new List<XElement>();
        foreach (var finding in cause.Findings.DistinctBy(f => f.Target.Name).Take(PicturesShown))
        {
            var png = finding.Target.Material is { } material ? scene.Swatch(material) : null;
            var image = finding
                .Evidence.Select(e => e is PictureEvidence p ? p.Image : (e as WireEvidence)?.Image)
                .FirstOrDefault(k => k is not null);
            foreach (
                var (bytes, name) in new[] { (png, finding.Target.Name), (image is { } key ? scene.Picture(key) : null, image?.Written) }
            )
                if (bytes is { Length: > 0 })
                    shown.Add(Figure(bytes, Path.GetFileName(name!.Replace('\\', '/'))));
        }

        return shown.Count == 0 ? null : new("div", new XAttribute("class", "field"), shown);
    }

    private static object[] Waived(ReadableScene scene)
    {
        var waived = scene.Found.Causes.Where(c => scene.Waivers.ContainsKey(c.Cause.Key)).ToList();
        return waived.Count == 0
            ? []
            :
            [
                H2("Let stand"),
                Table(
                    ["What", "Why", "Since"],
                    waived.Select(c =>
                        new[]
                        {
                            c.Cause.Sentence(c.Findings.Length),
                            scene.Waivers[c.Cause.Key].Reason,
                            Time(scene.Waivers[c.Cause.Key].At),
                        }
                    )
                ),
            ];
    }

    /// <summary>What is not right comes with its picture; what was seen and is right is a number.</summary>
    private static object[] Marks(ReadableScene scene)
    {
        if (scene.Marks.Count == 0)
            return [];
        var wrong = scene.Marks.Where(m => m.Kind == MarkKind.Wrong).OrderBy(m => m.Material, StringComparer.Ordinal).ToList();
        var figures = wrong
            .Take(PicturesShown * 2)
            .Select(m => (m.Material, Png: scene.Swatch(m.Material)))
            .Where(m => m.Png is { Length: > 0 })
            .Select(m => Figure(m.Png!, m.Material))
            .ToList();
        return
        [
            H2("Looked at"),
            P($"{N(scene.Marks.Count)} of {N(scene.Audit.Materials.Length)} materials were looked at; {N(wrong.Count)} are not right."),
            .. figures.Count == 0 ? [] : new object[] { new XElement("div", new XAttribute("class", "field"), figures) },
            .. wrong.Count == 0
                ? []
                : new object[]
                {
                    Table(
                        ["Material", "What is not right", "Since"],
                        wrong.Take(RowsShown).Select(m => new[] { m.Material, m.Word, Time(m.At) })
                    ),
                },
            .. More(wrong.Count - RowsShown, "materials"),
        ];
    }

    private static object[] Muster(ReadableScene scene)
    {
        var report = scene.Audit.Report;
        var left = report.References.Where(r => !r.State.Answers()).ToList();
        return
        [
            H2("Muster"),
            P(
                string.Join(", ", report.Totals.Where(t => t.Value > 0).Select(t => $"{N(t.Value)} {t.Key.Word()}"))
                    is { Length: > 0 } totals
                    ? $"{totals}."
                    : "The scene calls for nothing."
            ),
            .. left.Count == 0
                ? []
                : new object[]
                {
                    Table(
                        ["Called", "State", "Worn by"],
                        left.Take(RowsShown)
                            .Select(r =>
                                new[]
                                {
                                    CalledNow.Of(r, report.Scene),
                                    r.Damage is null ? r.State.Word() : $"{r.State.Word()}: {r.Damage}",
                                    string.Join(", ", r.Reference.UsedBy.Select(u => u.Material).Distinct().Take(4)),
                                }
                            )
                    ),
                },
            .. More(left.Count - RowsShown, "references"),
        ];
    }

    private static object[] Edits(ReadableScene scene) =>
        scene.Ledger.Entries.IsEmpty
            ? []
            :
            [
                H2("Edits"),
                Table(
                    ["What", "State", "Edits", "By", "At"],
                    scene
                        .Ledger.Entries.Take(RowsShown)
                        .Select(e =>
                            new[]
                            {
                                e.Sentence,
                                e.State == EntryState.Applied ? "applied" : "pending",
                                N(e.Edits.Length),
                                e.ProposedBy,
                                Time(e.At),
                            }
                        )
                ),
                .. More(scene.Ledger.Entries.Length - RowsShown, "entries"),
            ];

    private static object[] Proofs(ReadableScene scene) =>
        scene.Proofs.Count == 0
            ? []
            :
            [
                H2("Packages, opened again alone"),
                Table(
                    ["Package", "Built", "Files", "Bytes", "Resolve inside", "Frames"],
                    scene.Proofs.Select(p =>
                        new[]
                        {
                            p.Name,
                            Time(p.BuiltAt),
                            N(p.Files),
                            N(p.Bytes),
                            $"{N(p.Resolved)} of {N(p.Resolved + p.Unresolved.Count)}",
                            p.Frames,
                        }
                    )
                ),
                .. scene.Proofs.SelectMany(p => p.Unresolved).Distinct().Take(MembersShown).Select(u => P(u, "quiet")),
            ];

    private static XElement Figure(byte[] png, string name) =>
        new(
            "figure",
            new XElement("img", new XAttribute("alt", name), new XAttribute("src", $"data:image/png;base64,{Convert.ToBase64String(png)}")),
            new XElement("figcaption", name)
        );

    private static XElement Table(string[] heads, IEnumerable<string[]> rows) =>
        new(
            "table",
            new XElement("thead", new XElement("tr", heads.Select(h => new XElement("th", h)))),
            new XElement("tbody", rows.Select(r => new XElement("tr", r.Select(c => new XElement("td", c)))))
        );

    private static XElement H2(string text) => new("h2", text);

    private static XElement P(string text, string? kind = null) => new("p", kind is null ? null : new XAttribute("class", kind), text);

    private static XElement Sum(string what, int count) => new("li", new XElement("b", N(count)), $" {what}");

    private static IEnumerable<object> More(int count, string what) => count > 0 ? [P($"and {N(count)} more {what}", "quiet")] : [];

    private static string N(long n) => n.ToString("N0", CultureInfo.InvariantCulture);

    private static string Time(DateTimeOffset at) => at.ToString("d MMMM yyyy, HH:mm 'UTC'zzz", CultureInfo.InvariantCulture);

    private const string Style = """
        body { font: 14px/1.45 system-ui, sans-serif; max-width: 980px;
          margin: 32px auto; padding: 0 24px; color: #1c1c1c; background: #fff; }
        h1 { font-size: 24px; margin: 0; } h2 { font-size: 18px; margin: 32px 0 8px; border-top: 2px solid #1c1c1c; padding-top: 8px; }
        h3 { font-size: 15px; margin: 18px 0 2px; } p { margin: 2px 0; } ul { margin: 4px 0; padding-left: 20px; }
        .quiet { color: #616161; font-size: 12px; } .sums { display: flex; flex-wrap: wrap; gap: 4px 28px; margin: 14px 0; padding: 0; }
        .sums li { list-style: none; } .sums b { font-size: 18px; }
        section { break-inside: avoid; border-left: 3px solid #b9b9b9; padding-left: 12px; margin: 10px 0; }
        section.blocker { border-left-color: #1c1c1c; }
        .field { background: #767676; padding: 8px; display: flex; flex-wrap: wrap; gap: 10px; }
        figure { margin: 0; width: 112px; } figure img { width: 112px; height: 112px; object-fit: contain; display: block; }
        figcaption { font-size: 11px; color: #fff; overflow-wrap: anywhere; }
        table { border-collapse: collapse; width: 100%; font-size: 12.5px; } th { text-align: left; font-weight: 600; }
        td, th { border-top: 1px solid #dcdcdc; padding: 3px 10px 3px 0; vertical-align: top; overflow-wrap: anywhere; }
        """;
}
