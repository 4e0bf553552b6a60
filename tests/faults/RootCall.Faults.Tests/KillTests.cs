using System.Diagnostics;
using System.Globalization;
using System.IO.Compression;
using System.Net;
using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Faults.Tests;

/// <summary>
/// Every process is killed at random moments while scenes arrive, are searched for, measured and packed. Whoever is left, or is
/// started again, brings everything to an end: nothing lost, nothing half-written, nothing left over.
/// </summary>
public sealed class KillTests(KillTests.Ship ship) : IClassFixture<KillTests.Ship>
{
    private const int Textures = 30;
    private const int Seed = 20;
    private readonly Place place = ship.Place;
    private readonly RunningApplication app = ship.App;
    private readonly Random random = new(Seed);

    private Process Worker
    {
        get => ship.Worker;
        set => ship.Worker = value;
    }

    /// <summary>One application for all that is tried.</summary>
    public sealed class Ship : IDisposable
    {
        public Ship()
        {
            Directory.CreateDirectory(Place.At("shots"));
            App = new(
                new Dictionary<string, string> { ["shots"] = Place.At("shots") },
                more: new Dictionary<string, string> { ["RootCall__Lease"] = "00:00:03", ["RootCall__MostSilence"] = "00:00:15" }
            );
            Worker = App.StartWorker();
        }

        public Place Place { get; } = new();

        public RunningApplication App { get; }

        public Process Worker { get; set; }

        public void Dispose()
        {
            App.Dispose();
            Place.Dispose();
        }
    }

    private enum Target
    {
        Worker,
        Web,
        Database,
        Image,
    }

    [Fact]
    public void Whatever_is_killed_everything_ends_well()
    {
        var packed = Open(0);
        var known = app.Get("/api/work").EnumerateArray().Select(IdOf).ToHashSet();
        for (var round = 1; round <= Effort.Of(4, 120); round++)
        {
            var (target, act) = ((Target)(round % 4), (round / 4) % 4);
            var said = $"round {round}: {target} during {act}";
            var expected = Begin(act, 100 + round, packed);
            Thread.Sleep(random.Next(0, 1_200));
            Kill(target);
            // What did not get through is sent again, as a person would.
            if (!expected.Begun)
                expected = Begin(act, 100 + round, packed);
            Assert.True(expected.Begun, said);
            Everything(said);
            foreach (var row in app.Get("/api/work").EnumerateArray().Where(w => !known.Contains(IdOf(w))))
                Assert.True(row.GetProperty("state").GetString() == "done", $"{said}: {row}");
            Assert.Equal(expected.Scenes, app.Get("/api/scenes").GetArrayLength());
            foreach (var package in app.Get($"/api/scenes/{packed}/send-off").GetProperty("packages").EnumerateArray())
                Assert.Equal(Textures, package.GetProperty("resolved").GetInt32());
            Nothing_is_left(said);
        }
    }

    [Fact]
    public void A_worker_that_slept_over_its_task_spoils_nothing_that_another_made()
    {
        var id = Open(1);
        var work = Pack(id);
        RunningApplication.Until(() => Directory.EnumerateFiles(app.Store, "*.part", SearchOption.AllDirectories).Any(), "no packing");
        Signal("STOP", Worker.Id);
        var sleeper = Worker;
        Worker = app.StartWorker();
        Everything("slept");
        Signal("CONT", sleeper.Id);
        Thread.Sleep(3_000);
        var package = Assert.Single(app.Get($"/api/scenes/{id}/send-off").GetProperty("packages").EnumerateArray());
        Assert.Equal(Textures, package.GetProperty("resolved").GetInt32());
        Assert.Equal("done", app.Task(work).GetProperty("state").GetString());
        Nothing_is_left("slept");
        Assert.False(sleeper.HasExited);
        sleeper.Kill(); // The others reckon with one worker.
    }

    [Fact]
    public void A_task_that_ends_its_workers_is_given_up_with_a_sentence()
    {
        var id = Open(2);
        // Nobody gets further than here while the table is locked.
        using var held = Cluster.Lock(app.Database, "waivers");
        var work = Pack(id);
        for (var attempts = 1; attempts <= 3; attempts++)
        {
            RunningApplication.Until(
                () => Sql($"SELECT attempts FROM work WHERE id = '{IdOf(work)}'") == $"{attempts}",
                "it was not taken up"
            );
            Worker.Kill();
            Worker.WaitForExit();
            Worker = app.StartWorker();
        }

        var row = app.Ended(work);
        Assert.Equal("failed", row.GetProperty("state").GetString());
        Assert.Contains("workers were lost over this task", row.GetProperty("error").GetString(), StringComparison.Ordinal);
    }

    [Fact]
    public void A_task_that_is_cancelled_frees_its_place_and_one_that_is_silent_is_ended()
    {
        var id = Open(4);
        JsonElement silent;
        // Two tasks that wait for a table fill both places of the worker; the third waits for a place.
        using (Cluster.Lock(app.Database, "waivers"))
        {
            var cancelled = Pack(id);
            silent = Pack(id);
            RunningApplication.Until(() => Sql("SELECT count(*) FROM work WHERE state = 'running'") == "2", "not both run");
            var waiting = app.Post($"/api/scenes/{id}/search");
            Assert.True(app.Post($"/api/work/{IdOf(cancelled)}/cancel").GetBoolean());
            Assert.Equal("done", app.Ended(waiting, 30).GetProperty("state").GetString());
            app.Ended(silent);
        }

        Assert.Equal("failed", app.Task(silent).GetProperty("state").GetString());
        Assert.Contains("reported nothing for 15 seconds", app.Task(silent).GetProperty("error").GetString(), StringComparison.Ordinal);
        Nothing_is_left("silent");
    }

