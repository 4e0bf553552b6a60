using System.Collections.Frozen;
using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>Reads an OBJ and every material library it calls that lies where it may be read.</summary>
internal sealed class ObjReader(string path, ReadContext context)
{
    private const int BinaryProbe = 4096;
    private readonly List<ReadNote> notes = [];
    private readonly List<SourceFile> files = [];
    private readonly List<MtlMaterial> materials = [];
    private ObjMeshes meshes = new();
    private readonly Dictionary<string, int> unknown = [];
    private readonly string name = Path.GetFileName(path);
    private int statements;

    public Scene Read()
    {
        var folder = Path.GetDirectoryName(path)!;
        var builder = new ReferenceListBuilder(folder, path);
        var used = new List<string>();
        using (var stream = context.Open(path))
        {
            files.Add(new(path, stream.Length, null) { Edited = context.EditedCopy(path) });
            context.Progress?.Invoke($"reading {name}");
            RefuseBinary(stream);
            ReadStatements(new ByteLines(stream), builder, used);
        }

        if (statements == 0)
            throw new CannotUseException($"“{name}” is not a Wavefront OBJ: it holds none of its statements.");
        foreach (var library in builder.ToImmutable().Where(r => r.Kind == ReferenceKind.MaterialLibrary))
        {
            context.Stop.ThrowIfCancellationRequested();
            ReadLibrary(library, builder);
        }

        foreach (
            var missing in used.Distinct(StringComparer.Ordinal).Except(materials.Select(m => m.Name), StringComparer.Ordinal).ToList()
        )
        {
            // A material that no library defines is still a material of the scene: the artist assigned it.
            materials.Add(new(missing) { IsDefined = false });
            if (files.Count > 1)
                notes.Add(new($"Material {missing} is used, but no library that was read defines it.", name));
        }

        foreach (var (keyword, line) in unknown.Take(20))
            notes.Add(new($"Statement “{keyword}” is not known; it is kept as it is.", $"{name}, line {line}"));
        var references = builder.ToImmutable();
        var called = used.ToHashSet(StringComparer.Ordinal);
        var measured = meshes.Build(Path.GetFileNameWithoutExtension(path), notes, name);
        var looks = materials
            .DistinctBy(m => m.Name, StringComparer.Ordinal)
            .Select(MtlMaterials.ToMaterial)
            .Select(m => called.Contains(m.Name) ? m with { IsCalled = true } : m)
            .ToImmutableArray();
        return new(
            path,
            new("obj", "Wavefront"),
            [.. files],
            looks,
            references,
            new(
                measured.Length,
                measured.Length,
                looks.Length,
                references.Count(r => r.Kind == ReferenceKind.Image),
                measured.Sum(m => m.Triangles)
            ),
            [.. notes]
        )
        {
            Meshes = measured,
            Nodes = [.. measured.Select((m, i) => new SceneNode(m.Name, -1, i))],
        };
    }

    /// <summary>Reads the faces alone, for each mesh of the scene in its order.</summary>
    public ImmutableArray<ObjMeshes.Kept> ReadGeometry()
    {
        meshes = new(new ObjPools());
        using var stream = context.Open(path);
        RefuseBinary(stream);
        ReadStatements(new ByteLines(stream), new(Path.GetDirectoryName(path)!, path), []);
        return meshes.BuildKept();
    }

    private void RefuseBinary(FileStream stream)
    {
        var head = new byte[Math.Min(BinaryProbe, stream.Length)];
        stream.ReadExactly(head);
        stream.Position = 0;
        if (head.AsSpan().Contains((byte)0))
            throw new CannotUseException($"“{name}” is not a Wavefront OBJ: it holds binary data.");
    }

