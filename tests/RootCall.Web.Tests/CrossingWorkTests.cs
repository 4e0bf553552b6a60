using System.Text;
using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>Five hundred materials that cross with images baked: cancelled, killed in the middle, and taken up again.</summary>
public sealed class CrossingWorkTests : IDisposable
{
    private const int Materials = 500;
    private readonly Place place = new();
    private readonly RunningApplication app;

    public CrossingWorkTests()
    {
        var (scene, library) = (
            new StringBuilder("mtllib many.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\n"),
            new StringBuilder()
        );
        for (var i = 0; i < Materials; i++)
        {
            // No two are alike, or their images would be made once.
            library.Append(
                FormattableString.Invariant($"newmtl m{i:000}\nKd {(i + 1) / 600.0:0.####} 0.5 0.5\nmap_Pr r.png\nmap_Pm m.png\n")
            );
            scene.Append(FormattableString.Invariant($"usemtl m{i:000}\nf 1/1 2/2 3/3\n"));
        }

        place.Put("many/many.mtl", library.ToString());
        place.Put("many/r.png", Pictures.Png(32, 32, 90));
        place.Put("many/m.png", Pictures.Png(32, 32, 40));
        app = new(new Dictionary<string, string> { ["many"] = place.At("many") });
        place.Put("many/many.obj", scene.ToString());
    }

    public void Dispose()
    {
        app.Dispose();
        place.Dispose();
    }

    [Fact]
    public void Cancelled_it_leaves_nothing_and_a_worker_killed_in_the_middle_is_followed_by_another()
    {
        var worker = app.StartWorker();
        app.Ended(app.Post("/api/arrivals/open", new { path = place.At("many/many.obj") }));
        var id = app.SceneId("many.obj");
        app.Settled(id);
        var stopped = Begun(id);
        app.Post($"/api/work/{Text(stopped, "id")}/cancel");
        Assert.Equal("cancelled", Text(app.Ended(stopped), "state"));
        RunningApplication.Until(() => !Baked().Any(), "what was baked stayed");
        Assert.Equal(0, Entries(id).GetArrayLength());

        var work = Begun(id);
        worker.Kill();
        worker.WaitForExit();
        Assert.Equal(0, Entries(id).GetArrayLength());
        app.StartWorker();
        Assert.Equal("done", Text(app.Ended(work), "state"));
        Assert.StartsWith(
            $"Carry {Materials} materials to",
            Text(Assert.Single(Entries(id).EnumerateArray()), "sentence"),
            StringComparison.Ordinal
        );
        var files = Baked().ToList();
        Assert.Single(files.Select(Path.GetDirectoryName).Distinct());
        Assert.Equal(Materials, files.Count(f => f.EndsWith("_kd.png", StringComparison.Ordinal)));
    }

    private static string Text(JsonElement of, string name) => of.GetProperty(name).GetString()!;

    private JsonElement Entries(string id) => app.Get($"/api/scenes/{id}/ledger").GetProperty("entries");

    private IEnumerable<string> Baked() =>
        Directory.EnumerateFiles(app.Store, "*.png", SearchOption.AllDirectories).Where(f => f.Contains("baked", StringComparison.Ordinal));

    /// <summary>A crossing of all of them of which some images lie there already.</summary>
    private JsonElement Begun(string id)
    {
        var materials = Enumerable.Range(0, Materials).Select(i => $"m{i:000}");
        var work = app.Post(
                $"/api/scenes/{id}/crossing",
                new
                {
                    to = "mtl-phong",
                    route = "kept",
                    materials,
                }
            )
            .GetProperty("work");
        RunningApplication.Until(() => Baked().Skip(20).Any(), () => $"{app.Task(work)}");
        return work;
    }
}
