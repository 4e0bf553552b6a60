using System.Globalization;
using System.Runtime.InteropServices;
using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Pixels;

namespace RootCall.Native;

/// <summary>One child process that decodes images, one at a time (<c>shim/rootcall_images.cpp</c>).</summary>
internal sealed class DecoderProcess : WalledProcess
{
    /// <summary>The pixels that come back at once.</summary>
    public const long SharedBytes = 64L << 20;

    /// <summary>Of a file that is written: what is worked out between two requests.</summary>
    private const int StripFloats = 1 << 20;

    private readonly SharedMemory pixels;
    private readonly Bounds bounds;

    private DecoderProcess(Bounds bounds)
        : base(
            "rootcall-images",
            bounds.ImageMemory.ToString(CultureInfo.InvariantCulture),
            SharedBytes.ToString(CultureInfo.InvariantCulture)
        )
    {
        this.bounds = bounds;
        try
        {
            pixels = new(Process.Id, Ask<int>([], ToStart, CancellationToken.None));
        }
        catch (Exception e) when (e is UndecodedException or IOException)
        {
            base.Dispose();
            throw new UndecodedException(new(DecodeFault.NoDecoder, "cannot be decoded: the decoder does not start"));
        }
    }

    /// <exception cref="UndecodedException">The program does not start.</exception>
    public static DecoderProcess Start(Bounds bounds)
    {
        try
        {
            return new(bounds);
        }
        catch (System.ComponentModel.Win32Exception e)
        {
            throw new UndecodedException(new(DecodeFault.NoDecoder, $"cannot be decoded: the decoder does not start ({e.Message})"));
        }
    }

    public ReducedImage Reduce(string path, int side, CancellationToken stop)
    {
        var answer = Ask(RequestKind.Reduce, path, (uint)side, stop);
        var tiny = new float[ReducedImage.TinyWidth * ReducedImage.TinyHeight * answer.Picked];
        var grid = new float[answer.GridWidth * answer.GridHeight * answer.Picked];
        var picture = new byte[answer.Picture];
        var at = Pixels(tiny, 0);
        at = Pixels(grid, at);
        Pixels(picture, at);
        return new(
            picture,
            new(ReducedImage.TinyWidth, ReducedImage.TinyHeight, answer.Picked, tiny),
            new(answer.GridWidth, answer.GridHeight, answer.Picked, grid)
        );
    }

    public void Read(string path, Action<PixelRows> take, CancellationToken stop)
    {
        Ask(RequestKind.Open, path, 0, stop);
        float[] strip = [];
        var first = 0;
        while (Ask(RequestKind.Next, path, 0, stop) is { Rows: > 0 } answer)
        {
            var count = answer.Width * answer.Channels * answer.Rows;
            if (strip.Length < count)
                strip = new float[count];
            Pixels(strip.AsSpan(0, count), 0);
            take(new(answer.Width, answer.Height, answer.Channels, first, strip.AsSpan(0, count)));
            first += answer.Rows;
        }
    }

    public byte[] Encode(LinearFile format, int width, int height, ReadOnlySpan<float> rgb, CancellationToken stop)
    {
        if (rgb.Length * (long)sizeof(float) > SharedBytes)
            throw new UndecodedException(new(DecodeFault.TooLarge, "is larger than is encoded"));
        pixels.Write(rgb, 0);
        var file = new byte[Ask(RequestKind.Encode, $"picture.{format}".ToLowerInvariant(), (uint)width, stop, (uint)height).Picture];
        Pixels(file.AsSpan(), 0);
        return file;
    }

