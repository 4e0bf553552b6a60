using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using RootCall.Testing;

namespace RootCall.Bench.Load;

/// <summary>
/// Windows that are open on scenes, as a browser keeps them: each knows what it loaded last, and asks for all of it again
/// after every decision, its own or another's. Nobody thinks in between.
/// </summary>
internal sealed class Crowd(RunningApplication app, IReadOnlyList<string> scenes, IReadOnlyList<string> all) : IDisposable
{
    public const int Windows = 8;

    private readonly ConcurrentBag<(string Kind, double Milliseconds, long Bytes)> taken = [];
    private readonly HttpClient client = new(new SocketsHttpHandler { AutomaticDecompression = DecompressionMethods.All })
    {
        BaseAddress = new(app.Address),
        Timeout = TimeSpan.FromMinutes(10),
    };

    public IEnumerable<(string Kind, double Milliseconds, long Bytes)> Taken => taken;

    public void Dispose() => client.Dispose();

    public void Run(TimeSpan time)
    {
        client.DefaultRequestHeaders.Add("Origin", app.Address);
        using var end = new CancellationTokenSource(time);
        Task.WhenAll(Enumerable.Range(0, Windows).Select(w => Task.Run(() => Window(w, end.Token)))).Wait();
    }

    private async Task Window(int window, CancellationToken end)
    {
        var id = scenes[window % scenes.Count];
        string? version = null;
        for (var turn = window; !end.IsCancellationRequested; turn++)
        {
            var row = ((turn * 37) % 2_000) + 1;
            await Ask("light", "/api/work");
            await Ask("light", "/api/scenes");
            await Ask("light", $"/api/scenes/{id}");
            await Ask("light", $"/api/scenes/{id}/ledger");
            await Ask("light", $"/api/scenes/{id}/references/{row}");
            await Ask("light", $"/api/scenes/{id}/references/{row}/picture");
            await Ask("light", $"/api/scenes/{all[turn % all.Count]}");
            var answer = await Ask("muster", $"/api/scenes/{id}/muster{(version is null ? string.Empty : $"?since={version}")}");
            version = VersionOf(answer) ?? version;
            await Ask("audit", $"/api/scenes/{id}/audit");
            if (turn % 4 == 0)
                await Act("decide", $"/api/scenes/{id}/paths/style", new { style = "absolute", numbers = new[] { row } });
            if (turn % 4 == 2)
                await Act("decide", $"/api/scenes/{id}/ledger/apply");
            if (turn % 16 == 15)
                await Act("decide", $"/api/scenes/{id}/ledger/undo");
        }
    }

    private async Task<byte[]> Ask(string kind, string path)
    {
        var clock = Stopwatch.StartNew();
        using var answer = await client.GetAsync(path);
        var body = await answer.Content.ReadAsByteArrayAsync();
        taken.Add((kind, clock.Elapsed.TotalMilliseconds, body.Length));
        return answer.StatusCode is HttpStatusCode.OK or HttpStatusCode.Accepted or HttpStatusCode.NoContent
            ? body
            : throw new HttpRequestException($"{path}: {(int)answer.StatusCode}");
    }

    /// <summary>What a window says it has, when it asks again; it stands at the beginning, so that not all must be read here.</summary>
    private static string? VersionOf(byte[] muster)
    {
        var head = Encoding.UTF8.GetString(muster, 0, Math.Min(100, muster.Length));
        const string Label = "\"version\":\"";
        var at = head.IndexOf(Label, StringComparison.Ordinal);
        return at < 0 ? null : head[(at + Label.Length)..].Split('"')[0];
    }

    private async Task Act(string kind, string path, object? body = null)
    {
        var clock = Stopwatch.StartNew();
        using var answer = await client.PostAsJsonAsync(path, body ?? new { });
        // Another window may have taken back what this one wanted to.
        _ = await answer.Content.ReadAsByteArrayAsync();
        if ((int)answer.StatusCode >= 500)
            throw new HttpRequestException($"{path}: {(int)answer.StatusCode}");
        taken.Add((kind, clock.Elapsed.TotalMilliseconds, 0));
    }
}
