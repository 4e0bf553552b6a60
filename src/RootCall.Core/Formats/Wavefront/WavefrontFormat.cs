using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Text;
using System.Text.RegularExpressions;
using RootCall.Core.Files;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>Wavefront OBJ with its material libraries (MTL).</summary>
public sealed class WavefrontFormat : ISceneFormat
{
    public ImmutableArray<string> Extensions { get; } = [".obj"];

    public Scene Read(string path, ReadContext context) => new ObjReader(path, context).Read();

    public ImmutableArray<ByteEdit> PathEdits(Scene scene, int file, IReadOnlyDictionary<ReferenceSite, string> paths)
    {
        using var stream = scene.Files[file].Open();
        var edits = ImmutableArray.CreateBuilder<ByteEdit>();
        foreach (var (site, path) in paths)
        {
            // The site's own encoding, so that a Latin-1 file does not become a mixture; UTF-8 when it can't say the name.
            var old = new byte[site.Length];
            stream.Position = site.Start;
            stream.ReadExactly(old);
            var encoding = Statement.EncodingOf(old);
            var bytes = encoding.GetBytes(Safe(path));
            if (encoding.GetString(bytes) != Safe(path))
                bytes = Encoding.UTF8.GetBytes(Safe(path));
            edits.Add(new(site.Start, site.Length, bytes));
        }

        return edits.DrainToImmutable();
    }

    public FormatCapabilities Capabilities { get; } =
        new()
        {
            Name = "MTL",
            Refused = new Dictionary<SceneAct, string>
            {
                [SceneAct.LayNode] = "MTL has statements, no nodes: -mm of a map scales and shifts it.",
                [SceneAct.Assign] = "An OBJ assigns materials face by face; the assignment was left as it is.",
                [SceneAct.CopyMaterial] = "An OBJ assigns materials face by face, so a copy could not be assigned.",
                [SceneAct.RenameMesh] = "Only materials of an OBJ are renamed.",
                [SceneAct.RenameNode] = "Only materials of an OBJ are renamed.",
                [SceneAct.Extract] = "A Wavefront scene carries no images inside.",
                [SceneAct.Carry] = "A Wavefront scene carries no images inside.",
                [SceneAct.MakeOwn] = "An OBJ has no instances: each object is its own.",
                [SceneAct.SelectVariant] = "An OBJ has no variants.",
                [SceneAct.SetAsset] = "An OBJ is not composed of layers.",
            }.ToFrozenDictionary(),
            Uv = UvParts.Scale | UvParts.Offset,
            Wraps = [WrapMode.Repeat, WrapMode.Clamp],
            Names = new(@"^[^\s#][^\r\n#]*(?<!\s)$", RegexOptions.CultureInvariant),
            References = ReferenceLife.Used,
            Shape = new MtlShape(),
            Maker = new MtlMaker(),
            Library = ".mtl",
        };

    public OwnChanges Changes(Scene before, Scene now) => new MtlWriter(before, now).Write();

    public IGeometrySource Geometry(Scene scene, ReadContext context, IMeshDecoder? decoder) => new ObjGeometry(scene, context);

    public Stream OpenCarried(CarriedData carried) => throw new CannotUseException("A Wavefront scene carries no images inside.");

    // A leading dash would read as an option, a leading hash as a comment.
    internal static string Safe(string path) => path.Length > 0 && path[0] is '-' or '#' ? "./" + path : path;
}
