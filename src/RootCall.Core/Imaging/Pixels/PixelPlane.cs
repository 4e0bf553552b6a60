using System.Buffers.Binary;
using RootCall.Core.Files;

namespace RootCall.Core.Imaging.Pixels;

/// <summary>How much of a stored value is kept.</summary>
public enum PlaneDepth : byte
{
    Byte = 1,
    Short = 2,
    Float = 4,
}

/// <summary>
/// All pixels of an image as they are stored, uncompressed, in a file of which any window can be read: what one looks into pixel by
/// pixel. A header of 16 bytes, then rows from the top, channels together, little-endian.
/// </summary>
public sealed class PixelPlane : IDisposable
{
    /// <summary>Bytes of the largest; an image that takes more is looked at reduced.</summary>
    public const long Most = 512L << 20;

    private const int Head = 16;
    private const uint Mark = 0x31_4C_50_52;

    /// <summary>Pixels of a window's side.</summary>
    public const int MostSide = 512;

    private readonly FileStream file;

    private PixelPlane(FileStream file, int width, int height, int channels, PlaneDepth depth) =>
        (this.file, Width, Height, Channels, Depth) = (file, width, height, channels, depth);

    public int Width { get; }

    public int Height { get; }

    /// <summary>1 to 4, in the order of <see cref="PixelSample"/>.</summary>
    public int Channels { get; }

    public PlaneDepth Depth { get; }

    /// <param name="path">Absolute path of the image.</param>
    /// <param name="facts">What its header says; null where nobody knows.</param>
    /// <exception cref="CannotUseException">It is too large.</exception>
    /// <exception cref="UndecodedException">It was not decoded to its end.</exception>
    public static void Write(Stream to, string path, ImageFacts? facts, IImageDecoder decoder, CancellationToken stop)
    {
        var depth = facts switch
        {
            { IsFloat: false, BitDepth: <= 8 } => PlaneDepth.Byte,
            { IsFloat: false, BitDepth: <= 16 } => PlaneDepth.Short,
            _ => PlaneDepth.Float,
        };
        byte[] bytes = [];
        decoder.Read(
            path,
            rows =>
            {
                var channels = Math.Min(4, rows.Channels);
                if (rows.First == 0)
                {
                    if ((long)rows.Width * rows.Height * channels * (int)depth is var size && size > Most)
                        throw new CannotUseException(
                            $"{rows.Width} x {rows.Height} pixels take {size >> 20} MB; up to {Most >> 20} MB are opened pixel by pixel."
                        );
                    WriteHead(to, rows.Width, rows.Height, channels, depth);
                }

                if (bytes.Length < rows.Width * channels * (int)depth)
                    bytes = new byte[rows.Width * channels * (int)depth];
                for (var y = 0; y < rows.Count; y++)
                {
                    var length = Encode(
                        rows.Values.Slice(y * rows.Width * rows.Channels, rows.Width * rows.Channels),
                        rows.Channels,
                        channels,
                        depth,
                        bytes
                    );
                    to.Write(bytes, 0, length);
                }
            },
            stop
        );
    }

    /// <summary>Null for a file that is none, or is empty: none could be made.</summary>
    public static PixelPlane? Open(string path)
    {
        var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete, 1);
        Span<byte> head = stackalloc byte[Head];
        if (file.ReadAtLeast(head, Head, throwOnEndOfStream: false) == Head && BinaryPrimitives.ReadUInt32LittleEndian(head) == Mark)
        {
            var (width, height) = (BinaryPrimitives.ReadInt32LittleEndian(head[4..]), BinaryPrimitives.ReadInt32LittleEndian(head[8..]));
            var plane = new PixelPlane(file, width, height, head[12], (PlaneDepth)head[13]);
            if (width > 0 && height > 0 && head[12] is >= 1 and <= 4 && file.Length == Head + ((long)width * height * plane.Stride))
                return plane;
        }

        file.Dispose();
        return null;
    }

    /// <summary>A window, as far as it lies inside.</summary>
    /// <param name="width">Pixels of what is handed back, as <paramref name="height"/>.</param>
    /// <param name="step">Every how many pixels one is taken, in both directions.</param>
    public PixelSample Window(int left, int top, int width, int height, int step = 1)
    {
        step = Math.Clamp(step, 1, 64);
        (left, top) = (Math.Clamp(left, 0, Width - 1), Math.Clamp(top, 0, Height - 1));
        int Inside(int wanted, int there) => Math.Clamp(wanted, 1, Math.Min(MostSide, (there + step - 1) / step));
        (width, height) = (Inside(width, Width - left), Inside(height, Height - top));
        var (values, bytes) = (new float[width * height * Channels], new byte[(((width - 1) * step) + 1) * Stride]);
        for (var y = 0; y < height; y++)
        {
            file.Position = Head + ((((long)(top + (y * step)) * Width) + left) * Stride);
            file.ReadExactly(bytes);
            for (var x = 0; x < width; x++)
            for (var c = 0; c < Channels; c++)
                values[(((y * width) + x) * Channels) + c] = Value(bytes, (x * step * Channels) + c);
        }

        return new(width, height, Channels, values);
    }

    public void Dispose() => file.Dispose();

    private int Stride => Channels * (int)Depth;

    private float Value(byte[] bytes, int at) =>
        Depth switch
        {
            PlaneDepth.Byte => bytes[at] / 255f,
            PlaneDepth.Short => BinaryPrimitives.ReadUInt16LittleEndian(bytes.AsSpan(at * 2)) / 65535f,
            _ => BinaryPrimitives.ReadSingleLittleEndian(bytes.AsSpan(at * 4)),
        };

    private static void WriteHead(Stream to, int width, int height, int channels, PlaneDepth depth)
    {
        Span<byte> head = stackalloc byte[Head];
        head.Clear();
        BinaryPrimitives.WriteUInt32LittleEndian(head, Mark);
        BinaryPrimitives.WriteInt32LittleEndian(head[4..], width);
        BinaryPrimitives.WriteInt32LittleEndian(head[8..], height);
        (head[12], head[13]) = ((byte)channels, (byte)depth);
        to.Write(head);
    }

    private static int Encode(ReadOnlySpan<float> row, int stored, int kept, PlaneDepth depth, byte[] bytes)
    {
        var at = 0;
        for (var i = 0; i < row.Length; i++)
        {
            if (i % stored >= kept)
                continue;
            switch (depth)
            {
                case PlaneDepth.Byte:
                    bytes[at] = (byte)Math.Round(Math.Clamp(row[i], 0, 1) * 255);
                    break;
                case PlaneDepth.Short:
                    BinaryPrimitives.WriteUInt16LittleEndian(bytes.AsSpan(at), (ushort)Math.Round(Math.Clamp(row[i], 0, 1) * 65535));
                    break;
                default:
                    BinaryPrimitives.WriteSingleLittleEndian(bytes.AsSpan(at), row[i]);
                    break;
            }

            at += (int)depth;
        }

        return at;
    }
}
