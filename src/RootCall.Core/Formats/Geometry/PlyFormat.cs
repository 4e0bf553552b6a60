using System.Buffers.Binary;
using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Geometry;

/// <summary>The polygon file format, text and binary in both byte orders: elements whose properties the header declares.</summary>
public sealed class PlyFormat : GeometryFormat
{
    private const int LongestHeader = 1 << 16;

    public override ImmutableArray<string> Extensions { get; } = [".ply"];

    protected override string Name => "PLY";

    private sealed record Property(string Name, string Type, string? CountType);

    private sealed record Element(string Name, long Count, List<Property> Properties);

    private protected override Mesh Measure(FileStream stream, string path, List<ReadNote> notes, ShapeKeep? keep, CancellationToken stop)
    {
        var (format, elements) = Header(stream, Path.GetFileName(path));
        using var buffered = new BufferedStream(stream, 1 << 18);
        var values = new Values(buffered, format);
        var length = stream.Length;
        var box = new BoxBuilder();
        long vertices = 0,
            faces = 0,
            triangles = 0;
        var vertexProperties = elements.FirstOrDefault(e => e.Name == "vertex")?.Properties ?? [];
        var (x, y, z) = (
            vertexProperties.FindIndex(p => p.Name == "x"),
            vertexProperties.FindIndex(p => p.Name == "y"),
            vertexProperties.FindIndex(p => p.Name == "z")
        );
        var streams = keep is null ? [] : Streams(vertexProperties, keep);
        try
        {
            // One without properties has nothing to read, however many it declares.
            foreach (var element in elements.Where(e => e.Properties.Count > 0))
            {
                var row = new double[element.Properties.Count];
                for (var i = 0L; i < element.Count; i++)
                {
                    if ((i & 0xFFFF) == 0)
                        stop.ThrowIfCancellationRequested();
                    long corners = 0;
                    List<int>? indices = null;
                    for (var p = 0; p < row.Length; p++)
                    {
                        var property = element.Properties[p];
                        if (property.CountType is null)
                            row[p] = values.Next(property.Type);
                        else
                        {
                            var count = (long)values.Next(property.CountType);
                            var called = property.Name is "vertex_indices" or "vertex_index";
                            if (called)
                                (corners, indices) = (count, keep is null ? null : []);
                            for (var c = 0L; c < count; c++)
                            {
                                var value = values.Next(property.Type);
                                if (called)
                                    indices?.Add(value is >= 0 and <= int.MaxValue ? (int)value : -1);
                            }
                        }
                    }

                    values.EndRow();
                    if (element.Name == "vertex")
                    {
                        vertices++;
                        if (x >= 0 && y >= 0 && z >= 0)
                        {
                            box.Add(row[x], row[y], row[z]);
                            keep?.Point(row[x], row[y], row[z]);
                        }

                        foreach (var (all, places, most) in streams)
                        foreach (var place in places)
                            all.Add((float)(row[place] / most));
                    }
                    else if (element.Name == "face")
                    {
                        faces++;
                        triangles += Math.Max(0, corners - 2);
                        if (indices is not null)
                            keep!.Face([.. indices]);
                    }
                }
            }
        }
        catch (EndOfStreamException)
        {
            notes.Add(
                new(
                    Invariant(
                        $"The file ends after {vertices:N0} points and {faces:N0} faces, before what its header declares; those were read."
                    ),
                    Invariant($"{Path.GetFileName(path)}, byte {length:N0}")
                )
            );
        }

        return new(
            Path.GetFileNameWithoutExtension(path),
            vertices,
            faces,
            triangles,
            vertexProperties.Any(p => UvNames.Any(n => n.U == p.Name)) ? ["uv"] : [],
            [new(string.Empty, string.Empty, triangles)]
        )
        {
            HasNormals = vertexProperties.Any(p => p.Name == "nx"),
            HasColours = vertexProperties.Any(p => p.Name == "red"),
            Bounds = box.Box,
        };
    }

    /// <summary>What writers call texture coordinates (common practice; the format names none).</summary>
    private static readonly (string U, string V)[] UvNames = [("s", "t"), ("u", "v"), ("texture_u", "texture_v")];

