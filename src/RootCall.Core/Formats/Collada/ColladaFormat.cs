using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Formats.Gltf;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Formats.Xml;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Collada;

/// <summary>COLLADA 1.4.1.</summary>
public sealed class ColladaFormat : ISceneFormat
{
    public ImmutableArray<string> Extensions { get; } = [".dae"];

    public Scene Read(string path, ReadContext context) => new ColladaReader(path, context).Read();

    public ImmutableArray<ByteEdit> PathEdits(Scene scene, int file, IReadOnlyDictionary<ReferenceSite, string> paths) =>
        [.. paths.Select(p => new ByteEdit(p.Key.Start, p.Key.Length, Encoding.UTF8.GetBytes(XmlText.Encode(GltfUri.Encode(p.Value)))))];

    public IGeometrySource Geometry(Scene scene, ReadContext context, IMeshDecoder? decoder)
    {
        using var stream = scene.Files[0].Open();
        return new ColladaShapes(ColladaReader.Open(stream, scene.Path, context.Bounds, [], out _).Document, scene, context.Bounds);
    }

    public Stream OpenCarried(CarriedData carried) =>
        throw new CannotUseException("A COLLADA document that is read here carries no images inside.");

    public FormatCapabilities Capabilities { get; } =
        new()
        {
            Name = "The common profile of COLLADA",
            Refused = new Dictionary<SceneAct, string>
            {
                [SceneAct.RenameMaterial] = "Names and materials of a COLLADA document are left as they are.",
                [SceneAct.RenameMesh] = "Names and materials of a COLLADA document are left as they are.",
                [SceneAct.RenameNode] = "Names and materials of a COLLADA document are left as they are.",
                [SceneAct.CopyMaterial] = "Names and materials of a COLLADA document are left as they are.",
                [SceneAct.RemoveMaterial] = "Names and materials of a COLLADA document are left as they are.",
                [SceneAct.Extract] = "A COLLADA document that is read here carries no images inside.",
                [SceneAct.Carry] = "A COLLADA document carries no images inside.",
                [SceneAct.LayNode] = "The common profile of COLLADA has fields, no nodes.",
                [SceneAct.MakeLibrary] = "A COLLADA document holds its materials itself.",
                [SceneAct.MakeOwn] = "Where the geometry of a COLLADA document is placed is left as it is.",
                [SceneAct.SelectVariant] = "COLLADA has no variants.",
                [SceneAct.SetAsset] = "COLLADA is not composed of layers.",
            }.ToFrozenDictionary(),
            Uv = UvParts.None,
            Wraps = [WrapMode.Repeat, WrapMode.Mirror, WrapMode.Clamp, WrapMode.Black],
            References = ReferenceLife.Listed,
            Shape = new ColladaShape(),
            AssignRipples = true,
        };

    public OwnChanges Changes(Scene before, Scene now)
    {
        var bytes = RegularFile.Bytes(before.Files[0].Edited ?? before.Path, Bounds.Default.TextBytes);
        var document = ColladaReader.Parse(bytes, Path.GetFileName(before.Path), []);
        return OwnChanges.Of(new ColladaWriter(before, now, document).Write().Select(e => (0, e)));
    }
}
