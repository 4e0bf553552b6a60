using System.Diagnostics;
using System.Globalization;
using RootCall.Testing;

namespace RootCall.Bench.Load;

/// <summary>
/// Eight windows on four scenes of 20,000 references and 2,000 materials, in a list of 1,000 scenes: how long requests take,
/// and the memory of the web process.
/// </summary>
internal static class LoadBench
{
    private const int Large = 4;
    private const int Small = 996;
    private static readonly TimeSpan Long = TimeSpan.FromSeconds(90);

    public static void Run(Place place)
    {
        if (Environment.GetEnvironmentVariable("ROOTCALL_TEST_DB") is null)
            return;
        var large = LargeScene.Write(place, Large);
        var small = Enumerable
            .Range(0, Small)
            .Select(i => place.Put($"small/s{i:000}/pot_{i:000}.gltf", Look.Gltf("clay.png", "moss.png")));
        using var app = new RunningApplication(
            new Dictionary<string, string> { ["load"] = place.At("load"), ["small"] = place.At("small") },
            firstScenes: large.Concat(small),
            firstRoots: [place.At("load")]
        );
        app.StartWorker();
        var clock = Stopwatch.StartNew();
        do Thread.Sleep(TimeSpan.FromSeconds(3));
        while (app.Get("/api/work").EnumerateArray().Any(w => !Ended(w)) || app.Get("/api/scenes").GetArrayLength() < Large + Small);
        Console.WriteLine($"           {Large + Small:N0} scenes arrived in {clock.Elapsed.TotalSeconds:0} s");
        var list = app.Get("/api/scenes").EnumerateArray().ToList();
        string Id(System.Text.Json.JsonElement s) => s.GetProperty("id").GetString()!;
        var scenes = list.Where(s => s.GetProperty("references").GetInt32() > 10_000).Select(Id).ToList();
        var empty = Measure.Best(() => app.Client.GetStringAsync("/health").Wait(), 20);
        Measure.Print("list of 1,000 scenes", Measure.Best(() => app.Get("/api/scenes")), "a request that does nothing", empty);
        foreach (var id in scenes)
        {
            clock.Restart();
            app.Get($"/api/scenes/{id}/muster");
            Console.Write(string.Create(CultureInfo.InvariantCulture, $"           first muster {clock.ElapsedMilliseconds} ms, "));
            clock.Restart();
            app.Get($"/api/scenes/{id}/audit");
            Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"first audit {clock.ElapsedMilliseconds} ms"));
        }

        using var crowd = new Crowd(app, scenes, [.. list.Select(Id)]);
        using var memory = new ResidentMemory(app.Web.Id);
        crowd.Run(Long);
        foreach (var kind in crowd.Taken.GroupBy(t => t.Kind).OrderBy(g => g.Key, StringComparer.Ordinal))
        {
            var sorted = kind.Select(t => t.Milliseconds).Order().ToList();
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"           {kind.Key, -7} {sorted.Count, 6} requests, p50 {At(sorted, 0.5):0} ms, p99 {At(sorted, 0.99):0} ms, "
                        + $"most {sorted[^1]:0} ms, {kind.Average(t => t.Bytes) / 1e3:0} kB each"
                )
            );
        }

        Console.WriteLine($"           memory of the web process: {memory}");
    }

    private static double At(List<double> sorted, double share) => sorted[Math.Min(sorted.Count - 1, (int)(sorted.Count * share))];

    private static bool Ended(System.Text.Json.JsonElement work) =>
        work.GetProperty("state").GetString() is "done" or "failed" or "cancelled";
}
