namespace RootCall.Core.Imaging.Codecs;

/// <summary>
/// Steps over run-length data without decoding it. Formats that declare neither a length nor an end marker can be told
/// whole from cut in no other way.
/// </summary>
internal sealed class RunLengthWalk(HeaderReader reader)
{
    private readonly byte[] buffer = new byte[1 << 16];
    private int at;
    private int end;

    /// <summary>The next byte, or -1 at the end of the file.</summary>
    public int Next()
    {
        if (at == end)
        {
            at = 0;
            end = reader.Fill(buffer);
            if (end == 0)
                return -1;
        }

        return buffer[at++];
    }

    /// <summary>Steps over bytes; false when the file ends before.</summary>
    public bool Skip(int count)
    {
        while (count > end - at)
        {
            count -= end - at;
            at = 0;
            end = reader.Fill(buffer);
            if (end == 0)
                return count == 0;
        }

        at += count;
        return true;
    }
}
