using System.Buffers.Binary;
using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Formats.Usd.Layers;
using static System.FormattableString;

namespace RootCall.Core.Formats.Usd.Crate;

/// <summary>
/// Reads a crate, USD's binary layer (versions 0.4 to 0.12): a bootstrap, a table of contents, and the sections TOKENS,
/// STRINGS, FIELDS, FIELDSETS, PATHS and SPECS. Values stay packed until they are asked for.
/// </summary>
public sealed class CrateReader
{
    private const int BootstrapLength = 88;
    private static readonly Version Oldest = new(0, 4, 0);

    private readonly ReadOnlyMemory<byte> memory;
    private readonly ICollection<string> errors;
    private readonly Dictionary<string, (long Start, long Size)> sections = new(StringComparer.Ordinal);
    private string[] tokens = [];
    private long[] fieldTokens = [];
    private ulong[] fieldValues = [];
    private long[] fieldSets = [];
    private PathNode?[] paths = [];

    private CrateReader(ReadOnlyMemory<byte> memory, ICollection<string> errors)
    {
        this.memory = memory;
        this.errors = errors;
    }

    public static bool IsCrate(ReadOnlySpan<byte> bytes) => bytes.StartsWith("PXR-USDC"u8);

    /// <param name="bytes">The whole layer; it is kept by the values that are still packed.</param>
    /// <param name="errors">What could not be read, each with its byte.</param>
    /// <exception cref="CannotUseException">Not a crate, an older version, or its table of contents is not there.</exception>
    public static UsdLayer Read(ReadOnlyMemory<byte> bytes, ICollection<string> errors) => new CrateReader(bytes, errors).Read();

    private UsdLayer Read()
    {
        var span = memory.Span;
        if (!IsCrate(span) || span.Length < BootstrapLength)
            throw new CannotUseException("This is no crate: it does not begin with its magic bytes, or ends in its first 88.");
        var version = new Version(span[8], span[9], span[10]);
        if (version < Oldest)
            throw new CannotUseException($"This crate is of version {version}; 0.4 and later are read.");
        var toc = new CrateSection(span, BinaryPrimitives.ReadInt64LittleEndian(span[16..]));
        for (var n = toc.Count(32); n > 0; n--)
        {
            var name = Encoding.ASCII.GetString(toc.Take(16)).TrimEnd('\0');
            sections[name] = (toc.Long(), toc.Long());
        }

        var layer = new UsdLayer();
        try
        {
            ReadTokens();
            var strings = ReadStrings();
            ReadFields();
            ReadPaths();
            var values = new CrateValues(memory, version, tokens, strings, i => i < (ulong)paths.Length ? paths[i]?.Text : null);
            ReadSpecs(new CrateSpecs(layer, values, errors));
        }
        catch (CannotUseException e)
        {
            // What was read before it broke is kept.
            errors.Add(e.Message);
        }

        return layer;
    }

    private CrateSection Section(string name) =>
        sections.TryGetValue(name, out var place)
            ? new(memory.Span, place.Start)
            : throw new CannotUseException($"The crate has no section {name}.");

    private void ReadTokens()
    {
        var section = Section("TOKENS");
        var count = section.ULong();
        var size = section.ULong();
        var text = section.Unpack(section.Take(section.Count(1)), (long)Math.Min(size, int.MaxValue));
        var list = new List<string>();
        var rest = text.AsSpan();
        while (rest.Length > 0 && (ulong)list.Count < count)
        {
            var end = rest.IndexOf((byte)0);
            list.Add(Encoding.UTF8.GetString(end < 0 ? rest : rest[..end]));
            rest = end < 0 ? [] : rest[(end + 1)..];
        }

        tokens = [.. list];
        if ((ulong)tokens.Length < count)
            errors.Add(
                Invariant($"The crate declares {count:N0} tokens and holds {tokens.Length:N0}, at byte {sections["TOKENS"].Start:N0}.")
            );
    }

    private uint[] ReadStrings()
    {
        var section = Section("STRINGS");
        var strings = new uint[section.Count(4)];
        for (var i = 0; i < strings.Length; i++)
            strings[i] = section.UInt();
        return strings;
    }

