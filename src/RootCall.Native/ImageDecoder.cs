using System.Collections.Concurrent;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;

namespace RootCall.Native;

/// <summary>
/// Decodes images in child processes, as many at once as there are processors. A child that passes a limit or crashes is
/// replaced, and one that nothing was asked of for a while is ended.
/// </summary>
public sealed class ImageDecoder : IImageDecoder, IImageEncoder, IDisposable
{
    private static readonly TimeSpan Idle = TimeSpan.FromSeconds(20);
    private readonly Bounds bounds;
    private readonly ConcurrentBag<DecoderProcess> waiting = [];
    private readonly SemaphoreSlim places = new(Environment.ProcessorCount);
    private readonly Timer sweep;

    public ImageDecoder(Bounds bounds)
    {
        this.bounds = bounds;
        sweep = new(_ => Sweep(DateTime.UtcNow - Idle), null, Idle, Idle);
    }

    public ReducedImage Reduce(string path, int side, CancellationToken stop = default)
    {
        try
        {
            return With(process => process.Reduce(path, side, stop), stop);
        }
        catch (UndecodedException e) when (e.Undecoded.Fault is DecodeFault.EndedDecoder or DecodeFault.NoDecoder)
        {
            // The image may not be to blame: the system, or a person, ends processes too. Twice it is.
            return With(process => process.Reduce(path, side, stop), stop);
        }
    }

    public void Read(string path, Action<PixelRows> take, CancellationToken stop = default) =>
        With(
            process =>
            {
                process.Read(path, take, stop);
                return true;
            },
            stop
        );

    /// <summary>A file of linear values.</summary>
    /// <param name="rgb">Red, green and blue, linear with the primaries of IEC 61966-2-1, rows from the top.</param>
    /// <exception cref="UndecodedException">It cannot be encoded: it has more than 5.5 million pixels, or the library failed.</exception>
    public byte[] Encode(LinearFile format, int width, int height, ReadOnlySpan<float> rgb, CancellationToken stop = default)
    {
        var values = rgb.ToArray();
        return With(process => process.Encode(format, width, height, values, stop), stop);
    }

    public void Write(Stream file, ImageForm form, int width, int height, FillRows fill, CancellationToken stop = default) =>
        With(
            process =>
            {
                process.Write(file, form, width, height, fill, stop);
                return true;
            },
            stop
        );

    public void Dispose()
    {
        sweep.Dispose();
        Sweep(DateTime.MaxValue);
    }

    private T With<T>(Func<DecoderProcess, T> work, CancellationToken stop)
    {
        places.Wait(stop);
        try
        {
            if (!waiting.TryTake(out var process))
                process = DecoderProcess.Start(bounds);
            try
            {
                return work(process);
            }
            finally
            {
                if (process.IsOver)
                    process.Dispose();
                else
                    waiting.Add(process);
            }
        }
        finally
        {
            places.Release();
        }
    }

    private void Sweep(DateTime before)
    {
        var kept = new List<DecoderProcess>();
        while (waiting.TryTake(out var process))
            if (process.LastUsed < before)
                process.Dispose();
            else
                kept.Add(process);
        foreach (var process in kept)
            waiting.Add(process);
    }
}
