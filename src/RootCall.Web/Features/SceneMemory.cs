using System.Collections.Concurrent;
using Microsoft.Extensions.Caching.Memory;
using Microsoft.Extensions.Options;
using RootCall.Core.Muster;

namespace RootCall.Web.Features;

/// <summary>How much the web process keeps. Bound from the section <c>RootCall</c>.</summary>
internal sealed class WebOptions
{
    /// <summary>Megabytes of scenes and audits that are kept between requests; what was used least lately makes room.</summary>
    public int KeptMegabytes { get; set; } = 400;
}

/// <summary>What is kept of scenes between requests, bounded in bytes. Everything in it can be made again.</summary>
internal sealed class SceneMemory(IOptions<WebOptions> options) : IDisposable
{
    // Measured on a scene of 20,000 references and 2,000 materials: 32 MB its muster, 37 MB its audit with 5,400 findings.
    private const long PerReference = 1_500;
    private const long PerMaterial = 4_000;
    private const long PerFinding = 1_500;
    private const long Least = 20_000;

    private readonly MemoryCache kept = new(new MemoryCacheOptions { SizeLimit = options.Value.KeptMegabytes * 1_000_000L });
    private readonly ConcurrentDictionary<(Type, Guid), SemaphoreSlim> turns = new();

    /// <summary>A core is left for those who ask for what is made already.</summary>
    private readonly SemaphoreSlim making = new(Math.Max(1, Environment.ProcessorCount - 1));

    public T? Get<T>(Guid scene)
        where T : class => kept.Get<T>((typeof(T), scene));

    public void Put<T>(Guid scene, T value, long bytes)
        where T : class
    {
        var key = (typeof(T), scene);
        var size = Math.Min(bytes, options.Value.KeptMegabytes * 500_000L);
        // One that does not fit is turned away, however old the others are: they make room first.
        for (var tries = 0; tries < 4; tries++)
        {
            kept.Set(key, value, new MemoryCacheEntryOptions { Size = size });
            if (kept.TryGetValue(key, out _))
                return;
            kept.Compact(0.3);
        }
    }

    /// <summary>Those who make the same thing of the same scene take turns, so that only the first has to.</summary>
    public async Task<IDisposable> Turn<T>(Guid scene, CancellationToken stop)
    {
        var turn = turns.GetOrAdd((typeof(T), scene), _ => new(1));
        await turn.WaitAsync(stop);
        return new Ending(turn);
    }

    /// <summary>What takes all of a core for long is made beside few others of its kind. It is not asked for while it is held.</summary>
    public async Task<IDisposable> Making(CancellationToken stop)
    {
        await making.WaitAsync(stop);
        return new Ending(making);
    }

    /// <summary>About as many bytes as a muster takes.</summary>
    public static long Weight(MusterReport report) =>
        Least + (report.References.Length * PerReference) + (report.Scene.Materials.Length * PerMaterial);

    /// <summary>About as many bytes as an audit takes besides.</summary>
    public static long Weight(Core.Audit.AuditReport audit, MusterReport report) =>
        Least + (audit.Findings.Length * PerFinding) + (report.References.Length * PerReference);

    public void Dispose()
    {
        kept.Dispose();
        making.Dispose();
    }

    private sealed class Ending(SemaphoreSlim turn) : IDisposable
    {
        public void Dispose() => turn.Release();
    }
}
