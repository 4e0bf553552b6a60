using System.Buffers.Binary;
using System.Buffers.Text;
using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats.Wavefront;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Geometry;

/// <summary>Stereolithography files, binary and text: triangles and nothing else.</summary>
public sealed class StlFormat : GeometryFormat
{
    private const int HeaderLength = 84;
    private const int FacetLength = 50;

    public override ImmutableArray<string> Extensions { get; } = [".stl"];

    protected override string Name => "STL";

    private protected override Mesh Measure(FileStream stream, string path, List<ReadNote> notes, ShapeKeep? keep, CancellationToken stop)
    {
        var head = new byte[HeaderLength];
        var read = stream.ReadAtLeast(head, HeaderLength, throwOnEndOfStream: false);
        // Binary files may begin with "solid" too: what tells is whether the count fits the length.
        var declared = read == HeaderLength ? BinaryPrimitives.ReadUInt32LittleEndian(head.AsSpan(80)) : 0;
        var fits = read == HeaderLength && HeaderLength + (declared * (long)FacetLength) == stream.Length;
        if (!fits && head.AsSpan(0, Math.Min(read, 80)).TrimStart(" \t\r\n"u8).StartsWith("solid"u8))
            return Text(stream, path, keep);
        if (read < HeaderLength)
            throw new CannotUseException(
                $"“{Path.GetFileName(path)}” is no STL: it is neither text that begins with solid nor 84 bytes long."
            );
        var there = Math.Min(declared, (stream.Length - HeaderLength) / FacetLength);
        if (!fits)
            notes.Add(
                new(
                    Invariant($"The header declares {declared:N0} triangles and {there:N0} are there; those were read."),
                    $"{Path.GetFileName(path)}, byte 80"
                )
            );
        var box = new BoxBuilder();
        var buffer = new byte[FacetLength * 4096];
        var normals = keep?.Stream(GeometryUse.Normal, "facet normal", 3, byPoint: false);
        Span<float> facet = stackalloc float[12];
        for (var left = there; left > 0; )
        {
            stop.ThrowIfCancellationRequested();
            var count = (int)Math.Min(left, 4096);
            stream.ReadExactly(buffer, 0, count * FacetLength);
            for (var i = 0; i < count; i++)
            {
                for (var n = 0; n < facet.Length; n++)
                    facet[n] = BinaryPrimitives.ReadSingleLittleEndian(buffer.AsSpan((i * FacetLength) + (n * sizeof(float))));
                for (var c = 3; c < facet.Length; c += 3)
                    box.Add(facet[c], facet[c + 1], facet[c + 2]);
                normals?.AddRange(facet[..3]);
                keep?.Triangle(facet[3..]);
            }

            left -= count;
        }

        return new(Path.GetFileNameWithoutExtension(path), there * 3, there, there, [], [new(string.Empty, string.Empty, there)])
        {
            HasNormals = true,
            Bounds = box.Box,
        };
    }

    private static Mesh Text(FileStream stream, string path, ShapeKeep? keep)
    {
        stream.Position = 0;
        var lines = new ByteLines(stream);
        var box = new BoxBuilder();
        long vertices = 0,
            facets = 0;
        var normals = keep?.Stream(GeometryUse.Normal, "facet normal", 3, byPoint: false);
        Span<float> point = stackalloc float[3];
        Span<float> facet = stackalloc float[9];
        while (lines.Next(out var line))
        {
            var statement = Statement.Of(line);
            if (statement.Is("facet"u8))
            {
                facets++;
                vertices -= vertices % 3;
                Numbers(statement.Rest.StartsWith("normal"u8) ? statement.Rest["normal".Length..] : [], point);
                normals?.AddRange(point);
            }

            if (!statement.Is("vertex"u8))
                continue;
            Numbers(statement.Rest, point);
            box.Add(point[0], point[1], point[2]);
            point.CopyTo(facet[(int)(vertices % 3 * 3)..]);
            vertices++;
            if (vertices % 3 == 0)
                keep?.Triangle(facet);
        }

        return new(Path.GetFileNameWithoutExtension(path), vertices, facets, facets, [], [new(string.Empty, string.Empty, facets)])
        {
            HasNormals = true,
            Bounds = box.Box,
        };
    }

    /// <summary>What is no number leaves the one before it.</summary>
    private static void Numbers(ReadOnlySpan<byte> text, Span<float> numbers)
    {
        for (var i = 0; i < numbers.Length; i++)
        {
            text = text.TrimStart(" \t"u8);
            if (!Utf8Parser.TryParse(text, out numbers[i], out var used))
                break;
            text = text[used..];
        }
    }
}
