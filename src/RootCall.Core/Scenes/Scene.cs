using System.Collections.Immutable;
using System.Text.Json.Serialization;
using RootCall.Core.Files;

namespace RootCall.Core.Scenes;

/// <summary>
/// An arrived scene as its reader saw it: never changed afterwards. What the artist changes lives in the ledger
/// (<see cref="Edits.Ledger"/>); arrived scene plus ledger is the current scene.
/// </summary>
/// <param name="Path">Absolute path of the file that was opened.</param>
/// <param name="Format">Id and name of the format, for example <c>gltf</c>.</param>
/// <param name="Files">The scene's own files: the scene first, then material libraries in the order they are called.</param>
/// <param name="Materials">Materials by name, in the order of the file.</param>
/// <param name="References">Every external or embedded file the scene calls for, numbered from 1 in the order of the file.</param>
/// <param name="Counts">What came.</param>
/// <param name="Notes">What could not be read, each with its place.</param>
public sealed record Scene(
    string Path,
    FormatInfo Format,
    ImmutableArray<SourceFile> Files,
    ImmutableArray<Material> Materials,
    ImmutableArray<Reference> References,
    SceneCounts Counts,
    ImmutableArray<ReadNote> Notes
)
{
    /// <summary>The hierarchy; a parent comes before its children.</summary>
    public ImmutableArray<SceneNode> Nodes { get; init; } = [];

    public ImmutableArray<Mesh> Meshes { get; init; } = [];

    /// <summary>Metres a unit of the scene stands for; null when the file does not say and its format gives no default.</summary>
    public double? MetresPerUnit { get; init; }

    /// <summary>X, Y or Z; null when neither the file nor its format says.</summary>
    public string? UpAxis { get; init; }

    /// <summary>What can be chosen in the file itself, with what is chosen now.</summary>
    public ImmutableArray<VariantChoice> Variants { get; init; } = [];

    /// <summary>Paths of prims whose descendants are shared: what is said of those is not heard (USD, "Scenegraph instancing").</summary>
    public ImmutableArray<string> Instances { get; init; } = [];

    /// <summary>Why nothing can be written into its files before somebody mends them, in one sentence; null when it can.</summary>
    public string? Broken { get; init; }

    /// <summary>What edits say of references; empty for a scene as it arrived.</summary>
    [JsonIgnore]
    public ImmutableDictionary<ReferenceKey, Answer> Answers { get; init; } = ImmutableDictionary<ReferenceKey, Answer>.Empty;

    /// <summary>Lights and environment maps, by name and type.</summary>
    public ImmutableArray<SceneLight> Lights { get; init; } = [];

    public ImmutableArray<SceneCamera> Cameras { get; init; } = [];

    /// <summary>The lights that are drawn by, where they stand; one light may stand in several places.</summary>
    public ImmutableArray<Lamp> Lamps { get; init; } = [];

    /// <summary>The folder the scene lies in. It is always a root for this scene.</summary>
    public string Folder => System.IO.Path.GetDirectoryName(Path)!;

    /// <summary>The material of a name or id, as <see cref="SceneIndex"/> finds many; null for none.</summary>
    public Material? Called(string name) =>
        Materials.FirstOrDefault(m => m.Name == name && !m.IsTemplate) ?? Materials.FirstOrDefault(m => m.Name == name || m.Id == name);
}

/// <param name="Id">As the command line writes it: <c>gltf</c>, <c>glb</c>, <c>obj</c>.</param>
/// <param name="Name">As people read it.</param>
public sealed record FormatInfo(string Id, string Name);

/// <summary>One of the scene's own files: a file that Root Call would rewrite when a path in it changes.</summary>
/// <param name="Path">Absolute path.</param>
/// <param name="Bytes">Length in bytes.</param>
/// <param name="CalledBy">The reference that calls it; null for the scene itself.</param>
public sealed record SourceFile(string Path, long Bytes, ReferenceKey? CalledBy)
{
    /// <summary>
    /// Where the bytes lie when edits of the ledger have changed them; the path stays the one that paths inside start
    /// from.
    /// </summary>
    public string? Edited { get; init; }

    /// <summary>It comes into being when the scene is written.</summary>
    public bool IsMade { get; init; }

    /// <summary>File name to write it under, when that is not its own: an overriding layer beside the file it stands on.</summary>
    public string? WrittenAs { get; init; }

    public FileStream Open() => RegularFile.Open(Edited ?? Path);
}

/// <summary>A set of alternatives in the file: a USD variant set, or the material variants of glTF.</summary>
/// <param name="Place">Path of the prim that has the set; empty for the whole scene.</param>
/// <param name="Options">Names in the order of the file.</param>
public sealed record VariantChoice(string Place, string Set, ImmutableArray<string> Options, string Selected);

/// <summary>What edits say of one reference; null where they say nothing.</summary>
/// <param name="File">Absolute path of the file that answers.</param>
/// <param name="Style">How its path is written.</param>
/// <param name="Root">Absolute folder that a path relative to a root starts from.</param>
/// <param name="Place">Where the file lies in a package, relative to the scene with slashes.</param>
public sealed record Answer(string? File = null, PathStyle? Style = null, string? Root = null, string? Place = null)
{
    [JsonIgnore]
    public bool IsEmpty => this is { File: null, Style: null, Root: null, Place: null };
}

/// <summary>How a path is written into a scene.</summary>
public enum PathStyle
{
    /// <summary>From the folder of the file that writes it.</summary>
    Relative,

    /// <summary>From a root's folder: for programs that search in a list of folders.</summary>
    RootRelative,

    /// <summary>From this system's top folder.</summary>
    Absolute,
}

/// <param name="Type">The format's own type of light: <c>point</c>, <c>DomeLight</c>.</param>
public sealed record SceneLight(string Name, string Type);

/// <summary>
/// A camera: it looks along -z of its node, y upwards (glTF 2.0, 3.10; UsdGeomCamera; COLLADA 1.4.1, camera).
/// </summary>
/// <param name="Node">Index into <see cref="Scene.Nodes"/>.</param>
/// <param name="Half">
/// Half the height of what it sees: at distance 1, the tangent of half its angle; where it sees in parallel, in units of the scene.
/// </param>
/// <param name="Aspect">Width by height; null when the file does not say.</param>
public sealed record SceneCamera(string Name, int Node, double Half, double? Aspect = null, bool IsParallel = false);

/// <summary>Counts of what a scene holds. Triangles count each mesh once, however often it is placed.</summary>
public sealed record SceneCounts(int Nodes, int Meshes, int Materials, int Images, long Triangles);

/// <summary>Something the reader could not read or had to guess.</summary>
/// <param name="Message">One sentence: what is wrong and what was kept.</param>
/// <param name="Place">Where: file name with a JSON pointer, a line, or a byte offset.</param>
public sealed record ReadNote(string Message, string Place);
