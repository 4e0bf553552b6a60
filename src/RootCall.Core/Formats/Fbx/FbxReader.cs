using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Fbx;

/// <summary>Makes a scene out of the objects and connections of an FBX file.</summary>
internal sealed class FbxReader(string path, ReadContext context)
{
    private const uint Oldest = 6100;
    private const uint Newest = 7700;
    private readonly List<ReadNote> notes = [];
    private readonly string name = Path.GetFileName(path);

    public static FbxDocument Open(string path, Bounds bounds)
    {
        var bytes = RegularFile.Bytes(path, bounds.TextBytes);
        return FbxDocument.Read(bytes, Path.GetFileName(path));
    }

    public Scene Read()
    {
        context.Progress?.Invoke($"reading {name}");
        var document = Open(path, context.Bounds);
        context.Stop.ThrowIfCancellationRequested();
        notes.AddRange(document.Errors.Select(e => new ReadNote($"Part of the file could not be read: {e}.", name)));
        if (document.Version is not 0 and (< Oldest or > Newest))
            notes.Add(new($"The file says version {document.Version}; versions {Oldest} to {Newest} are known.", name));
        var builder = new ReferenceListBuilder(Path.GetDirectoryName(path)!, path);
        var images = Images(document, builder);
        var looks = new FbxMaterials(document, images);
        var materials = document.Objects.Values.Where(o => o.Node.Name == "Material").Select(looks.Read).ToImmutableArray();
        builder.UseAll(materials);
        var (nodes, meshes) = new FbxHierarchy(document, notes, name).Read();
        var settings = document.Root.Child("GlobalSettings") is { } global
            ? new FbxObject(string.Empty, string.Empty, string.Empty, global)
            : null;
        settings ??= document.Objects.Values.FirstOrDefault(o => o.Node.Name == "GlobalSettings");
        var references = builder.ToImmutable();
        return new(
            path,
            new("fbx", FbxName(document)),
            [new SourceFile(path, new FileInfo(path).Length, null)],
            materials,
            references,
            new(nodes.Length, meshes.Length, materials.Length, references.Length, meshes.Sum(m => m.Triangles)),
            [.. notes]
        )
        {
            Nodes = nodes,
            Meshes = meshes,
            // UnitScaleFactor is centimetres a unit; one where it is not written.
            MetresPerUnit = (settings?.Numbers("UnitScaleFactor") is [var factor, ..] ? factor : 1) / 100,
            UpAxis = settings?.Numbers("UpAxis") is [var up, ..]
                ? up switch
                {
                    0 => "X",
                    2 => "Z",
                    _ => "Y",
                }
                : null,
            Lights =
            [
                .. document
                    .Objects.Values.Where(o => o.Node.Name is "NodeAttribute" && o.Class == "Light")
                    .Select(o => new SceneLight(o.Name, "light")),
            ],
        };
    }

    private static string FbxName(FbxDocument document) =>
        document.Version > 0 ? $"FBX {document.Version / 1000}.{document.Version / 100 % 10}" : "FBX";

    /// <summary>Each texture writes an absolute and a relative path; its video may carry the bytes inside.</summary>
    private Dictionary<string, ReferenceKey> Images(FbxDocument document, ReferenceListBuilder builder)
    {
        var images = new Dictionary<string, ReferenceKey>(StringComparer.Ordinal);
        var carried = new Dictionary<string, ReferenceKey>(StringComparer.Ordinal);
        foreach (var texture in document.Objects.Values.Where(o => o.Node.Name == "Texture"))
        {
            var video = document.Into(texture.Id).Select(i => i.Object).FirstOrDefault(o => o.Node.Name == "Video");
            var (absolute, relative) = (
                First(texture.Node, video?.Node, "FileName", "Filename"),
                First(texture.Node, video?.Node, "RelativeFilename")
            );
            var written = relative.Length > 0 ? relative : absolute;
            if (video is not null && Content(video) is { } data)
            {
                if (!carried.TryGetValue(video.Id, out var known))
                    carried[video.Id] = known = builder.AddCarried(
                        WrittenPath.Parse(written).FileName is { Length: > 0 } n ? n : texture.Name,
                        data,
                        []
                    );
                images[texture.Id] = known;
            }
            else if (written.Length == 0)
                notes.Add(
                    new($"Texture {texture.Name} names no file; it was left out.", Invariant($"{name}, byte {texture.Node.Start:N0}"))
                );
            else
                images[texture.Id] = builder.Add(
                    ReferenceKind.Image,
                    written,
                    null,
                    [],
                    alsoWritten: written == absolute ? null : absolute
                );
        }

        return images;
    }

    private static string First(FbxNode texture, FbxNode? video, params string[] names) =>
        names.SelectMany(n => new[] { texture.TextOf(n), video?.TextOf(n) ?? string.Empty }).FirstOrDefault(t => t.Length > 0)
        ?? string.Empty;

    private CarriedData? Content(FbxObject video) =>
        video.Node.Child("Content")?.Property(0) switch
        {
            FbxRaw { Length: > 0 } raw => new(path, raw.Start, raw.Length),
            // The text form writes base64.
            FbxText { Length: > 16 } text => new(
                path,
                -1,
                (text.Length / 4 * 3) - text.Value.AsSpan(text.Value.Length - 2).Count('='),
                new ReferenceSite(0, text.Start, (int)text.Length, SiteNotation.Plain)
            ),
            _ => null,
        };
}
