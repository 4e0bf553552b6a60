using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>Long tasks: a worker that is killed, a task that is cancelled, a tab that is closed.</summary>
public sealed class WorkerTests : IDisposable
{
    private const int Files = 24;
    private const int FileBytes = 12_000_000;
    private readonly Place place = new();
    private readonly RunningApplication app;
    private readonly string id;

    /// <summary>A scene that takes a while to pack, since its files do not fit in a moment.</summary>
    public WorkerTests()
    {
        var random = new Random(1);
        var bytes = new byte[FileBytes];
        for (var i = 0; i < Files; i++)
        {
            random.NextBytes(bytes);
            Pictures.Png(2, 2, (byte)i).CopyTo(bytes, 0);
            // The endings keep the chunk walk happy: IEND stands where the small picture ends.
            place.Put($"big/tex/t{i:00}.png", bytes);
        }

        var scene = place.Put("big/s.gltf", Look.Gltf([.. Enumerable.Range(0, Files).Select(i => $"tex/t{i:00}.png")]));
        app = new(new Dictionary<string, string> { ["big"] = place.At("big") });
        var worker = app.StartWorker();
        app.Ended(app.Post("/api/arrivals/open", new { path = scene }));
        id = app.SceneId("s.gltf");
        worker.Kill();
        worker.WaitForExit();
    }

    private string Packages => Path.Combine(app.Store, "packages");

    [Fact]
    public void A_worker_killed_in_the_middle_leaves_nothing_half_written_and_another_takes_the_job_up()
    {
        var worker = app.StartWorker();
        var work = StartPacking();
        worker.Kill(); // SIGKILL: no handler runs.
        worker.WaitForExit();
        Assert.DoesNotContain(AllFiles(), f => f.EndsWith(".zip", StringComparison.Ordinal));
        Assert.Equal(0, app.Get($"/api/scenes/{id}/send-off").GetProperty("packages").GetArrayLength());

        app.StartWorker();
        Assert.Equal("done", app.Ended(work).GetProperty("state").GetString());
        var package = Assert.Single(app.Get($"/api/scenes/{id}/send-off").GetProperty("packages").EnumerateArray());
        Assert.Equal(Files, package.GetProperty("resolved").GetInt32());
        Assert.Equal("s_v1.zip", Path.GetFileName(Assert.Single(AllFiles())));
    }

    [Fact]
    public void A_cancelled_task_stops_and_leaves_nothing()
    {
        app.StartWorker();
        var work = StartPacking();
        Assert.True(app.Post($"/api/work/{work.GetProperty("id").GetString()}/cancel").GetBoolean());
        Assert.Equal("cancelled", app.Ended(work).GetProperty("state").GetString());
        RunningApplication.Until(() => !AllFiles().Any(), "what was begun stayed");
        Assert.False(app.Post($"/api/work/{work.GetProperty("id").GetString()}/cancel").GetBoolean());
        Assert.Equal(0, app.Get($"/api/scenes/{id}/send-off").GetProperty("packages").GetArrayLength());
    }

    public void Dispose()
    {
        app.Dispose();
        place.Dispose();
    }

    /// <summary>Asks for a package and waits until its bytes are being written.</summary>
    private JsonElement StartPacking()
    {
        var work = app.Post($"/api/scenes/{id}/packages", new { zip = true, allowMissing = false });
        RunningApplication.Until(
            () =>
                AllFiles()
                    .Any(f => f.EndsWith(".part", StringComparison.Ordinal) && new FileInfo(f) is { Exists: true, Length: > 1_000_000 }),
            "packing did not begin"
        );
        return work;
    }

    private IEnumerable<string> AllFiles() =>
        Directory.Exists(Packages) ? Directory.EnumerateFiles(Packages, "*", SearchOption.AllDirectories) : [];
}
