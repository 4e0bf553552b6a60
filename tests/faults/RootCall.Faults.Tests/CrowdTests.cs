using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using RootCall.Testing;
using Xunit.Abstractions;

namespace RootCall.Faults.Tests;

/// <summary>
/// Two deliveries of thousands of textures at once, on two workers with eight threads each: the image library's shared cache hung on
/// less.
/// </summary>
public sealed class CrowdTests(ITestOutputHelper output) : IDisposable
{
    private const int Threads = 8;
    private readonly Place place = new();

    [Fact]
    public void Thousands_of_textures_arrive_on_two_workers()
    {
        var each = Effort.Of(150, 2_000);
        var scenes = new[] { Delivery("one", each), Delivery("two", each) };
        using var app = new RunningApplication(
            new Dictionary<string, string> { ["in"] = place.Folder },
            more: new Dictionary<string, string> { ["DOTNET_PROCESSOR_COUNT"] = Threads.ToString(CultureInfo.InvariantCulture) }
        );
        var workers = new[] { app.StartWorker(), app.StartWorker() };
        var clock = Stopwatch.StartNew();
        foreach (var scene in scenes)
            app.Post("/api/arrivals/open", new { path = scene });
        long most = 0,
            worker = 0;
        var children = 0;
        RunningApplication.Until(
            () =>
            {
                var decoders = workers.SelectMany(w => Decoders.Of(w.Id)).ToList();
                children = Math.Max(children, decoders.Count);
                worker = Math.Max(worker, workers.Max(Resident));
                most = Math.Max(most, workers.Concat(decoders).Sum(Resident));
                var work = app.Get("/api/work").EnumerateArray().ToList();
                return work.Count >= scenes.Length * 2 && work.TrueForAll(w => w.GetProperty("endedAt").ValueKind != JsonValueKind.Null);
            },
            "the deliveries did not arrive",
            60 + (each / 5)
        );
        Assert.All(app.Get("/api/work").EnumerateArray(), row => Assert.Equal("done", row.GetProperty("state").GetString()));
        Assert.Equal(
            each * scenes.Length,
            Directory.EnumerateFiles(Path.Combine(app.Store, "pictures"), "*.png", SearchOption.AllDirectories).Count()
        );
        var said = string.Create(
            CultureInfo.InvariantCulture,
            $"{each * scenes.Length:N0} textures on two workers of {Threads} threads: {clock.Elapsed.TotalSeconds:0} s, most memory of a "
                + $"worker {worker >> 20:N0} MB, of both with {children} decoders {most >> 20:N0} MB"
        );
        output.WriteLine(said);
        File.AppendAllText(Path.Combine(AppContext.BaseDirectory, "measured.txt"), said + "\n");
        Assert.InRange(worker, 0, 1L << 30);
    }

    public void Dispose() => place.Dispose();

    private string Delivery(string name, int textures)
    {
        var random = new Random(name.Length);
        for (var i = 0; i < textures; i++)
            place.Put($"{name}/tex/t{i:0000}.png", Pictures.Png(random.Next(256, 1_024), random.Next(256, 1_024), (byte)i));
        return place.Put($"{name}/{name}.gltf", Look.Gltf([.. Enumerable.Range(0, textures).Select(i => $"tex/t{i:0000}.png")]));
    }

    private static long Resident(Process process)
    {
        try
        {
            process.Refresh();
            return process.WorkingSet64;
        }
        catch (InvalidOperationException)
        {
            return 0; // It has just ended.
        }
    }
}
