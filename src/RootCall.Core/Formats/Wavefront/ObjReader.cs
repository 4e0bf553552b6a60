using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>Reads an OBJ and every material library it calls that lies where it may be read.</summary>
internal sealed class ObjReader(string path, ReadContext context)
{
    private const int BinaryProbe = 4096;
    private readonly List<ReadNote> notes = [];
    private readonly List<SourceFile> files = [];
    private readonly List<string> materials = [];
    private readonly string name = Path.GetFileName(path);
    private long triangles;
    private int objects;
    private int groups;
    private int statements;
    private bool faces;

    public Scene Read()
    {
        var folder = Path.GetDirectoryName(path)!;
        var builder = new ReferenceListBuilder(folder, path);
        var used = new List<string>();
        using (var stream = File.OpenRead(path))
        {
            files.Add(new(path, stream.Length, null));
            context.Progress?.Invoke($"reading {name}");
            RefuseBinary(stream);
            ReadStatements(new ByteLines(stream), builder, used);
        }

        if (statements == 0) throw new CannotUseException($"“{name}” is not a Wavefront OBJ: it holds none of its statements.");
        foreach (var library in builder.ToImmutable().Where(r => r.Kind == ReferenceKind.MaterialLibrary))
        {
            context.Stop.ThrowIfCancellationRequested();
            ReadLibrary(library, builder);
        }

        foreach (var missing in used.Distinct(StringComparer.Ordinal).Except(materials, StringComparer.Ordinal).ToList())
        {
            // A material that no library defines is still a material of the scene: the artist assigned it.
            materials.Add(missing);
            if (files.Count > 1) notes.Add(new($"Material {missing} is used, but no library that was read defines it.", name));
        }

        var references = builder.ToImmutable();
        var nodes = Math.Max(objects > 0 ? objects : groups, faces ? 1 : 0);
        return new(
            path,
            new("obj", "Wavefront"),
            [.. files],
            [.. materials.Distinct(StringComparer.Ordinal).Select(m => new Material(m))],
            references,
            new(nodes, nodes, materials.Distinct(StringComparer.Ordinal).Count(), references.Count(r => r.Kind == ReferenceKind.Image), triangles),
            [.. notes]);
    }

    private void RefuseBinary(FileStream stream)
    {
        var head = new byte[Math.Min(BinaryProbe, stream.Length)];
        stream.ReadExactly(head);
        stream.Position = 0;
        if (head.AsSpan().Contains((byte)0)) throw new CannotUseException($"“{name}” is not a Wavefront OBJ: it holds binary data.");
    }

    private void ReadStatements(ByteLines lines, ReferenceListBuilder builder, List<string> used)
    {
        var openFace = 0; // Corners so far of a face that a backslash carries on to the next line.
        while (lines.Next(out var line))
        {
            if ((lines.Number & 0xFFFF) == 0) context.Stop.ThrowIfCancellationRequested();
            var carriesOn = line.Length > 0 && line[^1] == (byte)'\\';
            var statement = Statement.Of(carriesOn ? line[..^1] : line);
            if (openFace > 0)
            {
                openFace += Tokens(statement.Line);
                if (!carriesOn) CloseFace(ref openFace);
                continue;
            }

            if (statement.Keyword.Length == 0 || statement.Keyword[0] == (byte)'#') continue;
            if (statement.Is("f"u8) || statement.Is("fo"u8))
            {
                statements++;
                openFace = Tokens(statement.Rest) + 1; // One more than the corners, so that an empty start still counts as open.
                if (!carriesOn) CloseFace(ref openFace);
            }
            else if (statement.Is("mtllib"u8)) AddLibraries(statement, lines, builder);
            else if (statement.Is("usemtl"u8))
            {
                statements++;
                if (statement.Rest.Length > 0) used.Add(Statement.Decode(statement.Rest));
            }
            else if (statement.Is("o"u8)) Count(ref objects);
            else if (statement.Is("g"u8)) Count(ref groups);
            else if (statement.Is("v"u8) || statement.Is("vt"u8) || statement.Is("vn"u8) || statement.Is("vp"u8) || statement.Is("s"u8)
                || statement.Is("l"u8) || statement.Is("p"u8)) statements++;
        }

        if (openFace > 0) CloseFace(ref openFace);
    }

    private void Count(ref int what)
    {
        what++;
        statements++;
    }

    private void CloseFace(ref int corners)
    {
        faces = true;
        triangles += Math.Max(0, corners - 1 - 2);
        corners = 0;
    }

    private static int Tokens(ReadOnlySpan<byte> text)
    {
        var count = 0;
        var inside = false;
        foreach (var b in text)
        {
            if (b == (byte)'#') break;
            var space = Statement.IsSpace(b);
            if (!space && !inside) count++;
            inside = !space;
        }

        return count;
    }

    /// <summary>
    /// "mtllib a.mtl b.mtl" names several libraries by the specification, and in the wild one whose name has spaces:
    /// a name ends where ".mtl" ends before white space, or with its closing quote.
    /// </summary>
    private void AddLibraries(Statement statement, ByteLines lines, ReferenceListBuilder builder)
    {
        statements++;
        var rest = statement.Rest;
        var at = 0;
        var any = false;
        while (at < rest.Length)
        {
            if (Statement.IsSpace(rest[at]))
            {
                at++;
                continue;
            }

            if (any && rest[at] == (byte)'#') break;
            var (start, length, next) = NextLibrary(rest, at);
            if (length > 0)
            {
                any = true;
                var site = new ReferenceSite(0, lines.Start + statement.RestStart + start, length, SiteNotation.Plain);
                builder.Add(ReferenceKind.MaterialLibrary, Statement.Decode(rest.Slice(start, length)), site, [new(string.Empty, "mtllib")]);
            }

            at = next;
        }

        if (!any) notes.Add(new("A mtllib statement names no file.", $"{name}, line {lines.Number}"));
    }

    private static (int Start, int Length, int Next) NextLibrary(ReadOnlySpan<byte> rest, int at)
    {
        if (rest[at] is (byte)'"' or (byte)'\'')
        {
            var close = rest[(at + 1)..].IndexOf(rest[at]);
            if (close >= 0) return (at + 1, close, at + close + 2);
        }

        for (var end = at + 4; end <= rest.Length; end++)
        {
            var ends = end == rest.Length || Statement.IsSpace(rest[end]);
            if (ends && System.Text.Ascii.EqualsIgnoreCase(rest[(end - 4)..end], ".mtl"u8)) return (at, end - at, end);
        }

        return (at, rest.Length - at, rest.Length);
    }

    private void ReadLibrary(Reference library, ReferenceListBuilder builder)
    {
        var relinked = context.Relinked?.GetValueOrDefault(library.Key);
        var asked = relinked ?? Muster.WrittenPath.Parse(library.Written).Locate(library.BaseFolder);
        var real = asked is null ? null : context.Scope.Enter(asked);
        if (real is null || !File.Exists(real)) return; // Muster tells its state.
        if (files.Any(f => f.Path == real)) return;
        files.Add(new(real, new FileInfo(real).Length, library.Key));
        builder.Enter(real);
        context.Progress?.Invoke($"reading {Path.GetFileName(real)}");
        using var stream = File.OpenRead(real);
        MtlReader.Read(stream, files.Count - 1, Path.GetFileName(real), builder, materials, notes);
    }
}
