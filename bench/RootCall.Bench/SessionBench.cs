using System.Globalization;
using System.Text;
using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Bench;

/// <summary>Edits of a scene of 2,000 materials, beside reading that scene: what it costs to show a change.</summary>
internal static class SessionBench
{
    private const int Materials = 2_000;
    private const int Entries = 200;
    private const int Fixed = 500;
    private const int PerSecond = 30;
    private const int Parts = 20;
    private const int Side = 1_000;

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
        Dragged(place);
        var (house, going) = (HouseRules.Standard, DestinationFiles.Open("lantern-headset"));
        var pixels = new Dictionary<FileState, PixelStats>();
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

    /// <summary>A value dragged for a second on a scene of a million triangles whose files are gone: nothing asks a disk.</summary>
    private static void Dragged(Place place)
    {
        var path = place.Put("heavy/heavy.obj", Mesh());
        place.Put("heavy/heavy.mtl", string.Concat(Enumerable.Range(0, Parts).Select(i => $"newmtl m{i:00}\nKd 0.8 0.8 0.8\nPr 0.4\n")));
        var session = TestSession.Open(path, Look.Context(path));
        Directory.Delete(Path.GetDirectoryName(path)!, recursive: true);
        Measure.Print(
            $"{PerSecond} changes of a value, {session.Report.Scene.Counts.Triangles:N0} triangles, no file there any more",
            Measure.Best(() =>
            {
                for (var i = 0; i < PerSecond; i++)
                {
                    var now = session.And(Entry(new SetValue("m07", "Pr", ShaderValue.Of(0.4), ShaderValue.Of(i / (double)PerSecond))));
                    if (!now.Refused.IsEmpty)
                        throw new InvalidOperationException(now.Refused[0].Reason);
                }
            }),
            "a second",
            1000
        );
    }

    private static string Mesh()
    {
        var text = new StringBuilder("mtllib heavy.mtl\n");
        for (var v = 0; v <= Side * Side; v++)
            text.Append(CultureInfo.InvariantCulture, $"v {v % Side} {v / Side} 0\n");
        for (var part = 0; part < Parts; part++)
        {
            text.Append(CultureInfo.InvariantCulture, $"g part{part:00}\nusemtl m{part:00}\n");
            for (var f = part * Side * Side / Parts; f < (part + 1) * Side * Side / Parts; f++)
                text.Append(CultureInfo.InvariantCulture, $"f {f + 1} {f + 2} {Math.Max(1, f + 1 - Side)}\n");
        }

        return text.ToString();
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
