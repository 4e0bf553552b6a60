using System.Globalization;
using System.Text;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>Reads the materials of a library and the images they call for.</summary>
internal static class MtlReader
{
    public static void Read(
        Stream stream,
        int file,
        string name,
        ReferenceListBuilder builder,
        List<MtlMaterial> materials,
        List<ReadNote> notes
    )
    {
        var lines = new ByteLines(stream);
        MtlMaterial? material = null;
        MtlMaterial Current()
        {
            if (material is null)
                materials.Add(material = new(string.Empty) { File = file });
            return material;
        }

        while (lines.Next(out var line))
        {
            var statement = Statement.Of(line);
            if (statement.Keyword.Length == 0 || statement.Keyword[0] == (byte)'#')
                continue;
            if (statement.Is("newmtl"u8))
            {
                material = new(Statement.Decode(statement.Rest)) { File = file };
                if (material.Name.Length == 0)
                    notes.Add(
                        new(
                            "A newmtl statement gives no name; its statements were kept under an empty one.",
                            $"{name}, line {lines.Number}"
                        )
                    );
                materials.Add(material);
                continue;
            }

            var input = Statement.Decode(statement.Keyword);
            if (!MapStatement.IsMap(statement.Keyword))
            {
                if (ValueOf(statement) is { } value)
                    Current().Values.TryAdd(input, value);
                continue;
            }

            MapStatement.FindName(statement.Rest, out var start, out var length);
            if (length == 0)
            {
                notes.Add(new($"{material?.Name}: {input} names no file.", $"{name}, line {lines.Number}"));
                continue;
            }

            var site = new ReferenceSite(file, lines.Start + statement.RestStart + start, length, SiteNotation.Plain);
            var options = statement.Rest[..start];
            var key = builder.Add(
                ReferenceKind.Image,
                Statement.Decode(statement.Rest.Slice(start, length)),
                site,
                [new(material?.Name ?? string.Empty, input) { Role = MtlMaterials.RoleOf(input) }]
            );
            Current().Maps.Add((input, MtlMaterials.Use(key, input, options)));
        }
    }

    /// <summary>
    /// "Kd r [g b]": one number stands for all three (MTL, "If only r is specified, then g and b are assumed equal");
    /// spectral files are kept as text.
    /// </summary>
    private static ShaderValue? ValueOf(Statement statement)
    {
        var keyword = Encoding.Latin1.GetString(statement.Keyword);
        var text = Encoding.Latin1.GetString(statement.Rest);
        var numbers = new List<double>();
        foreach (var token in text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries))
        {
            if (token.StartsWith('#'))
                break;
            if (double.TryParse(token, NumberStyles.Float, CultureInfo.InvariantCulture, out var n))
                numbers.Add(n);
            else if (token is not "-halo")
                return MtlMaterials.Values.ContainsKey(keyword) ? ShaderValue.OfText(text) : null;
        }

        if (numbers.Count == 0)
            return null;
        var colour = MtlMaterials.Values.TryGetValue(keyword, out var known) && known.Type == InputType.Color3;
        return colour && numbers.Count < 3 ? ShaderValue.Of(numbers[0], numbers[0], numbers[0]) : new([.. numbers.Take(colour ? 3 : 1)]);
    }
}