    private void ReadStatements(ByteLines lines, ReferenceListBuilder builder, List<string> used)
    {
        var openFace = false; // A face that a backslash carries on to the next line.
        while (lines.Next(out var line))
        {
            if ((lines.Number & 0xFFFF) == 0)
            {
                context.Stop.ThrowIfCancellationRequested();
                context.Progress?.Invoke(Invariant($"reading {name}, line {lines.Number:N0}"));
            }

            // Nearly all lines of a large file are these; a look at two bytes tells.
            if (!openFace && line.Length > 2 && line[^1] != (byte)'\\')
            {
                if (line[0] == (byte)'v')
                {
                    if (line[1] == (byte)' ')
                    {
                        meshes.Vertex(line[2..]);
                        statements++;
                        continue;
                    }

                    if (line[2] == (byte)' ' && line[1] is (byte)'t' or (byte)'n')
                    {
                        if (line[1] == (byte)'t')
                            meshes.Texture(line[3..]);
                        else
                            meshes.Normal(line[3..]);
                        statements++;
                        continue;
                    }
                }
                else if (line[0] == (byte)'f' && line[1] == (byte)' ')
                {
                    meshes.Face(line[2..], last: true);
                    statements++;
                    continue;
                }
            }

            var carriesOn = line.Length > 0 && line[^1] == (byte)'\\';
            var statement = Statement.Of(carriesOn ? line[..^1] : line);
            if (openFace)
            {
                meshes.Face(statement.Line, !carriesOn);
                openFace = carriesOn;
                continue;
            }

            if (statement.Keyword.Length == 0 || statement.Keyword[0] == (byte)'#')
                continue;
            if (statement.Is("f"u8) || statement.Is("fo"u8))
            {
                meshes.Face(statement.Rest, !carriesOn);
                openFace = carriesOn;
            }
            else if (statement.Is("v"u8))
                meshes.Vertex(statement.Rest);
            else if (statement.Is("vt"u8))
                meshes.Texture(statement.Rest);
            else if (statement.Is("vn"u8))
                meshes.Normal(statement.Rest);
            else if (statement.Is("o"u8))
                meshes.Object(Statement.Decode(statement.Rest));
            else if (statement.Is("g"u8))
                meshes.Group(Statement.Decode(statement.Rest));
            else if (statement.Is("mtllib"u8))
                AddLibraries(statement, lines, builder);
            else if (statement.Is("usemtl"u8))
            {
                if (statement.Rest.Length > 0)
                {
                    var material = Statement.Decode(statement.Rest);
                    used.Add(material);
                    meshes.UseMaterial(material);
                }
            }
            else if (!OtherStatements.Contains(Statement.Decode(statement.Keyword)))
            {
                if (unknown.Count < 100)
                    unknown.TryAdd(Statement.Decode(statement.Keyword), lines.Number);
                continue;
            }

            statements++;
        }

        if (openFace)
            meshes.Face([], last: true);
    }

    /// <summary>
    /// Statements of OBJ (Wavefront OBJ and MTL format specification) that bear on nothing that is
    /// measured here.
    /// </summary>
    private static readonly FrozenSet<string> OtherStatements = FrozenSet.Create(
        StringComparer.OrdinalIgnoreCase,
        "vp",
        "deg",
        "bmat",
        "step",
        "cstype",
        "p",
        "l",
        "curv",
        "curv2",
        "surf",
        "parm",
        "trim",
        "hole",
        "scrv",
        "sp",
        "end",
        "con",
        "s",
        "mg",
        "bevel",
        "c_interp",
        "d_interp",
        "lod",
        "maplib",
        "usemap",
        "shadow_obj",
        "trace_obj",
        "ctech",
        "stech",
        "call",
        "csh"
    );

    /// <summary>
    /// "mtllib a.mtl b.mtl" names several libraries by the specification, and in the wild one whose name has spaces:
    /// a name ends where ".mtl" ends before white space, or with its closing quote.
    /// </summary>
    private void AddLibraries(Statement statement, ByteLines lines, ReferenceListBuilder builder)
    {
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

            if (any && rest[at] == (byte)'#')
                break;
            var (start, length, next) = NextLibrary(rest, at);
            if (length > 0)
            {
                any = true;
                var site = new ReferenceSite(0, lines.Start + statement.RestStart + start, length, SiteNotation.Plain);
                builder.Add(
                    ReferenceKind.MaterialLibrary,
                    Statement.Decode(rest.Slice(start, length)),
                    site,
                    [new(string.Empty, "mtllib")]
                );
            }

            at = next;
        }

        if (!any)
            notes.Add(new("A mtllib statement names no file.", $"{name}, line {lines.Number}"));
    }

    private static (int Start, int Length, int Next) NextLibrary(ReadOnlySpan<byte> rest, int at)
    {
        if (rest[at] is (byte)'"' or (byte)'\'')
        {
            var close = rest[(at + 1)..].IndexOf(rest[at]);
            if (close >= 0)
                return (at + 1, close, at + close + 2);
        }

        for (var end = at + 4; end <= rest.Length; end++)
        {
            var ends = end == rest.Length || Statement.IsSpace(rest[end]);
            if (ends && System.Text.Ascii.EqualsIgnoreCase(rest[(end - 4)..end], ".mtl"u8))
                return (at, end - at, end);
        }

        return (at, rest.Length - at, rest.Length);
    }

    private void ReadLibrary(Reference library, ReferenceListBuilder builder)
    {
        var relinked = context.Relinked?.GetValueOrDefault(library.Key);
        var asked = relinked ?? WrittenPath.Parse(library.Written).Locate(library.BaseFolder);
        var real = asked is null ? null : context.Enter(asked);
        var edited = real is null ? null : context.EditedCopy(real);
        if (real is null || (edited is null && !File.Exists(real)))
            return; // Muster tells its state.
        if (files.Any(f => f.Path == real))
            return;
        files.Add(new(real, new FileInfo(edited ?? real).Length, library.Key) { Edited = edited });
        builder.Enter(real);
        context.Progress?.Invoke($"reading {Path.GetFileName(real)}");
        if (RegularFile.IsEmpty(edited ?? real))
        {
            notes.Add(new("The material library is empty, or no regular file; nothing was read.", Path.GetFileName(real)));
            return;
        }

        using var stream = context.Open(real);
        MtlReader.Read(stream, files.Count - 1, Path.GetFileName(real), builder, materials, notes);
    }
}