    private void ReadFields()
    {
        var section = Section("FIELDS");
        var count = Bounded(ref section);
        fieldTokens = section.Integers(count);
        var packed = section.Take(section.Count(1));
        var values = section.Unpack(packed, count * 8L);
        fieldValues = new ulong[values.Length / 8];
        for (var i = 0; i < fieldValues.Length; i++)
            fieldValues[i] = BinaryPrimitives.ReadUInt64LittleEndian(values.AsSpan(i * 8));
        section = Section("FIELDSETS");
        fieldSets = section.Integers(Bounded(ref section));
    }

    /// <summary>A count of packed numbers; their bytes are checked when they are unpacked.</summary>
    private static int Bounded(ref CrateSection section)
    {
        var count = section.ULong();
        return count <= int.MaxValue / 8 ? (int)count : throw section.Bad(Invariant($"declares {count:N0} items"));
    }

    /// <summary>Paths are a tree written depth first: each entry says by its jump whether a child, a sibling or both follow.</summary>
    private void ReadPaths()
    {
        var section = Section("PATHS");
        var count = Bounded(ref section);
        var encoded = Bounded(ref section);
        var indexes = section.Integers(encoded);
        var elements = section.Integers(encoded);
        var jumps = section.Integers(encoded);
        if (count > Math.Max(encoded, 1) * 4L)
            count = encoded;
        paths = new PathNode?[count];
        var open = new Stack<(int Index, PathNode? Parent)>([(0, null)]);
        var visited = 0;
        while (open.TryPop(out var step))
        {
            var (at, parent) = step;
            while (at >= 0 && at < encoded && visited++ <= encoded)
            {
                var element = elements[at];
                var token = Math.Abs(element);
                var node = parent is null
                    ? PathNode.Root
                    : new PathNode(parent, token < tokens.Length ? tokens[token] : string.Empty, element < 0);
                if (indexes[at] >= 0 && indexes[at] < paths.Length)
                    paths[indexes[at]] = node;
                var jump = jumps[at];
                var hasChild = jump > 0 || jump == -1;
                var hasSibling = jump >= 0;
                if (hasChild && hasSibling)
                    open.Push((at + (int)jump, parent));
                if (hasChild)
                    parent = node;
                if (!hasChild && !hasSibling)
                    break;
                at++;
            }
        }
    }

    private void ReadSpecs(CrateSpecs specs)
    {
        var section = Section("SPECS");
        var count = Bounded(ref section);
        var pathIndexes = section.Integers(count);
        var setIndexes = section.Integers(count);
        var types = section.Integers(count);
        // Parents before children, so that each spec finds its place.
        foreach (
            var i in Enumerable
                .Range(0, count)
                .OrderBy(i => pathIndexes[i] >= 0 && pathIndexes[i] < paths.Length ? paths[pathIndexes[i]]?.Depth ?? 0 : 0)
        )
        {
            if (pathIndexes[i] < 0 || pathIndexes[i] >= paths.Length || paths[pathIndexes[i]] is not { } path)
                continue;
            specs.Add(path, (int)types[i], Fields(setIndexes[i]));
        }
    }

    private IEnumerable<(string Name, ulong Value)> Fields(long set)
    {
        for (var i = set; i >= 0 && i < fieldSets.Length; i++)
        {
            var field = fieldSets[i];
            if (field < 0 || field >= fieldValues.Length)
                yield break;
            var token = fieldTokens[field];
            if (token >= 0 && token < tokens.Length)
                yield return (tokens[token], fieldValues[field]);
        }
    }
}

/// <summary>A path as the crate's tree has it.</summary>
internal sealed class PathNode(PathNode? parent, string element, bool isProperty)
{
    public static PathNode Root { get; } = new(null, string.Empty, false);

    public PathNode? Parent => parent;

    public string Element => element;

    public bool IsProperty => isProperty;

    public int Depth { get; } = parent is null ? 0 : parent.Depth + 1;

    public bool IsVariant => element.StartsWith('{');

    public string Text =>
        parent is null ? "/"
        : isProperty ? $"{parent.Text}.{element}"
        : IsVariant || parent.IsVariant || parent.Parent is null ? parent.Text + element
        : $"{parent.Text}/{element}";
}
