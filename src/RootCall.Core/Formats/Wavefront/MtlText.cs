using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>A statement with the bytes of its line.</summary>
/// <param name="Block">Counts the newmtl statements before it.</param>
/// <param name="Start">Where its line starts.</param>
/// <param name="End">Where the next line starts.</param>
internal sealed record MtlLine(
    int Block,
    string Keyword,
    string Rest,
    long Start,
    long End,
    long KeywordStart,
    long RestStart,
    int RestLength
)
{
    /// <summary>White space before the keyword.</summary>
    public string Indent { get; init; } = string.Empty;

    public long ContentEnd => RestStart + RestLength;
}

/// <summary>A library as lines. Of a scene's own OBJ only the statements that name materials are kept.</summary>
internal sealed record MtlText(IReadOnlyList<MtlLine> Lines, string NewLine, IReadOnlyList<(long Start, long End)> Blank)
{
    public static MtlText Read(SourceFile file)
    {
        var list = new List<MtlLine>();
        var blank = new List<(long, long)>();
        using var stream = file.Open();
        var lines = new ByteLines(stream);
        var block = 0;
        MtlLine? open = null;
        var newLine = "\n";
        long? openBlank = null;
        long previousEnd = -1;
        while (lines.Next(out var line))
        {
            var start = lines.Start;
            if (previousEnd >= 0 && start - previousEnd == 2)
                newLine = "\r\n";
            previousEnd = start + line.Length;
            if (openBlank is { } b)
            {
                blank.Add((b, start));
                openBlank = null;
            }

            if (open is not null)
                list[^1] = open = open with { End = start };
            open = null;
            var statement = Statement.Of(line);
            if (statement.Keyword.Length == 0)
                openBlank = start;
            if (statement.Keyword.Length == 0 || statement.Keyword[0] == (byte)'#')
                continue;
            if (statement.Is("newmtl"u8))
                block++;
            else if (block == 0 && !statement.Is("usemtl"u8) && !MtlMaterials.IsStatement(statement.Keyword))
                continue;
            var keyword = start + line.IndexOf(statement.Keyword);
            open = new(
                block,
                Lowered(statement),
                Statement.Decode(statement.Rest),
                start,
                stream.Length,
                keyword,
                start + statement.RestStart,
                statement.Rest.Length
            )
            {
                Indent = Statement.Decode(line[..(int)(keyword - start)]),
            };
            list.Add(open);
        }

        return new(list, newLine, blank);
    }

    private static string Lowered(Statement statement) =>
        statement.Is("newmtl"u8) ? "newmtl"
        : statement.Is("usemtl"u8) ? "usemtl"
        : Statement.Decode(statement.Keyword);

    /// <summary>The statements of the first definition of that name.</summary>
    public IEnumerable<MtlLine> BlockOf(string material)
    {
        var block =
            material.Length == 0 && Lines.Any(l => l.Block == 0)
                ? 0
                : Lines.FirstOrDefault(l => l.Keyword == "newmtl" && l.Rest == material)?.Block ?? -1;
        return Lines.Where(l => l.Block == block && l.Keyword != "usemtl");
    }

    /// <summary>The end of one empty line behind a statement, or of the statement's own.</summary>
    public long BlankAfter(MtlLine line) => Blank.FirstOrDefault(b => b.Start == line.End) is { End: > 0 } after ? after.End : line.End;
}

/// <summary>Changes of the statements of one material, as edits of its lines.</summary>
internal sealed class MtlBlock(MtlText text, IEnumerable<MtlLine> lines)
{
    private readonly List<MtlLine> lines = [.. lines];
    private readonly HashSet<MtlLine> gone = [];
    private readonly List<ByteEdit> edits = [];
    private readonly List<MtlStatement> fresh = [];

    /// <param name="keywords">The statements of which only the first counts.</param>
    /// <param name="statement">What it says from now on; null to take all of them out.</param>
    public void Put(IReadOnlyCollection<string> keywords, MtlStatement? statement)
    {
        var there = lines.Where(l => keywords.Contains(l.Keyword, StringComparer.OrdinalIgnoreCase)).ToList();
        if (statement is null)
            gone.UnionWith(there);
        else if (there.Count == 0)
            fresh.Add(statement);
        else
            Replace(there[0], statement);
    }

    public IEnumerable<ByteEdit> Edits()
    {
        foreach (var line in gone)
            edits.Add(new(line.Start, (int)(line.End - line.Start), []));
        if (fresh.Count == 0)
            return edits;
        var last = lines.FindLast(l => !gone.Contains(l))
            ?? throw new CannotUseException("The material has no statement left that another could follow.");
        var indent = last.Keyword == "newmtl" ? string.Empty : last.Indent;
        edits.Add(new(last.ContentEnd, 0, Encoding.UTF8.GetBytes(string.Concat(fresh.Select(s => text.NewLine + indent + s.Whole)))));
        return edits;
    }

    private void Replace(MtlLine line, MtlStatement statement)
    {
        var bytes = Encoding.UTF8.GetBytes(line.Rest);
        if (!MapStatement.IsMap(Encoding.ASCII.GetBytes(line.Keyword)))
        {
            // A comment behind the numbers stays.
            var comment = line.Rest.IndexOf(" #", StringComparison.Ordinal);
            var length = comment < 0 ? line.RestLength : Encoding.UTF8.GetByteCount(line.Rest[..comment].TrimEnd());
            edits.Add(new(line.RestStart, length, Encoding.UTF8.GetBytes(statement.Rest)));
            return;
        }

        MapStatement.FindName(bytes, out var start, out var nameLength);
        if (statement.NameOnly is { } name && bytes.Length == line.RestLength)
            edits.Add(new(line.RestStart + start, nameLength, Encoding.UTF8.GetBytes(name)));
        else
        {
            var kept = MapStatement.OtherOptions(bytes.AsSpan(0, start));
            edits.Add(
                new(
                    line.KeywordStart,
                    (int)(line.ContentEnd - line.KeywordStart),
                    Encoding.UTF8.GetBytes($"{line.Keyword} {kept}{statement.Rest}")
                )
            );
        }
    }
}
