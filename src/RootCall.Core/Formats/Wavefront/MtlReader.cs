using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>Reads the materials of a library and the images they call for.</summary>
internal static class MtlReader
{
    public static void Read(
        Stream stream, int file, string name, ReferenceListBuilder builder, List<string> materials, List<ReadNote> notes)
    {
        var lines = new ByteLines(stream);
        var material = string.Empty;
        while (lines.Next(out var line))
        {
            var statement = Statement.Of(line);
            if (statement.Keyword.Length == 0 || statement.Keyword[0] == (byte)'#') continue;
            if (statement.Is("newmtl"u8))
            {
                material = Statement.Decode(statement.Rest);
                if (material.Length == 0) notes.Add(new("A newmtl statement gives no name; its statements were kept under an empty one.", $"{name}, line {lines.Number}"));
                materials.Add(material);
                continue;
            }

            if (!MapStatement.IsMap(statement.Keyword)) continue;
            MapStatement.FindName(statement.Rest, out var start, out var length);
            var input = Statement.Decode(statement.Keyword);
            if (length == 0)
            {
                notes.Add(new($"{material}: {input} names no file.", $"{name}, line {lines.Number}"));
                continue;
            }

            var site = new ReferenceSite(file, lines.Start + statement.RestStart + start, length, SiteNotation.Plain);
            builder.Add(ReferenceKind.Image, Statement.Decode(statement.Rest.Slice(start, length)), site, [new(material, input)]);
        }
    }
}
