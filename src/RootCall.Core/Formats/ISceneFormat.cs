using System.Collections.Immutable;
using RootCall.Core.Files;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats;

/// <summary>
/// One scene format: a tolerant reader, and the few byte edits that write other paths into it. A format never writes a
/// whole file itself, so what it does not understand cannot be lost.
/// </summary>
public interface ISceneFormat
{
    /// <summary>File endings with their dot, in lower case.</summary>
    ImmutableArray<string> Extensions { get; }

    /// <summary>Reads what can be read; what cannot becomes a note.</summary>
    /// <exception cref="CannotUseException">The file is not this format at all.</exception>
    Scene Read(string path, ReadContext context);

    /// <summary>The bytes to change in one own file so that each site writes its new path.</summary>
    /// <param name="scene">The scene the sites come from.</param>
    /// <param name="file">Index into <see cref="Scene.Files"/>.</param>
    /// <param name="paths">New path for each site, relative to the folder of the own file, with slashes.</param>
    ImmutableArray<ByteEdit> PathEdits(Scene scene, int file, IReadOnlyDictionary<ReferenceSite, string> paths);

    /// <summary>What can be said in this format.</summary>
    FormatCapabilities Capabilities { get; }

    /// <summary>What to change in the own files of <paramref name="before"/> so that they say <paramref name="now"/>.</summary>
    /// <param name="before">The scene as its files say it.</param>
    /// <param name="now">The same scene after edits that <see cref="Capabilities"/> allows.</param>
    /// <exception cref="CannotUseException">Something of it cannot be written; the sentence tells what.</exception>
    OwnChanges Changes(Scene before, Scene now);

    /// <summary>The geometry of a scene that was read from such a file, with the same context.</summary>
    /// <param name="decoder">Unpacks compressed geometry; null when there is none at hand.</param>
    /// <exception cref="CannotUseException">The format carries none, or the file is not what it was.</exception>
    IGeometrySource Geometry(Scene scene, ReadContext context, IMeshDecoder? decoder);

    /// <summary>The bytes of data carried inside the scene.</summary>
    /// <exception cref="CannotUseException">The data is cut off or not base64.</exception>
    Stream OpenCarried(CarriedData carried);
}

/// <summary>Changes to a scene's own files.</summary>
/// <param name="Edits">Bytes to replace, by index into <see cref="Scene.Files"/>.</param>
/// <param name="Added">Own files that come into being, by absolute path.</param>
public sealed record OwnChanges(ILookup<int, ByteEdit> Edits, IReadOnlyDictionary<string, byte[]> Added)
{
    public static OwnChanges Of(IEnumerable<(int File, ByteEdit Edit)> edits) =>
        new(edits.ToLookup(e => e.File, e => e.Edit), ImmutableDictionary<string, byte[]>.Empty);
}

/// <summary>What a reader may do besides reading the file it was given.</summary>
/// <param name="Scope">The only folders own files (material libraries) are read from.</param>
/// <param name="Bounds">Limits on what is read.</param>
/// <param name="Relinked">Where edits of the ledger say that an own file lies, by the reference that calls it.</param>
/// <param name="Progress">Called with a short text of what is being read.</param>
public sealed record ReadContext(
    RootScope Scope,
    Bounds Bounds,
    IReadOnlyDictionary<ReferenceKey, string>? Relinked = null,
    Action<string>? Progress = null,
    CancellationToken Stop = default
)
{
    /// <summary>For own files that edits of the ledger have changed: where the changed copy lies, by the path of the file.</summary>
    public IReadOnlyDictionary<string, string> Edited { get; init; } = ImmutableDictionary<string, string>.Empty;

    /// <summary>What the artist chose of the alternatives in the file, by place and set.</summary>
    public IReadOnlyDictionary<(string Place, string Set), string> Chosen { get; init; } =
        ImmutableDictionary<(string, string), string>.Empty;

    /// <summary>Only the file itself: other own files that it calls are listed, not read.</summary>
    public bool Alone { get; init; }

    /// <summary>Files that other scenes of the same delivery were made of.</summary>
    public ParsedFiles? Parsed { get; init; }

    /// <summary>The real path of another own file that is to be read; null for one that lies outside, or when none is.</summary>
    public string? Enter(string path) => Alone ? null : Scope.Enter(path);

    public string? EditedCopy(string path) => Edited.GetValueOrDefault(path);

    public FileStream Open(string path) => RegularFile.Open(EditedCopy(path) ?? path);
}

/// <summary>The formats that Root Call reads. To add one, write its folder and put it in <see cref="All"/>.</summary>
public static class SceneFormats
{
    public static ImmutableArray<ISceneFormat> All { get; } =
    [
        new Gltf.GltfFormat(),
        new Wavefront.WavefrontFormat(),
        new MaterialX.MaterialXFormat(),
        new Collada.ColladaFormat(),
        new Usd.UsdFormat(),
        new Fbx.FbxFormat(),
        new Geometry.StlFormat(),
        new Geometry.PlyFormat(),
    ];

    public static bool IsScene(string path) => For(path) is not null;

    /// <summary>What a scene of that ending is, as people call it, before it is read.</summary>
    public static string Title(string path) =>
        Path.GetExtension(path).ToLowerInvariant() switch
        {
            ".glb" => "glTF binary",
            ".gltf" => "glTF",
            ".usda" => "USD text",
            ".usdc" => "USD crate",
            ".usdz" => "USD package",
            ".usd" => "USD",
            ".mtlx" => "MaterialX",
            ".obj" => "Wavefront",
            ".dae" => "COLLADA",
            var ending => ending.TrimStart('.').ToUpperInvariant(),
        };

    public static ISceneFormat? For(string path) =>
        All.FirstOrDefault(f => f.Extensions.Contains(Path.GetExtension(path).ToLowerInvariant()));

    /// <exception cref="CannotUseException">No such file, or no format that is read.</exception>
    public static Scene Read(string path, ReadContext context)
    {
        var full = Path.GetFullPath(path);
        if (!File.Exists(full))
            throw new CannotUseException($"There is no file “{full}”.");
        var real = context.Scope.Enter(full) ?? throw new CannotUseException($"“{full}” lies outside every root; it was not looked at.");
        return Of(real).Read(real, context);
    }

    public static ISceneFormat Of(string path) =>
        For(path)
        ?? throw new CannotUseException(
            $"“{Path.GetFileName(path)}” is not a scene that is read here; the formats are "
                + $"{string.Join(", ", All.SelectMany(f => f.Extensions))}."
        );
}
