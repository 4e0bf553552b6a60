using System.Diagnostics;
using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Rendering.Frames;

namespace RootCall.Core.Viewing;

/// <summary>Lets a painter paint for as long as it may.</summary>
internal static class Painted
{
    /// <returns>The picture, and how many paths were followed for each of its pixels.</returns>
    /// <exception cref="CannotUseException">Not even one was followed in time.</exception>
    public static (Vector3[] Picture, int Done) Of(FramePainter painter, FrameView view, CancellationToken stop)
    {
        var clock = Stopwatch.StartNew();
        var isBound = view.Most != Timeout.InfiniteTimeSpan;
        Vector3[]? picture = null;
        try
        {
            while (painter.Samples < view.Samples)
            {
                painter.Advance(1, view.Threads, isBound ? view.Most - clock.Elapsed : null, stop);
                // Only when time is bound does a picture of before have to be kept.
                if (isBound)
                    picture = painter.Picture();
                view.Progress?.Invoke(painter.Samples, painter.Picture);
            }

            return (painter.Picture(), painter.Samples);
        }
        catch (OperationCanceledException) when (!stop.IsCancellationRequested)
        {
            return picture is null
                ? throw new CannotUseException($"The scene takes longer than {view.Most.TotalSeconds:0} s to be drawn once.")
                : (picture, painter.Samples);
        }
    }
}