    public void Write(Stream file, ImageForm form, int width, int height, FillRows fill, CancellationToken stop)
    {
        var packed = (uint)(form.Channels + (form.Bits << 4));
        Ask(RequestKind.Begin, $"picture.{(form.Bits == 32 ? "exr" : "png")}", (uint)width, stop, (uint)height, packed);
        var line = width * form.Channels;
        var rows = Math.Max(1, Math.Min(height, StripFloats / line));
        var (strip, other) = (new float[rows * line], new float[rows * line]);
        int Fill(int first, float[] into)
        {
            var count = Math.Min(rows, height - first);
            fill(first, count, into.AsMemory(0, count * line));
            return count;
        }

        // The next rows are worked out while the child process packs those before.
        var filling = Task.Run(() => Fill(0, strip), stop);
        try
        {
            for (var first = 0; first < height; )
            {
                var count = filling.GetAwaiter().GetResult();
                stop.ThrowIfCancellationRequested();
                var (from, into) = (first + count, other);
                filling = from < height ? Task.Run(() => Fill(from, into), stop) : Task.FromResult(0);
                pixels.Write<float>(strip.AsSpan(0, count * line), 0);
                Ask(RequestKind.Put, string.Empty, 0, stop, (uint)count);
                (strip, other) = (other, strip);
                first = from;
            }
        }
        finally
        {
            // What fills reads things of the caller's, who goes on when this returns.
            ((IAsyncResult)filling).AsyncWaitHandle.WaitOne();
        }

        var left = Ask(RequestKind.End, string.Empty, 0, stop).Picture;
        var part = new byte[Math.Min(left, SharedBytes)];
        for (var n = 0u; left > 0; n++)
        {
            Ask(RequestKind.Take, string.Empty, 0, stop, n);
            var count = (int)Math.Min(left, SharedBytes);
            Pixels(part.AsSpan(0, count), 0);
            file.Write(part, 0, count);
            left -= count;
        }
    }

    public override void Dispose()
    {
        base.Dispose();
        pixels?.Dispose();
    }

    protected override Exception Ended(bool tooLong) =>
        new UndecodedException(
            tooLong
                ? new(DecodeFault.TooLong, $"takes longer than {bounds.ImageSeconds} s to decode")
                : new(DecodeFault.EndedDecoder, "ended the decoder")
        );

    private Answer Ask(RequestKind kind, string path, uint side, CancellationToken stop, uint grid = PixelStats.Side, uint form = 0)
    {
        // The rest of the image that is open needs no name.
        byte[] name = kind is RequestKind.Next ? [] : Encoding.UTF8.GetBytes(path);
        var request = new Request(kind, side, grid, (uint)name.Length, (ulong)bounds.ImageBytes, (uint)bounds.ImageSeconds, form);
        var answer = Ask<Request, Answer>(request, name, bounds.ImageSeconds, stop);
        return answer.Status == AnswerStatus.Done
            ? answer
            : throw new UndecodedException(new(FaultOf(answer.Status), Sentence(Why(answer.Length), path)));
    }

    private static DecodeFault FaultOf(AnswerStatus status) =>
        status switch
        {
            AnswerStatus.Unsupported => DecodeFault.Unsupported,
            AnswerStatus.TooLarge => DecodeFault.TooLarge,
            AnswerStatus.NoFile => DecodeFault.NoFile,
            _ => DecodeFault.Damaged,
        };

    /// <summary>The library's words, with the file's name where it says its path.</summary>
    private static string Sentence(string said, string path)
    {
        var line = said.Replace(path, Path.GetFileName(path), StringComparison.Ordinal);
        return line.Length switch
        {
            0 => "does not decode",
            > 300 => line[..300],
            _ => line,
        };
    }

    /// <summary>Takes what lies at a place of the shared memory.</summary>
    /// <returns>The place after it.</returns>
    private long Pixels<T>(Span<T> to, long at)
        where T : unmanaged
    {
        try
        {
            return pixels.Read(to, at);
        }
        catch (EndOfStreamException)
        {
            throw new UndecodedException(new(DecodeFault.EndedDecoder, "ended the decoder"));
        }
    }

    private enum RequestKind : uint
    {
        Reduce,
        Open,
        Next,
        Encode,
        Begin,
        Put,
        End,
        Take,
    }

    [StructLayout(LayoutKind.Sequential)]
    private readonly record struct Request(RequestKind Kind, uint Side, uint Grid, uint Length, ulong Bytes, uint Seconds, uint Form);

    [StructLayout(LayoutKind.Sequential)]
    private readonly record struct Answer(
        AnswerStatus Status,
        int Width,
        int Height,
        int Channels,
        int IsFloat,
        int Picked,
        int GridWidth,
        int GridHeight,
        int Picture,
        int Rows,
        int Length
    );
}
