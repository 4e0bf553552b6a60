namespace RootCall.Core.Formats.Wavefront;

/// <summary>
/// Reads a stream line by line as bytes, with the offset of each line. Ends of line may be LF, CRLF or CR; none is
/// decoded, so a file of any size and encoding goes through with a buffer of its longest line.
/// </summary>
internal sealed class ByteLines(Stream stream)
{
    private byte[] buffer = new byte[1 << 16];
    private int begin;
    private int end;
    private long bufferStart;
    private bool ended;

    /// <summary>Number of the current line, from 1.</summary>
    public int Number { get; private set; }

    /// <summary>Byte offset of the current line.</summary>
    public long Start { get; private set; }

    /// <summary>Moves to the next line; <paramref name="line"/> has no end of line and is valid until the next call.</summary>
    public bool Next(out ReadOnlySpan<byte> line)
    {
        while (true)
        {
            var rest = buffer.AsSpan(begin, end - begin);
            var at = rest.IndexOfAny((byte)'\n', (byte)'\r');

            // A CR at the very end of the buffer may be followed by LF: look further before deciding.
            if (at >= 0 && (rest[at] == (byte)'\n' || at + 1 < rest.Length || ended))
            {
                var skip = rest[at] == (byte)'\r' && at + 1 < rest.Length && rest[at + 1] == (byte)'\n' ? 2 : 1;
                return Give(at, at + skip, out line);
            }

            if (ended)
                return rest.Length > 0 ? Give(rest.Length, rest.Length, out line) : None(out line);
            Fill();
        }
    }

    private bool Give(int length, int advance, out ReadOnlySpan<byte> line)
    {
        line = buffer.AsSpan(begin, length);
        Start = bufferStart + begin;
        begin += advance;
        Number++;
        return true;
    }

    private static bool None(out ReadOnlySpan<byte> line)
    {
        line = default;
        return false;
    }

    private void Fill()
    {
        if (begin > 0)
        {
            buffer.AsSpan(begin, end - begin).CopyTo(buffer);
            bufferStart += begin;
            end -= begin;
            begin = 0;
        }
        else if (end == buffer.Length)
        {
            Array.Resize(ref buffer, buffer.Length * 2);
        }

        var read = stream.Read(buffer, end, buffer.Length - end);
        ended = read == 0;
        end += read;
    }
}
