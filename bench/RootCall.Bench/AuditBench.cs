using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Testing;

namespace RootCall.Bench;

/// <summary>Auditing a large scene with everything known of its images, beside reading the same scene.</summary>
internal static class AuditBench
{
    private const int Materials = 2_000;
    private const int Images = 5_000;

    public static void Run(Place place)
    {
        var path = place.Put("audit/large.mtlx", Text(place));
        var report = Look.Muster(path);
        // Statistics as they would have been measured: a grey map, and a normal map.
        var grey = PixelStats.Of(new(8, 8, 1, [.. Enumerable.Range(0, 64).Select(i => i / 64f)]));
        var normal = PixelStats.Of(new(8, 8, 3, [.. Enumerable.Range(0, 64).SelectMany(i => new[] { 0.5f + (i / 640f), 0.5f, 0.99f })]));
        var pixels = report
            .References.Where(r => r.Resolved is not null)
            .ToImmutableDictionary(
                r => new FileState(r.Resolved!, r.Stamp!.Value),
                r => r.Reference.Written.Contains("normal", StringComparison.Ordinal) ? normal : grey
            );
        AuditScene Scene(MusterReport r) => new(r, pixels, DestinationFiles.Open("lantern-headset"), HouseRules.Standard);
        var found = AuditRun.Make(Scene(report));
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"             {report.Scene.Materials.Length:N0} materials, {report.References.Length:N0} images, "
                    + $"{RuleCatalog.All.Length} rules: {found.Findings.Length:N0} findings of {found.Causes.Count():N0} causes"
            )
        );
        var reading = Measure.Best(() => Look.Read(path));
        Measure.Print("audit with warm facts", Measure.Best(() => AuditRun.Make(Scene(report))), "reading the scene", reading);
        var memory = new AuditMemory();
        AuditRun.Make(Scene(report), memory);
        var one = report.Scene.Materials[7];
        var surface = one.Graph.SurfaceNode!;
        var edited = one with
        {
            Graph = one.Graph with
            {
                Nodes = one.Graph.Nodes.Replace(
                    surface,
                    surface with
                    {
                        Inputs = surface.Inputs.Add(new("coat", Core.Shading.InputType.Float, Core.Scenes.ShaderValue.Of(0.3))),
                    }
                ),
            },
        };
        var after = report with { Scene = report.Scene with { Materials = report.Scene.Materials.SetItem(7, edited) } };
        var turn = false;
        Measure.Print(
            "audit after an edit of one material",
            Measure.Best(() => AuditRun.Make(Scene((turn = !turn) ? after : report), memory)),
            "audit of all",
            Measure.Best(() => AuditRun.Make(Scene(report)))
        );
        Missing(place);
        Precision();
    }

    /// <summary>A library whose maps did not come: names alone are left to compare.</summary>
    private static void Missing(Place place)
    {
        var (library, scene) = (
            new StringBuilder(),
            new StringBuilder("mtllib bare.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\n")
        );
        for (var i = 0; i < 3_000; i++)
        {
            library.Append(CultureInfo.InvariantCulture, $"newmtl tin_{i}\n");
            foreach (
                var (statement, role) in new[]
                {
                    ("map_Kd", "basecolor"),
                    ("norm", "normal"),
                    ("map_Pr", "roughness"),
                    ("map_Pm", "metalness"),
                }
            )
                library.Append(CultureInfo.InvariantCulture, $"{statement} gone/tin_{i}_{role}.png\n");
            scene.Append(CultureInfo.InvariantCulture, $"o lid_{i}\nusemtl tin_{i}\nf 1/1 2/2 3/3\n");
        }

        place.Put("audit/bare.mtl", library.ToString());
        var path = place.Put("audit/bare.obj", scene.ToString());
        var report = Look.Muster(path);
        AuditScene Scene() => new(report, ImmutableDictionary<FileState, PixelStats>.Empty, Destination.Plain, HouseRules.Standard);
        Measure.Print(
            "3,000 materials, 12,000 missing maps",
            Measure.Best(() => AuditRun.Make(Scene())),
            "reading the scene",
            Measure.Best(() => Look.Read(path))
        );
    }

    /// <summary>What is found in the demo at blocker and warning level, beside its answer key.</summary>
    private static void Precision()
    {
        var demo = new DemoPlace();
        var (right, found, planted) = (0, 0, 0);
        foreach (var answer in demo.Answers())
        {
            var told = Audits
                .OpenRelinked(answer.Arrived, demo.Library)
                .Report.Findings.Where(f => f.Severity >= Severity.Warning)
                .Select(f => $"{f.Rule}: {f.Target}")
                .ToList();
            right += told.Count(answer.Findings.Contains);
            found += told.Count;
            planted += answer.Findings.Count;
        }

        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"             demo: {planted} planted faults; precision {(double)right / found:0.000}, recall "
                    + $"{(double)right / planted:0.000}"
            )
        );
    }

    private static string Text(Place place)
    {
        var text = new StringBuilder("<?xml version=\"1.0\"?>\n<materialx version=\"1.38\">\n");
        var png = Pictures.Png(4, 4, 128);
        string[] roles = ["basecolor", "roughness", "normal"];
        for (var i = 0; i < Images; i++)
            place.Put($"audit/maps/thing{i / 3:0000}_{roles[i % 3]}.png", png);
        for (var m = 0; m < Materials; m++)
        {
            var set = m % (Images / 3);
            for (var r = 0; r < 3; r++)
            {
                var (type, space) = (
                    r == 0 ? "color3"
                    : r == 1 ? "float"
                    : "vector3",
                    r == 0 ? " colorspace=\"srgb_texture\"" : string.Empty
                );
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"<image name=\"i{m}_{r}\" type=\"{type}\"><input name=\"file\" type=\"filename\" "
                        + $"value=\"maps/thing{set:0000}_{roles[r]}.png\"{space}/></image>\n"
                );
            }

            text.Append(
                CultureInfo.InvariantCulture,
                $"<normalmap name=\"n{m}\" type=\"vector3\"><input name=\"in\" type=\"vector3\" "
                    + $"nodename=\"i{m}_2\"/></normalmap>\n<standard_surface name=\"s{m}\" type=\"surfaceshader\"><input "
                    + $"name=\"base_color\" type=\"color3\" nodename=\"i{m}_0\"/><input "
                    + $"name=\"{(m % 10 == 0 ? "subsurface" : "specular_roughness")}\" type=\"float\" "
                    + $"nodename=\"i{m}_1\"/><input name=\"normal\" type=\"vector3\" nodename=\"n{m}\"/><input "
                    + $"name=\"specular\" type=\"float\" "
                    + $"value=\"{0.2 + (m * 0.0003)}\"/></standard_surface>\n<surfacematerial name=\"m{m}\" "
                    + $"type=\"material\"><input name=\"surfaceshader\" type=\"surfaceshader\" nodename=\"s{m}\"/></surfacematerial>\n"
            );
        }

        return text.Append("</materialx>\n").ToString();
    }
}
