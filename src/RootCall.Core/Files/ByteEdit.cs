namespace RootCall.Core.Files;

/// <summary>Replaces <paramref name="Length"/> bytes from <paramref name="Start"/> by <paramref name="Bytes"/>.</summary>
public sealed record ByteEdit(long Start, int Length, byte[] Bytes);

/// <summary>Copies a file with some of its bytes replaced; everything else goes through untouched, whatever its size.</summary>
public static class SplicedCopy
{
    /// <summary>
    /// Writes <paramref name="source"/> to <paramref name="destination"/> with <paramref name="edits"/> applied.
    /// </summary>
    /// <exception cref="ArgumentException">Two edits overlap, or one reaches past the end.</exception>
    public static void Write(Stream source, Stream destination, IEnumerable<ByteEdit> edits, CancellationToken stop = default)
    {
        var position = 0L;
        foreach (var edit in edits.OrderBy(e => e.Start))
        {
            if (edit.Start < position)
                throw new ArgumentException($"Two edits overlap at byte {edit.Start}.", nameof(edits));
            CopyExactly(source, destination, edit.Start - position, stop);
            destination.Write(edit.Bytes);
            source.Seek(edit.Length, SeekOrigin.Current);
            position = edit.Start + edit.Length;
            if (position > source.Length)
                throw new ArgumentException($"An edit at byte {edit.Start} reaches past the end.", nameof(edits));
        }

        CopyExactly(source, destination, source.Length - position, stop);
    }

    private static void CopyExactly(Stream source, Stream destination, long count, CancellationToken stop)
    {
        var buffer = new byte[(int)Math.Min(1 << 18, Math.Max(count, 1))];
        while (count > 0)
        {
            stop.ThrowIfCancellationRequested();
            var read = source.Read(buffer, 0, (int)Math.Min(buffer.Length, count));
            if (read == 0)
                throw new EndOfStreamException("The file became shorter while it was read.");
            destination.Write(buffer, 0, read);
            count -= read;
        }
    }
}