    [Fact]
    public void What_did_not_get_into_the_queue_is_put_there()
    {
        var id = Open(3);
        Worker.Kill();
        Worker.WaitForExit();
        var work = app.Post($"/api/scenes/{id}/search");
        // As when the web process dies between the row and the queue, and when the queue is lost.
        Sql("UPDATE work SET job_id = NULL, created_at = now() - interval '1 minute' WHERE ended_at IS NULL");
        Sql("DELETE FROM queue.jobqueue");
        Worker = app.StartWorker();
        Assert.Equal("done", app.Ended(work).GetProperty("state").GetString());
    }

    private (bool Begun, int Scenes) Begin(int act, int round, string packed)
    {
        var scenes = -1;
        try
        {
            scenes = app.Get("/api/scenes").GetArrayLength();
            switch (act)
            {
                case 0:
                    app.Post("/api/arrivals/open", new { path = Shot(round) });
                    return (true, scenes + 1);
                case 1:
                    var (name, bytes) = ($"up{round}.zip", Zip(round));
                    using (var form = new MultipartFormDataContent { { new ByteArrayContent(bytes), name, name } })
                        app.Client.PostAsync("/api/arrivals/upload", form).Result.EnsureSuccessStatusCode();
                    return (true, scenes + 1);
                case 2:
                    app.Post($"/api/scenes/{packed}/search");
                    return (true, scenes);
                default:
                    Pack(packed, round % 8 < 4);
                    return (true, scenes);
            }
        }
        catch (Exception e) when (e is HttpRequestException or AggregateException)
        {
            return (false, scenes);
        }
    }

    private void Kill(Target target)
    {
        switch (target)
        {
            case Target.Worker:
                Worker.Kill();
                Worker.WaitForExit();
                Worker = app.StartWorker();
                break;
            case Target.Web:
                app.Web.Kill();
                app.Web.WaitForExit();
                app.StartWeb();
                break;
            case Target.Database:
                Cluster.Kill();
                var answer = app.Client.GetAsync("/api/scenes").Result;
                Assert.True(answer.StatusCode == HttpStatusCode.ServiceUnavailable, $"{answer.StatusCode} without a database");
                Cluster.Start();
                RunningApplication.Until(() => app.Client.GetAsync("/api/scenes").Result.IsSuccessStatusCode, "the web did not come back");
                break;
            default:
                foreach (var child in Decoders.Of(Worker.Id))
                    child.Kill();
                break;
        }
    }

    /// <summary>Waits until all tasks have ended, those that others left behind too.</summary>
    private void Everything(string said)
    {
        var quiet = 0;
        try
        {
            RunningApplication.Until(
                () =>
                {
                    quiet = Open().Any() ? 0 : quiet + 1;
                    return quiet > 4;
                },
                string.Empty,
                120
            );
        }
        catch (TimeoutException)
        {
            Assert.Fail($"{said}: not all tasks ended\n{string.Join('\n', Open())}\n{app.WorkerLog}");
        }
    }

    private IEnumerable<JsonElement> Open() =>
        app.Get("/api/work").EnumerateArray().Where(w => w.GetProperty("endedAt").ValueKind == JsonValueKind.Null);

    private void Nothing_is_left(string said)
    {
        RunningApplication.Until(
            () =>
                !Directory.EnumerateFiles(app.Store, "*.part", SearchOption.AllDirectories).Any()
                && !Directory.EnumerateDirectories(app.Store, "*.part", SearchOption.AllDirectories).Any()
                && Directory.GetDirectories(Path.Combine(app.Store, "work")).All(d => Directory.GetFileSystemEntries(d).Length == 0)
                && Directory.GetDirectories(Path.Combine(app.Store, "incoming")).Length == 0
                && Directory.GetDirectories(Path.Combine(app.Store, "packages")).Length.ToString(CultureInfo.InvariantCulture)
                    == Sql("SELECT count(*) FROM packages"),
            $"{said}: something was left over",
            90
        );
    }

    private string Open(int number)
    {
        app.Ended(app.Post("/api/arrivals/open", new { path = Shot(number) }));
        Everything("opened");
        return app.SceneId($"shot{number}.gltf");
    }

    private string Shot(int number)
    {
        var bytes = new byte[200_000];
        for (var i = 0; i < Textures; i++)
        {
            random.NextBytes(bytes);
            var png = Pictures.Png(300 + i, 300, (byte)(number + i));
            place.Put($"shots/{number}/tex/t{i:00}.png", [.. png, .. bytes]);
        }

        return place.Put(
            $"shots/{number}/shot{number}.gltf",
            Look.Gltf([.. Enumerable.Range(0, Textures).Select(i => $"tex/t{i:00}.png")])
        );
    }

    private byte[] Zip(int number)
    {
        Shot(number);
        using var zip = new MemoryStream();
        ZipFile.CreateFromDirectory(place.At($"shots/{number}"), zip);
        return zip.ToArray();
    }

    private JsonElement Pack(string scene, bool zip = true) => app.Post($"/api/scenes/{scene}/packages", new { zip, allowMissing = false });

    private static string IdOf(JsonElement row) => row.GetProperty("id").GetString()!;

    private string Sql(string sql) => Cluster.Sql(app.Database, sql);

    private static void Signal(string signal, int process) => Tool.Run("kill", [$"-{signal}", $"{process}"]);
}
