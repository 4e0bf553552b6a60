using System.Diagnostics;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using System.Text;

namespace RootCall.Native;

/// <summary>
/// A child process behind the wall (<c>shim/wall.h</c>): it limits its own memory, files and processor time through the system
/// and answers requests one at a time. What it does not answer in time, or at all, ends it.
/// </summary>
internal abstract class WalledProcess : IDisposable
{
    /// <summary>Time on the clock for each second of processor time: the machine may be busy.</summary>
    private const int Patience = 4;

    private const int MostWords = 4096;

    protected static readonly TimeSpan ToStart = TimeSpan.FromSeconds(60);

    private volatile bool tooLong;

    /// <param name="program">Lies beside the application.</param>
    /// <exception cref="System.ComponentModel.Win32Exception">It does not start.</exception>
    protected WalledProcess(string program, params IEnumerable<string> arguments)
    {
        var start = new ProcessStartInfo(Path.Combine(AppContext.BaseDirectory, program), arguments)
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            WorkingDirectory = "/",
        };
        start.Environment.Clear();
        start.Environment["LC_ALL"] = "C.UTF-8";
        Process = Process.Start(start)!;
    }

    protected Process Process { get; }

    /// <summary>It ended, or was ended; another one must be started.</summary>
    public bool IsOver { get; private set; }

    public DateTime LastUsed { get; private set; } = DateTime.UtcNow;

    public virtual void Dispose()
    {
        End();
        Process.WaitForExit();
        Process.Dispose();
    }

    /// <summary>What is told when the process ended over a request.</summary>
    protected abstract Exception Ended(bool tooLong);

    /// <summary>Asks with a request of the shim's layout and the bytes that follow it.</summary>
    /// <param name="seconds">Of processor time that it may take.</param>
    protected TAnswer Ask<TRequest, TAnswer>(in TRequest request, ReadOnlySpan<byte> more, int seconds, CancellationToken stop)
        where TRequest : unmanaged
        where TAnswer : unmanaged =>
        Ask<TAnswer>(
            [.. MemoryMarshal.AsBytes(new ReadOnlySpan<TRequest>(in request)), .. more],
            TimeSpan.FromSeconds(seconds * Patience),
            stop
        );

    /// <summary>The sentence that follows the answer to a request that failed, on one line; empty when there is none.</summary>
    protected string Why(long length)
    {
        var why = new byte[Math.Min(length, MostWords)];
        Rest(why);
        return string.Join(' ', Encoding.UTF8.GetString(why).Split('\n', '\r', '\0')).Trim();
    }

    /// <summary>Sends a request and waits for an answer; ends the process when that takes too long or is not wanted any more.</summary>
    protected T Ask<T>(ReadOnlySpan<byte> request, TimeSpan patience, CancellationToken stop)
        where T : unmanaged
    {
        stop.ThrowIfCancellationRequested();
        var answer = new byte[Unsafe.SizeOf<T>()];
        using (stop.UnsafeRegister(d => ((WalledProcess)d!).End(), this))
        using (new Timer(d => ((WalledProcess)d!).TakesTooLong(), this, patience, Timeout.InfiniteTimeSpan))
        {
            try
            {
                Process.StandardInput.BaseStream.Write(request);
                Process.StandardInput.BaseStream.Flush();
                Process.StandardOutput.BaseStream.ReadExactly(answer);
            }
            catch (Exception e) when (e is IOException or EndOfStreamException)
            {
                End();
                stop.ThrowIfCancellationRequested();
                Process.WaitForExit();
                // 128 and the signal: the system ends what has used up its processor time by SIGXCPU.
                throw Ended(tooLong || Process.ExitCode == 128 + 24);
            }
        }

        LastUsed = DateTime.UtcNow;
        return MemoryMarshal.Read<T>(answer);
    }

    /// <summary>What follows an answer.</summary>
    protected void Rest(Span<byte> to)
    {
        try
        {
            Process.StandardOutput.BaseStream.ReadExactly(to);
        }
        catch (Exception e) when (e is IOException or EndOfStreamException)
        {
            End();
            throw Ended(tooLong: false);
        }
    }

    protected void End()
    {
        IsOver = true;
        try
        {
            Process.Kill();
        }
        catch (InvalidOperationException)
        {
            // It has ended by itself.
        }
    }

    private void TakesTooLong()
    {
        tooLong = true;
        End();
    }
}

/// <summary>How a request behind the wall ended.</summary>
internal enum AnswerStatus
{
    Done,
    Unsupported,
    Damaged,
    TooLarge,
    NoFile,
}
