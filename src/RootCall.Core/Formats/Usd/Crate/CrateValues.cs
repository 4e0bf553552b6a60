using System.Buffers.Binary;
using System.Collections.Immutable;
using RootCall.Core.Formats.Usd.Layers;
using static System.FormattableString;

namespace RootCall.Core.Formats.Usd.Crate;

/// <summary>
/// Decodes value representations: 64 bits with a type, three flags and 48 bits that are the value itself or its place in
/// the file.
/// </summary>
internal sealed class CrateValues(
    ReadOnlyMemory<byte> memory,
    Version version,
    string[] tokens,
    uint[] strings,
    Func<ulong, string?> pathAt
)
{
    private const ulong ArrayFlag = 1UL << 63;
    private const ulong InlineFlag = 1UL << 62;
    private const ulong PackedFlag = 1UL << 61;
    private const int PackedFrom = 16;
    private const int MaxDepth = 64;

    // Types by their number in a representation.
    private const int Bool = 1,
        UChar = 2,
        Int = 3,
        UInt = 4,
        Int64 = 5,
        UInt64 = 6,
        Half = 7,
        Float = 8,
        Double = 9,
        String = 10,
        Token = 11,
        Asset = 12,
        DictionaryType = 31,
        TokenListOp = 32,
        StringListOp = 33,
        PathListOp = 34,
        ReferenceListOp = 35,
        PathVector = 40,
        TokenVector = 41,
        VariantSelectionMap = 45,
        TimeSamplesType = 46,
        PayloadType = 47,
        DoubleVector = 48,
        StringVector = 50,
        ValueBlock = 51,
        PayloadListOp = 55,
        TimeCode = 56;

    private static readonly Version WideCounts = new(0, 7, 0);
    private static readonly Version Shapeless = new(0, 5, 0);
    private static readonly Version PayloadOffsets = new(0, 8, 0);

    public static ulong Payload(ulong rep) => rep & 0xFFFF_FFFF_FFFF;

    private static int Type(ulong rep) => (int)((rep >> 48) & 0xFF);

    public UsdValue? Read(ulong rep, int depth = 0)
    {
        var (type, payload) = (Type(rep), Payload(rep));
        if ((rep & ArrayFlag) != 0)
            return Array(rep, type, payload);
        if (Component(type) is { Width: > 0 } numbers)
            return Scalar(rep, type, numbers, payload);
        var section = new CrateSection(memory.Span, (long)payload);
        var inline = (rep & InlineFlag) != 0;
        return type switch
        {
            Token => new UsdText(TokenAt(inline ? (uint)payload : section.UInt())),
            String => new UsdText(StringAt(inline ? (uint)payload : section.UInt())),
            Asset => new UsdAsset(TokenAt(inline ? (uint)payload : section.UInt()), -1, 0),
            ValueBlock => new UsdBlock(),
            DictionaryType => inline ? new UsdDictionary(ImmutableDictionary<string, UsdValue>.Empty) : Dictionary(ref section, depth),
            TokenVector => Names(ref section, TokenAt),
            StringVector => Names(ref section, StringAt),
            TokenListOp => Names(ListOp(ref section, 4, (ref CrateSection s) => TokenAt(s.UInt()))),
            StringListOp => Names(ListOp(ref section, 4, (ref CrateSection s) => StringAt(s.UInt()))),
            PathVector => Names(ref section, i => pathAt(i) ?? string.Empty),
            DoubleVector => Doubles(ref section),
            _ => new UsdOther($"type {type}"),
        };
    }

    public UsdListOp<UsdArc> Arcs(ulong rep)
    {
        var section = new CrateSection(memory.Span, (long)Payload(rep));
        switch (Type(rep))
        {
            case ReferenceListOp:
                return ListOp(ref section, 32, (ref CrateSection s) => Arc(ref s, withOffset: true, withData: true));
            case PayloadListOp:
                return ListOp(ref section, 8, (ref CrateSection s) => Arc(ref s, version >= PayloadOffsets, withData: false));
            case PayloadType:
                return new(true, [Arc(ref section, version >= PayloadOffsets, withData: false)], [], []);
            default:
                return new(false, [], [], []);
        }
    }

    public UsdListOp<string> Paths(ulong rep)
    {
        var section = new CrateSection(memory.Span, (long)Payload(rep));
        return Type(rep) switch
        {
            PathListOp => ListOp(ref section, 4, (ref CrateSection s) => pathAt(s.UInt()) ?? string.Empty),
            PathVector => new(
                true,
                [.. ((UsdList)Names(ref section, i => pathAt(i) ?? string.Empty)).Items.Select(i => i.AsText!)],
                [],
                []
            ),
            _ => new(false, [], [], []),
        };
    }

    public IEnumerable<KeyValuePair<string, string>> Selections(ulong rep)
    {
        var found = new List<KeyValuePair<string, string>>();
        if (Type(rep) != VariantSelectionMap)
            return found;
        var section = new CrateSection(memory.Span, (long)Payload(rep));
        for (var n = section.Count(8); n > 0; n--)
            found.Add(new(StringAt(section.UInt()), StringAt(section.UInt())));
        return found;
    }

    /// <summary>Time samples are two jumps: to the times, then to a count and the representations of the values.</summary>
    public UsdValue? FirstSample(ulong rep)
    {
        if (Type(rep) != TimeSamplesType)
            return null;
        var section = new CrateSection(memory.Span, (long)Payload(rep));
        section.At += 8;
        section.At = section.At + section.Long() - 8;
        return section.Count(8) > 0 ? Read(section.ULong()) : null;
    }

    private string TokenAt(uint index) => index < tokens.Length ? tokens[index] : string.Empty;

    private string StringAt(uint index) => index < strings.Length ? TokenAt(strings[index]) : string.Empty;

    private UsdArc Arc(ref CrateSection section, bool withOffset, bool withData)
    {
        var asset = StringAt(section.UInt());
        var prim = pathAt(section.UInt()) ?? string.Empty;
        if (withOffset)
            section.Take(16);
        if (withData)
            Dictionary(ref section, 0);
        return new(asset.Length == 0 ? null : new(asset, -1, 0), prim == "/" ? string.Empty : prim);
    }

    private UsdDictionary Dictionary(ref CrateSection section, int depth)
    {
        var entries = ImmutableDictionary.CreateBuilder<string, UsdValue>(StringComparer.Ordinal);
        for (var n = section.Count(12); n > 0; n--)
        {
            var key = StringAt(section.UInt());
            var from = section.At;
            var jump = section.Long();
            var there = new CrateSection(memory.Span, from + jump);
            if (depth < MaxDepth && Read(there.ULong(), depth + 1) is { } value)
                entries[key] = value;
        }

        return new(entries.ToImmutable());
    }

    private static UsdList Names(ref CrateSection section, Func<uint, string> at)
    {
        var items = ImmutableArray.CreateBuilder<UsdValue>();
        for (var n = section.Count(4); n > 0; n--)
            items.Add(new UsdText(at(section.UInt())));
        return new(items.ToImmutable());
    }

    private static UsdList Names(UsdListOp<string> names) => new([.. names.Items.Select(n => (UsdValue)new UsdText(n))]);

    private static UsdKnownNumbers Doubles(ref CrateSection section)
    {
        var numbers = ImmutableArray.CreateBuilder<double>();
        for (var n = section.Count(8); n > 0; n--)
            numbers.Add(section.Double());
        return new(numbers.ToImmutable(), 1);
    }

    private delegate T Item<T>(ref CrateSection section);

    /// <summary>A byte of flags, then the lists it announces: explicit, added, prepended, appended, deleted, ordered.</summary>
    private static UsdListOp<T> ListOp<T>(ref CrateSection section, int each, Item<T> item)
    {
        var flags = section.Byte();
        ImmutableArray<T> Take(ref CrateSection s, int bit)
        {
            if ((flags & (1 << bit)) == 0)
                return [];
            var items = ImmutableArray.CreateBuilder<T>();
            for (var n = s.Count(each); n > 0; n--)
                items.Add(item(ref s));
            return items.ToImmutable();
        }

        var explicitItems = Take(ref section, 1);
        var added = Take(ref section, 2);
        var prepended = Take(ref section, 5);
        var appended = Take(ref section, 6);
        var deleted = Take(ref section, 3);
        return new((flags & 1) != 0, [.. explicitItems, .. prepended], [.. added, .. appended], deleted);
    }

    /// <summary>The number type a value is made of, its size in bytes, and how many make an element; width 0 for no number.</summary>
    private static (int Kind, int Size, int Width) Component(int type) =>
        type switch
        {
            Bool => (UChar, 1, 1),
            UChar => (UChar, 1, 1),
            Int => (Int, 4, 1),
            UInt => (UInt, 4, 1),
            Int64 => (Int64, 8, 1),
            UInt64 => (UInt64, 8, 1),
            Half => (Half, 2, 1),
            Float => (Float, 4, 1),
            Double or TimeCode => (Double, 8, 1),
            13 => (Double, 8, 4),
            14 => (Double, 8, 9),
            15 => (Double, 8, 16),
            16 => (Double, 8, 4),
            17 => (Float, 4, 4),
            18 => (Half, 2, 4),
            >= 19 and <= 30 => (
                ((type - 19) % 4) switch
                {
                    0 => Double,
                    1 => Float,
                    2 => Half,
                    _ => Int,
                },
                ((type - 19) % 4) switch
                {
                    0 => 8,
                    1 => 4,
                    2 => 2,
                    _ => 4,
                },
                ((type - 19) / 4) + 2
            ),
            _ => (0, 0, 0),
        };

    private UsdKnownNumbers Scalar(ulong rep, int type, (int Kind, int Size, int Width) number, ulong payload)
    {
        if ((rep & InlineFlag) == 0)
        {
            var section = new CrateSection(memory.Span, (long)payload);
            return new([.. Decode(section.Take(number.Size * number.Width), number.Kind, number.Size)], number.Width);
        }

        Span<byte> bytes = stackalloc byte[8];
        BinaryPrimitives.WriteUInt64LittleEndian(bytes, payload);
        if (number.Width == 1)
        {
            // Doubles are inlined as floats and long integers as short ones, when nothing is lost.
            var kind = number.Kind switch
            {
                Double => Float,
                Int64 => Int,
                UInt64 => UInt,
                _ => number.Kind,
            };
            return new(
                [
                    .. Decode(
                        bytes[
                            ..(
                                kind is UChar ? 1
                                : kind == Half ? 2
                                : 4
                            )
                        ],
                        kind,
                        kind is UChar ? 1
                            : kind == Half ? 2
                            : 4
                    ),
                ],
                1
            );
        }

        var side = type switch
        {
            13 => 2,
            14 => 3,
            15 => 4,
            _ => 0,
        };
        var numbers = new double[number.Width];
        // Vectors of small whole numbers are inlined a byte each; matrices by their diagonal.
        for (var i = 0; i < (side > 0 ? side : number.Width); i++)
            numbers[side > 0 ? i * (side + 1) : i] = (sbyte)bytes[i];
        return new([.. numbers], number.Width);
    }

    private UsdValue Array(ulong rep, int type, ulong payload)
    {
        if (type is Token or String or Asset)
        {
            if (payload == 0)
                return new UsdList([]);
            var section = new CrateSection(memory.Span, (long)payload);
            var count = Length(ref section);
            var items = ImmutableArray.CreateBuilder<UsdValue>();
            if (count > memory.Length / 4)
                throw section.Bad(Invariant($"declares {count:N0} items, more than the file could hold"));
            for (var i = 0L; i < count; i++)
            {
                var index = section.UInt();
                items.Add(
                    type switch
                    {
                        Token => new UsdText(TokenAt(index)),
                        String => new UsdText(StringAt(index)),
                        _ => new UsdAsset(StringAt(index), -1, 0),
                    }
                );
            }

            return new UsdList(items.ToImmutable());
        }

        var number = Component(type);
        if (number.Width == 0)
            return new UsdOther($"array of type {type}");
        if (payload == 0)
            return new UsdKnownNumbers([], number.Width);
        return new UsdLazyNumbers(
            number.Width,
            () =>
            {
                var section = new CrateSection(memory.Span, (long)payload);
                return Length(ref section);
            },
            () => Numbers((rep & PackedFlag) != 0, number, payload)
        );
    }

    private long Length(ref CrateSection section)
    {
        if (version < Shapeless)
            section.UInt(); // A rank that was always 1.
        return version < WideCounts ? section.UInt() : section.Long();
    }

    private double[] Numbers(bool packed, (int Kind, int Size, int Width) number, ulong payload)
    {
        var section = new CrateSection(memory.Span, (long)payload);
        var count = Length(ref section);
        if (count is < 0 or > int.MaxValue / 16)
            throw section.Bad(Invariant($"declares an array of {count:N0}"));
        if (!packed || count < PackedFrom)
            return Decode(section.Take(count * number.Size * number.Width), number.Kind, number.Size);
        if (number.Kind is Int or UInt or Int64 or UInt64)
            return [.. section.Integers((int)count, number.Size == 8).Select(n => (double)n)];
        switch (section.Byte())
        {
            case (byte)'i':
                return [.. section.Integers((int)count).Select(n => (double)n)];
            case (byte)'t':
                var table = Decode(section.Take(section.UInt() * (long)number.Size), number.Kind, number.Size);
                return [.. section.Integers((int)count).Select(i => i >= 0 && i < table.Length ? table[i] : 0)];
            default:
                throw section.Bad("packs an array in a way that is not known");
        }
    }

    private static double[] Decode(ReadOnlySpan<byte> bytes, int kind, int size)
    {
        var numbers = new double[bytes.Length / size];
        for (var i = 0; i < numbers.Length; i++)
        {
            var at = bytes[(i * size)..];
            numbers[i] = kind switch
            {
                UChar => at[0],
                Int => BinaryPrimitives.ReadInt32LittleEndian(at),
                UInt => BinaryPrimitives.ReadUInt32LittleEndian(at),
                Int64 => BinaryPrimitives.ReadInt64LittleEndian(at),
                UInt64 => BinaryPrimitives.ReadUInt64LittleEndian(at),
                Half => (double)BinaryPrimitives.ReadHalfLittleEndian(at),
                Float => BinaryPrimitives.ReadSingleLittleEndian(at),
                _ => BinaryPrimitives.ReadDoubleLittleEndian(at),
            };
        }

        return numbers;
    }
}
