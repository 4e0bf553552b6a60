using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats.Xml;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>Reads a MaterialX document with what it includes.</summary>
internal sealed class MtlxReader(string path, ReadContext context)
{
    private const int MaxIncludes = 256;
    private readonly List<ReadNote> notes = [];
    private readonly List<SourceFile> sources = [];
    private readonly List<MtlxFile> files = [];
    private readonly Dictionary<(int File, int Start), ReferenceKey> keys = [];
    private readonly ReferenceListBuilder builder = new(Path.GetDirectoryName(path)!, path);

    public static XmlTree Parse(byte[] bytes, string name, List<ReadNote> notes)
    {
        var reading = new XmlReading();
        var root = reading.Read(bytes);
        if (root is not { Name: "materialx" })
            throw new CannotUseException($"“{name}” is not MaterialX: its root element is not materialx.");
        notes.AddRange(reading.Errors.Select(e => new ReadNote($"Not well-formed: {e}; what stands before it was read.", name)));
        return root;
    }

    public Scene Read()
    {
        Include(path, null);
        var version = files[0].Root["version"];
        if (version is not ("1.38" or "1.39"))
            notes.Add(new($"The document says version {version ?? "none"}; it was read as 1.38.", Path.GetFileName(path)));
        var document = new MtlxDocument(files);
        CollectFiles();
        var graphs = new MtlxGraphs(document, e => keys.TryGetValue((e.File.Index, e.Tree.Start), out var key) ? key : null, notes);
        var materials = document
            .All("surfacematerial")
            .Select(e => new Material(e.Name)
            {
                Graph = graphs.Of(e, out var shaderFile),
                Template = e.Tree["inherit"],
                File = shaderFile,
            })
            .DistinctBy(m => m.Name)
            .ToImmutableArray();
        builder.UseAll(materials);
        var looks = new MtlxAssignments(document, context).Read(notes, Path.GetFileName(path));
        var references = builder.ToImmutable();
        return new(
            path,
            new("mtlx", "MaterialX"),
            [.. sources],
            materials,
            references,
            new(looks.Meshes.Length, looks.Meshes.Length, materials.Length, references.Count(r => r.Kind == ReferenceKind.Image), 0),
            [.. notes]
        )
        {
            Meshes = looks.Meshes,
            Nodes = [.. looks.Meshes.Select((m, i) => new SceneNode(m.Name, -1, i))],
            Variants = looks.Looks,
        };
    }

    /// <summary>Documents are read in the order they are named; one that includes itself is read once.</summary>
    private void Include(string file, ReferenceKey? calledBy)
    {
        if (sources.Any(s => s.Path == file) || sources.Count >= MaxIncludes)
            return;
        context.Stop.ThrowIfCancellationRequested();
        context.Progress?.Invoke($"reading {Path.GetFileName(file)}");
        using var stream = context.Open(file);
        var bytes = RegularFile.Bytes(stream, file, context.Bounds.JsonBytes);
        var root = Parse(bytes, Path.GetFileName(file), notes);
        var index = sources.Count;
        sources.Add(new(file, bytes.Length, calledBy) { Edited = context.EditedCopy(file) });
        files.Add(new(file, index, bytes, root));
        foreach (var include in root.All("include"))
        {
            if (include.Attribute("href") is not { Value.Length: > 0 } href)
                continue;
            builder.Enter(file);
            var key = builder.Add(ReferenceKind.Document, href.Value, Site(index, href), [new(string.Empty, "include")]);
            var asked = context.Relinked?.GetValueOrDefault(key) ?? WrittenPath.Parse(href.Value).Locate(Path.GetDirectoryName(file)!);
            if (asked is null || context.Enter(asked) is not { } real || !File.Exists(real))
                continue; // Muster tells its state.
            try
            {
                Include(real, key);
            }
            catch (CannotUseException e)
            {
                notes.Add(new($"An included document could not be read: {e.Message}", $"{Path.GetFileName(file)}, line {include.Line}"));
            }
        }
    }

    private void CollectFiles()
    {
        foreach (var file in files)
        {
            builder.Enter(file.Path);
            foreach (var tree in file.Root.Descendants())
            {
                if (tree["type"] != "filename" || tree.Attribute("value") is not { Value.Length: > 0 } value)
                    continue;
                var prefix = new MtlxElement(file, tree).Active("fileprefix") ?? string.Empty;
                keys[(file.Index, tree.Start)] = builder.Add(ReferenceKind.Image, prefix + value.Value, Site(file.Index, value), []);
            }
        }
    }

    private static ReferenceSite Site(int file, XmlAttribute attribute) =>
        new(file, attribute.Start, attribute.End - attribute.Start, SiteNotation.XmlPath);
}
