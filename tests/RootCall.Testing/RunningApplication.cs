using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text.Json;

namespace RootCall.Testing;

/// <summary>
/// The real application: a web process and worker processes on a database of their own in the tests' PostgreSQL cluster,
/// which <c>./rootcall test</c> starts.
/// </summary>
public sealed class RunningApplication : IDisposable
{
    private readonly Place place = new();
    private readonly Dictionary<string, string> settings;
    private readonly List<Process> processes = [];
    private readonly HttpClient plain = new();

    /// <param name="folders">Server folders by name.</param>
    /// <param name="firstScenes">Scenes opened at the start.</param>
    /// <param name="firstRoots">Roots made at the start.</param>
    /// <param name="more">More settings.</param>
    public RunningApplication(
        IReadOnlyDictionary<string, string> folders,
        IEnumerable<string>? firstScenes = null,
        IEnumerable<string>? firstRoots = null,
        IReadOnlyDictionary<string, string>? more = null
    )
    {
        var cluster = Environment.GetEnvironmentVariable("ROOTCALL_TEST_DB")
            ?? throw new InvalidOperationException(
                "ROOTCALL_TEST_DB is not set: run these tests with ./rootcall test, which starts a database for them."
            );
        Database = $"{cluster};Database=test_{Guid.NewGuid():N};Maximum Pool Size=20";
        Address = $"http://127.0.0.1:{FreePort()}";
        settings = new()
        {
            ["RootCall__Database"] = Database,
            ["RootCall__Data"] = place.Folder,
            ["RootCall__Folders"] = string.Join(';', folders.Select(f => $"{f.Key}={f.Value}")),
            ["RootCall__FirstScenes"] = string.Join(';', firstScenes ?? []),
            ["RootCall__FirstRoots"] = string.Join(';', firstRoots ?? []),
            ["ASPNETCORE_URLS"] = Address,
        };
        foreach (var (name, value) in more ?? new Dictionary<string, string>())
            settings[name] = value;
        Client = new() { BaseAddress = new(Address), Timeout = TimeSpan.FromMinutes(2) };
        Client.DefaultRequestHeaders.Add("Origin", Address);
        StartWeb();
    }

    /// <summary>The web process.</summary>
    public Process Web { get; private set; } = null!;

    /// <summary>Starts a web process at the same address, and waits until it answers.</summary>
    public void StartWeb()
    {
        Web = Start("RootCall.Web", ["--webroot", Path.Combine(Tool.Home, "web", "dist")]);
        Until(() => Answers("/health"), "the application did not start");
    }

    public string Database { get; }

    public string Address { get; }

    /// <summary>Folder of uploads, thumbnails and packages.</summary>
    public string Store => place.At("store");

    /// <summary>Sends its requests as the application's own pages do.</summary>
    public HttpClient Client { get; }

    public Process StartWorker() => Start("RootCall.Worker", []);

    /// <summary>What the workers said last.</summary>
    public string WorkerLog => string.Join('\n', File.ReadLines(place.At("RootCall.Worker.log")).TakeLast(40));

    public JsonElement Get(string path) => Read(Client.GetAsync(path).Result);

    public JsonElement Post(string path, object? body = null) => Read(Client.PostAsJsonAsync(path, body ?? new { }).Result);

    /// <summary>Waits until a task has ended.</summary>
    public JsonElement Ended(JsonElement work, int seconds = 90)
    {
        JsonElement row = default;
        Until(
            () =>
            {
                row = Task(work);
                return row.GetProperty("state").GetString() is "done" or "failed" or "cancelled";
            },
            "the task did not end",
            seconds
        );
        return row;
    }

    public JsonElement Task(JsonElement work) =>
        Get("/api/work").EnumerateArray().Single(w => w.GetProperty("id").GetString() == work.GetProperty("id").GetString());

    public string SceneId(string name) =>
        Get("/api/scenes").EnumerateArray().First(s => s.GetProperty("name").GetString() == name).GetProperty("id").GetString()!;

    /// <summary>Waits until no task of the scene is open: it was read with its ledger.</summary>
    public void Settled(string scene) =>
        Until(
            () =>
                Get("/api/work")
                    .EnumerateArray()
                    .All(w => w.GetProperty("sceneId").GetString() != scene || w.GetProperty("endedAt").ValueKind != JsonValueKind.Null),
            "the scene was not read again"
        );

    public static void Until(Func<bool> done, string otherwise, int seconds = 60) => Until(done, () => otherwise, seconds);

    /// <param name="otherwise">Says how it stands when it was waited for in vain.</param>
    public static void Until(Func<bool> done, Func<string> otherwise, int seconds = 60)
    {
        var clock = Stopwatch.StartNew();
        while (!done())
        {
            if (clock.Elapsed.TotalSeconds > seconds)
                throw new TimeoutException(otherwise());
            Thread.Sleep(50);
        }
    }

    public void Dispose()
    {
        foreach (var process in processes.Where(p => !p.HasExited))
            process.Kill(entireProcessTree: true);
        foreach (var process in processes)
        {
            process.WaitForExit();
            process.Dispose();
        }

        Client.Dispose();
        plain.Dispose();
        place.Dispose();
    }

    private static JsonElement Read(HttpResponseMessage answer)
    {
        var text = answer.Content.ReadAsStringAsync().Result;
        if (!answer.IsSuccessStatusCode)
            throw new HttpRequestException(text, null, answer.StatusCode);
        return text.Length == 0 ? default : JsonDocument.Parse(text).RootElement;
    }

    private bool Answers(string path)
    {
        if (Web.HasExited)
            throw new InvalidOperationException($"The web process ended: {File.ReadAllText(place.At("RootCall.Web.log"))}");
        try
        {
            return plain.GetAsync(new Uri(Address + path)).Result.StatusCode == HttpStatusCode.OK;
        }
        catch (AggregateException)
        {
            return false;
        }
    }

    /// <summary>What a worker's priority is lowered by: for measurements, which start it as ./rootcall does.</summary>
    public static string WorkerNiceness { get; set; } = "0";

    private Process Start(string project, string[] arguments)
    {
        var binary = Tool.Binary(project);
        // A shell sends the output to a file and becomes the process, so that a kill reaches it.
        var start = new ProcessStartInfo(
            "/bin/sh",
            [
                "-c",
                "exec nice -n \"$NICE\" \"$0\" \"$@\" >> \"$LOG\" 2>&1",
                binary,
                "--contentRoot",
                Path.GetDirectoryName(binary)!,
                .. arguments,
            ]
        )
        {
            WorkingDirectory = place.Folder,
        };
        foreach (var (name, value) in settings)
            start.Environment[name] = value;
        start.Environment["LOG"] = place.At(project + ".log");
        // Beside tests on all processors workers that give way would not come to it.
        start.Environment["NICE"] = project == "RootCall.Worker" ? WorkerNiceness : "0";
        var process = Process.Start(start)!;
        processes.Add(process);
        return process;
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