    /// <summary>Where the values of each stream lie among the properties of a vertex; colours in bytes become 0 to 1.</summary>
    private static List<(List<float> Values, int[] Places, double Most)> Streams(List<Property> properties, ShapeKeep keep)
    {
        var streams = new List<(List<float>, int[], double)>();
        void Add(GeometryUse use, string name, params string[] names)
        {
            var places = Array.ConvertAll(names, n => properties.FindIndex(p => p.Name == n));
            if (!places.Contains(-1))
                streams.Add(
                    (
                        keep.Stream(use, name, names.Length, byPoint: true),
                        places,
                        use == GeometryUse.Colour ? Most(properties[places[0]].Type) : 1
                    )
                );
        }

        Add(GeometryUse.Normal, "normal", "nx", "ny", "nz");
        foreach (var (u, v) in UvNames)
            Add(GeometryUse.Uv, "uv", u, v);
        if (properties.Exists(p => p.Name == "alpha"))
            Add(GeometryUse.Colour, "colour", "red", "green", "blue", "alpha");
        else
            Add(GeometryUse.Colour, "colour", "red", "green", "blue");
        return streams;
    }

    private static double Most(string type) =>
        type switch
        {
            "uchar" or "uint8" => byte.MaxValue,
            "ushort" or "uint16" => ushort.MaxValue,
            _ => 1,
        };

    private static (string Format, List<Element> Elements) Header(FileStream stream, string name)
    {
        var head = new byte[Math.Min(LongestHeader, stream.Length)];
        stream.ReadExactly(head);
        if (!head.AsSpan().StartsWith("ply"u8))
            throw new CannotUseException($"“{name}” is no PLY: it does not begin with ply.");
        var end = head.AsSpan().IndexOf("end_header"u8);
        if (end < 0)
            throw new CannotUseException(Invariant($"“{name}” is a PLY whose header does not end within {LongestHeader:N0} bytes."));
        var after = head.AsSpan(end).IndexOf((byte)'\n');
        stream.Position = after < 0 ? end + "end_header".Length : end + after + 1;
        var format = string.Empty;
        var elements = new List<Element>();
        foreach (var line in Encoding.Latin1.GetString(head, 0, end).Split(['\n', '\r'], StringSplitOptions.RemoveEmptyEntries))
        {
            var words = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
            switch (words)
            {
                case ["format", var f, ..]:
                    format = f;
                    break;
                case ["element", var element, var count, ..]
                    when long.TryParse(count, NumberStyles.None, CultureInfo.InvariantCulture, out var n):
                    elements.Add(new(element, n, []));
                    break;
                case ["property", "list", var countType, var type, var property, ..] when elements.Count > 0:
                    elements[^1].Properties.Add(new(property, type, countType));
                    break;
                case ["property", var type, var property, ..] when elements.Count > 0:
                    elements[^1].Properties.Add(new(property, type, null));
                    break;
                default:
                    break;
            }
        }

        return format is "ascii" or "binary_little_endian" or "binary_big_endian"
            ? (format, elements)
            : throw new CannotUseException($"“{name}” is a PLY of the format “{format}”, which is not read.");
    }

    /// <summary>Values one after the other, as the header types them.</summary>
    private sealed class Values(BufferedStream buffered, string format)
    {
        private readonly byte[] bytes = new byte[8];

        public double Next(string type)
        {
            if (format == "ascii")
                return Token();
            var size = type switch
            {
                "char" or "uchar" or "int8" or "uint8" => 1,
                "short" or "ushort" or "int16" or "uint16" => 2,
                "double" or "float64" => 8,
                _ => 4,
            };
            var span = bytes.AsSpan(0, size);
            buffered.ReadExactly(span);
            if (format == "binary_big_endian")
                span.Reverse();
            return type switch
            {
                "char" or "int8" => (sbyte)span[0],
                "uchar" or "uint8" => span[0],
                "short" or "int16" => BinaryPrimitives.ReadInt16LittleEndian(span),
                "ushort" or "uint16" => BinaryPrimitives.ReadUInt16LittleEndian(span),
                "int" or "int32" => BinaryPrimitives.ReadInt32LittleEndian(span),
                "uint" or "uint32" => BinaryPrimitives.ReadUInt32LittleEndian(span),
                "double" or "float64" => BinaryPrimitives.ReadDoubleLittleEndian(span),
                _ => BinaryPrimitives.ReadSingleLittleEndian(span),
            };
        }

        /// <summary>In a text file a row may carry more than the header declares.</summary>
        public void EndRow()
        {
            if (format != "ascii")
                return;
            while (!ended && last != '\n' && (last = buffered.ReadByte()) >= 0) { }

            ended |= last < 0;
            last = 0;
        }

        private int last;
        private bool ended;

        private double Token()
        {
            var text = new StringBuilder();
            while (true)
            {
                last = buffered.ReadByte();
                if (last < 0 && text.Length == 0)
                    throw new EndOfStreamException();
                if (last is < 0 or ' ' or '\t' or '\r' or '\n')
                {
                    if (text.Length > 0)
                        break;
                    continue;
                }

                text.Append((char)last);
            }

            return double.TryParse(text.ToString(), NumberStyles.Float, CultureInfo.InvariantCulture, out var n) ? n : 0;
        }
    }
}
