using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Text;
using System.Text.RegularExpressions;
using RootCall.Core.Files;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Formats.Xml;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>MaterialX 1.38 and 1.39 documents.</summary>
public sealed class MaterialXFormat : ISceneFormat
{
    public ImmutableArray<string> Extensions { get; } = [".mtlx"];

    public Scene Read(string path, ReadContext context) => new MtlxReader(path, context).Read();

    public ImmutableArray<ByteEdit> PathEdits(Scene scene, int file, IReadOnlyDictionary<ReferenceSite, string> paths)
    {
        var bytes = Bytes(scene.Files[file]);
        var root = MtlxReader.Parse(bytes, scene.Files[file].Path, []);
        var edits = ImmutableArray.CreateBuilder<ByteEdit>();
        foreach (var tree in root.Descendants())
        {
            foreach (var attribute in tree.Attributes)
            {
                var site = new ReferenceSite(file, attribute.Start, attribute.End - attribute.Start, SiteNotation.XmlPath);
                if (!paths.TryGetValue(site, out var path))
                    continue;
                var prefix =
                    tree.Name == "include"
                        ? string.Empty
                        : new MtlxElement(new(string.Empty, file, bytes, root), tree).Active("fileprefix") ?? string.Empty;
                if (prefix.Length > 0 && path.StartsWith(prefix, StringComparison.Ordinal))
                    path = path[prefix.Length..];
                else if (prefix.Length > 0)
                {
                    // The prefix leads elsewhere: the input takes an empty one of its own, which holds before those around it.
                    if (tree.Attribute("fileprefix") is { } own)
                        edits.Add(new(own.Start, own.End - own.Start, []));
                    else
                        edits.Add(new(attribute.NameStart, 0, "fileprefix=\"\" "u8.ToArray()));
                }

                edits.Add(new(site.Start, site.Length, Encoding.UTF8.GetBytes(XmlText.Encode(path))));
            }
        }

        return edits.DrainToImmutable();
    }

    public FormatCapabilities Capabilities { get; } =
        new()
        {
            Name = "MaterialX",
            Refused = new Dictionary<SceneAct, string>
            {
                [SceneAct.RenameMesh] = "MaterialX names geometry that lies elsewhere.",
                [SceneAct.RenameNode] = "MaterialX names geometry that lies elsewhere.",
                [SceneAct.MakeOwn] = "MaterialX names geometry that lies elsewhere.",
                [SceneAct.CopyMaterial] = "MaterialX names geometry that lies elsewhere.",
                [SceneAct.Extract] = "A MaterialX document carries no images inside.",
                [SceneAct.Carry] = "A MaterialX document carries no images inside.",
                [SceneAct.MakeLibrary] = "A MaterialX document holds its materials itself.",
                [SceneAct.SelectVariant] = "Which look is shown is not written in a MaterialX document.",
                [SceneAct.SetAsset] = "A MaterialX document is not composed of layers.",
            }.ToFrozenDictionary(),
            Spaces = SpaceTags.Any,
            Wraps = [WrapMode.Repeat, WrapMode.Mirror, WrapMode.Clamp, WrapMode.Black],
            // MaterialX 1.39, "Names": letters, digits and underscores, no digit first.
            Names = new("^[A-Za-z_][A-Za-z0-9_]*$", RegexOptions.CultureInvariant),
            References = ReferenceLife.Written,
            Shape = new MtlxShape(),
            Maker = new MtlxMaker(),
            NamesGeometry = MtlxAssignments.Unmeasured,
        };

    public OwnChanges Changes(Scene before, Scene now)
    {
        var files = before
            .Files.Select((f, i) => (Bytes: Bytes(f), Index: i, f.Path))
            .Select(f => new MtlxFile(f.Path, f.Index, f.Bytes, MtlxReader.Parse(f.Bytes, f.Path, [])))
            .ToList();
        return OwnChanges.Of(new MtlxWriter(before, now, new(files)).Write());
    }

    public IGeometrySource Geometry(Scene scene, ReadContext context, IMeshDecoder? decoder) =>
        throw new CannotUseException("A MaterialX document carries no geometry.");

    public Stream OpenCarried(CarriedData carried) => throw new CannotUseException("A MaterialX document carries no images inside.");

    private static byte[] Bytes(SourceFile file) => RegularFile.Bytes(file.Edited ?? file.Path, Bounds.Default.TextBytes);
}
