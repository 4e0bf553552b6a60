using System.Text;
using K4os.Compression.LZ4;

namespace RootCall.Demo.Meshes;

/// <summary>
/// Writes a crate, USD's binary layer, byte by byte from the published layout (OpenUSD, "crateFile.h": bootstrap,
/// sections, value representations). Paths of prims and properties are given whole; parents before children.
/// </summary>
public sealed class CrateAuthor : IDisposable
{
    /// <summary>Numbers of the types of arrays that <see cref="Floats"/> takes.</summary>
    public const int Vec2f = 20;

    public const int Vec3f = 24;

    /// <summary>The variability of attributes that do not change over time.</summary>
    public const ulong Uniform = (44UL << 48) | (1UL << 62) | 1;

    private const ulong Inlined = 1UL << 62;
    private const ulong IsArray = 1UL << 63;
    private const ulong Packed = 1UL << 61;
    private readonly MemoryStream file = new();
    private readonly List<string> tokens = [string.Empty];
    private readonly List<int> strings = [];
    private readonly List<(int Token, ulong Value)> fields = [];
    private readonly List<int> sets = [];
    private readonly List<(string Path, int Set, int Type)> specs = [];

    public CrateAuthor() => file.Write(new byte[88]);

    public void Dispose() => file.Dispose();

    /// <summary>The pseudo-root with the layer's metadata.</summary>
    public void Root(params (string, ulong)[] values) => Add("/", 7, values);

    public void Prim(string path, string type, params (string, ulong)[] values) =>
        Add(path, 6, [("specifier", Inline(42, 0)), ("typeName", Token(type)), .. values]);

    public void Attribute(string path, string type, params (string, ulong)[] values) =>
        Add(path, 1, [("typeName", Token(type)), .. values]);

    public void Relationship(string path, string target) => Add(path, 8, [("targetPaths", PathList(target))]);

    public void Connect(string path, string type, string target) => Attribute(path, type, ("connectionPaths", PathList(target)));

    public ulong Token(string text) => Inline(11, (uint)TokenIndex(text));

    public ulong Asset(string path) => Inline(12, (uint)TokenIndex(path));

    public static ulong Float(float value) => Inline(8, BitConverter.SingleToUInt32Bits(value));

    /// <summary>Inlined as a float: the value must be one.</summary>
    public static ulong Double(double value) => (9UL << 48) | Inlined | BitConverter.SingleToUInt32Bits((float)value);

    /// <summary>Three small whole numbers, a byte each.</summary>
    public static ulong SmallColour(sbyte r, sbyte g, sbyte b) =>
        (24UL << 48) | Inlined | (byte)r | ((ulong)(byte)g << 8) | ((ulong)(byte)b << 16);

    public ulong Floats(int type, float[] values, int width)
    {
        var at = Here();
        Write((ulong)(values.Length / width));
        foreach (var value in values)
            file.Write(BitConverter.GetBytes(value));
        return ((ulong)type << 48) | IsArray | at;
    }

    /// <summary>Whole numbers as packed differences.</summary>
    public ulong PackedInts(int[] values)
    {
        var at = Here();
        Write((ulong)values.Length);
        var packed = Integers(values);
        Write((ulong)packed.Length);
        file.Write(packed);
        return (3UL << 48) | IsArray | Packed | at;
    }

    public ulong Tokens(params string[] names)
    {
        var at = Here();
        Write((ulong)names.Length);
        foreach (var name in names)
            file.Write(BitConverter.GetBytes(TokenIndex(name)));
        return (11UL << 48) | IsArray | at;
    }

    private ulong PathList(string target)
    {
        // Paths get their numbers at the end: the place is kept and filled then.
        var at = Here();
        file.WriteByte(3);
        Write(1UL);
        fixups.Add((file.Position, target));
        file.Write(new byte[4]);
        return (34UL << 48) | at;
    }

    private readonly List<(long At, string Path)> fixups = [];

