using System.Text;
using System.Text.Json;
using System.Xml.Linq;
using RootCall.Core.Audit;
using RootCall.Core.Audit.Output;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit;

/// <summary>How much was looked at is part of every answer.</summary>
public sealed class CoverageTests : IDisposable
{
    private readonly Place place = new();

    private string Scene(string library)
    {
        place.PutPng("textures/tin_basecolor.png", 90);
        place.Put("tin.mtl", library);
        return place.Put("tin.obj", "mtllib tin.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nusemtl tin\nf 1/1 2/2 3/3\n");
    }

    [Fact]
    public void Maps_that_did_not_come_leave_checks_open_and_every_report_says_so()
    {
        var path = Scene(
            "newmtl tin\nmap_Kd textures/tin_basecolor.png\nnorm textures/gone_normal.png\nmap_Pr textures/gone_roughness.png\n"
        );
        var audited = Audits.Open(path);
        var coverage = audited.Report.Coverage;
        Assert.Equal((1, 0, 3, 1, 2, false), Numbers(coverage));
        Assert.EndsWith(
            "rules looked at 0 of 1 material; 2 images could not be looked at, so 2 checks were left open.",
            coverage.Sentence,
            StringComparison.Ordinal
        );

        var sarif = JsonDocument
            .Parse(Written(to => SarifLog.Write(to, audited.Scene, audited.Report, "1.0.0")))
            .RootElement.GetProperty("runs")[0];
        Assert.Equal(2, sarif.GetProperty("properties").GetProperty("coverage").GetProperty("open").GetInt32());
        var said = sarif.GetProperty("invocations")[0].GetProperty("toolExecutionNotifications")[0];
        Assert.Equal(coverage.Sentence, said.GetProperty("message").GetProperty("text").GetString());
        var junit = XDocument.Parse(Written(to => JunitReport.Write(to, audited.Scene, audited.Report, Severity.Blocker)));
        Assert.Contains(junit.Descendants("property"), p => p.Attribute("value")?.Value == coverage.Sentence);

        var call = Tool.RootCall("audit", path, "--format", "json", "--fail-on", "never");
        Assert.Equal(0, call.Status);
        Assert.Equal(1, JsonDocument.Parse(call.Output).RootElement.GetProperty("coverage").GetProperty("imagesLookedAt").GetInt32());
        Assert.Equal(1, Tool.RootCall("audit", path, "--fail-on", "never", "--require-coverage").Status);
    }

    [Fact]
    public void A_scene_whose_maps_all_came_is_covered()
    {
        var path = Scene("newmtl tin\nmap_Kd textures/tin_basecolor.png\n");
        Assert.Equal((1, 1, 1, 1, 0, true), Numbers(Audits.Open(path).Report.Coverage));
        Assert.Equal(0, Tool.RootCall("audit", path, "--fail-on", "never", "--require-coverage").Status);
    }

    private static (int, int, int, int, int, bool) Numbers(AuditCoverage c) =>
        (c.Materials, c.MaterialsLookedAt, c.Images, c.ImagesLookedAt, c.Open, c.IsFull);

    private static string Written(Action<Stream> write)
    {
        using var to = new MemoryStream();
        write(to);
        return Encoding.UTF8.GetString(to.ToArray());
    }

    public void Dispose() => place.Dispose();
}
