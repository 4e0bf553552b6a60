using System.Buffers.Text;
using System.Globalization;
using System.Text;
using RootCall.Core.Formats.Usd.Layers;

namespace RootCall.Core.Formats.Usd.Text;

/// <summary>Arrays of numbers in text: counted and read only when somebody asks.</summary>
internal static class UsdaNumbers
{
    public static UsdLazyNumbers Lazy(ReadOnlyMemory<byte> text, int width)
    {
        double[]? read = null;
        return new(
            width,
            () => read is null && width is 2 or 3 or 4 ? text.Span.Count((byte)'(') : (read ??= Read(text.Span)).Length / width,
            () => read ?? Read(text.Span)
        );
    }

    public static double One(ReadOnlySpan<byte> token) =>
        Utf8Parser.TryParse(token, out double number, out var used) && used == token.Length ? number
        : double.TryParse(Encoding.ASCII.GetString(token), NumberStyles.Float, CultureInfo.InvariantCulture, out number) ? number
        : token.EndsWith("inf"u8) ? (token[0] == (byte)'-' ? double.NegativeInfinity : double.PositiveInfinity)
        : double.NaN;

    private static double[] Read(ReadOnlySpan<byte> text)
    {
        var numbers = new double[Math.Max(4, text.Length / 8)];
        var count = 0;
        var at = 0;
        while (at < text.Length)
        {
            var b = text[at];
            if (b == (byte)'#')
            {
                var newline = text[at..].IndexOf((byte)'\n');
                at = newline < 0 ? text.Length : at + newline;
            }
            else if (b is (byte)'-' or (byte)'+' or (byte)'.' || (uint)(b - '0') <= 9 || char.IsAsciiLetter((char)b))
            {
                var end = at + 1;
                while (
                    end < text.Length
                    && text[end] is not ((byte)',' or (byte)' ' or (byte)')' or (byte)'\n' or (byte)'\r' or (byte)'\t' or (byte)'(')
                )
                    end++;
                if (count == numbers.Length)
                    Array.Resize(ref numbers, numbers.Length * 2);
                numbers[count++] = One(text[at..end]);
                at = end;
            }
            else
                at++;
        }

        Array.Resize(ref numbers, count);
        return numbers;
    }
}

/// <summary>USD's names of value types.</summary>
internal static class UsdTypes
{
    /// <summary>Numbers in one element of the type; 0 when it is not made of numbers.</summary>
    public static int Width(string type)
    {
        var name = type.EndsWith("[]", StringComparison.Ordinal) ? type[..^2] : type;
        return name switch
        {
            "bool" or "uchar" or "int" or "uint" or "int64" or "uint64" or "half" or "float" or "double" or "timecode" => 1,
            "matrix2d" => 4,
            "matrix3d" => 9,
            "matrix4d" or "frame4d" => 16,
            "string" or "token" or "asset" or "" => 0,
            _ when name.StartsWith("quat", StringComparison.Ordinal) => 4,
            _ => name.LastIndexOfAny(['2', '3', '4']) is var at and > 0 ? name[at] - '0' : 0,
        };
    }

    /// <summary>The type in MaterialX's words where it has one.</summary>
    public static string ToMaterialX(string type) =>
        type switch
        {
            "float" or "double" or "half" => "float",
            "int" => "integer",
            "bool" => "boolean",
            "asset" => "filename",
            "string" or "token" => "string",
            "color3f" or "color3d" or "color3h" => "color3",
            "color4f" or "color4d" or "color4h" => "color4",
            "float2" or "texCoord2f" or "double2" => "vector2",
            "float3" or "normal3f" or "vector3f" or "point3f" or "double3" => "vector3",
            "float4" => "vector4",
            _ => type,
        };
}
