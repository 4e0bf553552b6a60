using System.Globalization;
using System.Text;
using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;
using RootCall.Core.Imaging;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Bench;

/// <summary>Edits of a scene of 2,000 materials, beside reading that scene: what it costs to show a change.</summary>
internal static class SessionBench
{
    private const int Materials = 2_000;
    private const int Entries = 200;
    private const int Fixed = 500;

    public static void Run(Place place)
    {
        var path = place.Put("session/large.mtlx", Text());
        var context = Look.Context(path);
        var session = TestSession.Open(path, context);
        var reading = Measure.Best(() => Look.Read(path));
        var ledger = Enumerable.Range(0, Entries).Select(i => Entry(Value(i, 0.1 + (i * 0.001)))).ToList();
        Measure.Print($"applying {Entries} entries", Measure.Best(() => session.With(ledger)), "reading the scene", reading);
        var applied = session.With(ledger);
        Measure.Print("one undo", Measure.Best(() => applied.With(ledger[..^1])), "reading the scene", reading);
        var fix = Entry([.. Enumerable.Range(0, Fixed).Select(i => Value(i, 0.5))]);
        Measure.Print($"preview of a fix for {Fixed} materials", Measure.Best(() => applied.And(fix)), "reading the scene", reading);
        var turn = 0;
        Measure.Print(
            "a value dragged, one step",
            Measure.Best(() => applied.And(Entry(Value(7, ++turn * 0.01)))),
            "a frame of 33 ms",
            33.0
        );
        var (house, going) = (HouseRules.Standard, DestinationFiles.Open("lantern-headset"));
        var pixels = new Dictionary<string, PixelStats>();
        var memory = new AuditMemory();
        AuditRun.Make(new AuditScene(applied.Report, pixels, going, house), memory);
        Measure.Print(
            "audit after one edit, the edit with it",
            Measure.Best(() =>
                AuditRun.Make(new AuditScene(applied.And(Entry(Value(7, ++turn * 0.01))).Report, pixels, going, house), memory)
            ),
            "audit of all",
            Measure.Best(() => AuditRun.Make(new AuditScene(applied.Report, pixels, going, house)))
        );
    }

    private static SetValue Value(int material, double value) =>
        new($"m{material.ToString("0000", CultureInfo.InvariantCulture)}", "specular_roughness", null, ShaderValue.Of(value));

    private static LedgerEntry Entry(params Edit[] edits) =>
        new(Guid.NewGuid(), "bench", [.. edits], EntryState.Applied, "bench", DateTimeOffset.UnixEpoch);

    private static string Text()
    {
        var text = new StringBuilder("<?xml version=\"1.0\"?>\n<materialx version=\"1.38\">\n");
        for (var i = 0; i < Materials; i++)
        {
            var name = string.Create(CultureInfo.InvariantCulture, $"m{i:0000}");
            foreach (var (map, type, input) in Maps)
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"  <image name=\"{name}_{map}\" type=\"{type}\">\n    <input name=\"file\" type=\"filename\" "
                        + $"value=\"maps/{name}_{map}.png\" />\n  </image>\n"
                );
            text.Append(CultureInfo.InvariantCulture, $"  <standard_surface name=\"SR_{name}\" type=\"surfaceshader\">\n");
            foreach (var (map, type, input) in Maps)
                text.Append(CultureInfo.InvariantCulture, $"    <input name=\"{input}\" type=\"{type}\" nodename=\"{name}_{map}\" />\n");
            text.Append(
                CultureInfo.InvariantCulture,
                $"    <input name=\"specular_roughness\" type=\"float\" value=\"0.4\" />\n  </standard_surface>\n"
                    + $"  <surfacematerial name=\"{name}\" type=\"material\">\n"
                    + $"    <input name=\"surfaceshader\" type=\"surfaceshader\" nodename=\"SR_{name}\" />\n  </surfacematerial>\n"
            );
        }

        return text.Append("</materialx>\n").ToString();
    }

    private static readonly (string Map, string Type, string Input)[] Maps =
    [
        ("basecolor", "color3", "base_color"),
        ("metalness", "float", "metalness"),
    ];
}
