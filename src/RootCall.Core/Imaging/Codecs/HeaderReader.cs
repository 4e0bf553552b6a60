using System.Buffers.Binary;
using System.Text;

namespace RootCall.Core.Imaging.Codecs;

/// <summary>The contents break the format's rules in a way that ends reading. The message says how.</summary>
internal sealed class DamagedImageException(string message) : Exception(message);

/// <summary>Reads numbers of either byte order from a seekable stream.</summary>
internal sealed class HeaderReader(Stream stream)
{
    public long Length => stream.Length;

    public long Position
    {
        get => stream.Position;
        set => stream.Position = value;
    }

    public bool BigEndian { get; set; }

    public int Peek(Span<byte> bytes)
    {
        stream.Position = 0;
        var read = stream.ReadAtLeast(bytes, bytes.Length, throwOnEndOfStream: false);
        stream.Position = 0;
        return read;
    }

    /// <summary>Reads what comes next into the buffer; 0 at the end of the file.</summary>
    public int Fill(byte[] buffer) => stream.Read(buffer);

    public byte U8()
    {
        var b = stream.ReadByte();
        return b >= 0 ? (byte)b : throw new EndOfStreamException();
    }

    public ushort U16()
    {
        Span<byte> b = stackalloc byte[2];
        stream.ReadExactly(b);
        return BigEndian ? BinaryPrimitives.ReadUInt16BigEndian(b) : BinaryPrimitives.ReadUInt16LittleEndian(b);
    }

    public uint U32()
    {
        Span<byte> b = stackalloc byte[4];
        stream.ReadExactly(b);
        return BigEndian ? BinaryPrimitives.ReadUInt32BigEndian(b) : BinaryPrimitives.ReadUInt32LittleEndian(b);
    }

    public ulong U64()
    {
        Span<byte> b = stackalloc byte[8];
        stream.ReadExactly(b);
        return BigEndian ? BinaryPrimitives.ReadUInt64BigEndian(b) : BinaryPrimitives.ReadUInt64LittleEndian(b);
    }

    public int I32() => (int)U32();

    public byte[] Bytes(int count)
    {
        if (count < 0 || count > Length - Position)
            throw new EndOfStreamException();
        var bytes = new byte[count];
        stream.ReadExactly(bytes);
        return bytes;
    }

    /// <summary>Latin-1 text up to a zero byte; at most <paramref name="max"/> bytes.</summary>
    public string ZeroEnded(int max = 256)
    {
        var text = new StringBuilder();
        for (var b = U8(); b != 0; b = U8())
        {
            if (text.Length == max)
                throw new DamagedImageException($"has a name of more than {max} characters in its header");
            text.Append((char)b);
        }

        return text.ToString();
    }

    public void Skip(long count)
    {
        if (count < 0 || count > Length - Position)
            throw new EndOfStreamException();
        stream.Position += count;
    }
}