    public byte[] Build()
    {
        var sections = new List<(string Name, long Start, long Size)>();
        var paths = specs.Select(s => s.Path).Concat(fixups.Select(f => f.Path)).Distinct().Order(StringComparer.Ordinal).ToList();
        var (tree, elements, jumps) = Tree(paths);
        foreach (var (at, path) in fixups)
        {
            file.Position = at;
            file.Write(BitConverter.GetBytes(paths.IndexOf(path)));
        }

        file.Position = file.Length;
        void Section(string name, Action write)
        {
            var start = file.Position;
            write();
            sections.Add((name, start, file.Position - start));
        }

        Section("TOKENS", () =>
        {
            var text = Encoding.UTF8.GetBytes(string.Concat(tokens.Select(t => t + "\0")));
            Write((ulong)tokens.Count);
            Write((ulong)text.Length);
            Chunk(Compress(text));
        });
        Section("STRINGS", () =>
        {
            Write((ulong)strings.Count);
            foreach (var s in strings)
                file.Write(BitConverter.GetBytes(s));
        });
        Section("FIELDS", () =>
        {
            Write((ulong)fields.Count);
            Chunk(Integers([.. fields.Select(f => f.Token)]));
            Chunk(Compress([.. fields.SelectMany(f => BitConverter.GetBytes(f.Value))]));
        });
        Section("FIELDSETS", () =>
        {
            Write((ulong)sets.Count);
            Chunk(Integers([.. sets]));
        });
        Section("PATHS", () =>
        {
            Write((ulong)paths.Count);
            Write((ulong)tree.Count);
            Chunk(Integers([.. tree]));
            Chunk(Integers([.. elements]));
            Chunk(Integers([.. jumps]));
        });
        Section("SPECS", () =>
        {
            Write((ulong)specs.Count);
            Chunk(Integers([.. specs.Select(s => paths.IndexOf(s.Path))]));
            Chunk(Integers([.. specs.Select(s => s.Set)]));
            Chunk(Integers([.. specs.Select(s => s.Type)]));
        });
        var toc = file.Position;
        Write((ulong)sections.Count);
        foreach (var (name, start, size) in sections)
        {
            file.Write(Encoding.ASCII.GetBytes(name.PadRight(16, '\0')));
            file.Write(BitConverter.GetBytes(start));
            file.Write(BitConverter.GetBytes(size));
        }

        file.Position = 0;
        file.Write("PXR-USDC"u8);
        file.Write([0, 8, 0, 0, 0, 0, 0, 0]);
        file.Write(BitConverter.GetBytes(toc));
        return file.ToArray();
    }

    private void Add(string path, int type, (string Name, ulong Value)[] values)
    {
        specs.Add((path, sets.Count, type));
        foreach (var (name, value) in values)
        {
            sets.Add(fields.Count);
            fields.Add((TokenIndex(name), value));
        }

        sets.Add(-1);
    }

    /// <summary>Depth first; a jump says where the next sibling stands: 0 right behind, -1 no sibling but a child, -2 neither.</summary>
    private (List<int> Paths, List<int> Elements, List<int> Jumps) Tree(List<string> paths)
    {
        var (order, elements, jumps) = (new List<int>(), new List<int>(), new List<int>());
        static string ParentOf(string path) =>
            path.LastIndexOfAny(['/', '.']) is var cut && path[cut] == '/'
                ? cut == 0
                    ? "/"
                    : path[..cut]
                : path[..cut];
        var children = paths.Where(p => p != "/").ToLookup(ParentOf);
        void Visit(string path, bool hasSibling)
        {
            var at = order.Count;
            order.Add(paths.IndexOf(path));
            var name = path[(path.LastIndexOfAny(['/', '.']) + 1)..];
            var isProperty = path.LastIndexOf('.') > path.LastIndexOf('/');
            elements.Add(
                path == "/" ? 0
                : isProperty ? -TokenIndex(name)
                : TokenIndex(name)
            );
            jumps.Add(0);
            var list = children[path].ToList();
            for (var i = 0; i < list.Count; i++)
                Visit(list[i], i + 1 < list.Count);
            jumps[at] = (list.Count > 0, hasSibling) switch
            {
                (true, true) => order.Count - at,
                (true, false) => -1,
                (false, true) => 0,
                _ => -2,
            };
        }

        Visit("/", false);
        return (order, elements, jumps);
    }

    private int TokenIndex(string text)
    {
        var at = tokens.IndexOf(text);
        if (at >= 0)
            return at;
        tokens.Add(text);
        return tokens.Count - 1;
    }

    private static ulong Inline(int type, uint value) => ((ulong)type << 48) | Inlined | value;

    private ulong Here()
    {
        while (file.Position % 8 != 0)
            file.WriteByte(0);
        return (ulong)file.Position;
    }

    private void Write(ulong value) => file.Write(BitConverter.GetBytes(value));

    private void Chunk(byte[] packed)
    {
        Write((ulong)packed.Length);
        file.Write(packed);
    }

    private static byte[] Compress(byte[] bytes)
    {
        var packed = new byte[LZ4Codec.MaximumOutputSize(bytes.Length)];
        var length = LZ4Codec.Encode(bytes, packed);
        return [0, .. packed[..length]];
    }

    /// <summary>Differences with the codes 1 to 3 by their width; the commonest difference, code 0, is 1.</summary>
    private static byte[] Integers(int[] values)
    {
        var codes = new byte[((values.Length * 2) + 7) / 8];
        var numbers = new MemoryStream();
        var previous = 0;
        for (var i = 0; i < values.Length; i++)
        {
            var difference = values[i] - previous;
            previous = values[i];
            var code =
                difference == 1 ? 0
                : difference is >= sbyte.MinValue and <= sbyte.MaxValue ? 1
                : difference is >= short.MinValue and <= short.MaxValue ? 2
                : 3;
            codes[i / 4] |= (byte)(code << (i % 4 * 2));
            if (code == 1)
                numbers.WriteByte((byte)(sbyte)difference);
            else if (code == 2)
                numbers.Write(BitConverter.GetBytes((short)difference));
            else if (code == 3)
                numbers.Write(BitConverter.GetBytes(difference));
        }

        return Compress([.. BitConverter.GetBytes(1), .. codes, .. numbers.ToArray()]);
    }
}
