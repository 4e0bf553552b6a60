using System.Collections.Immutable;
using System.Globalization;
using System.IO.Hashing;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.Viewing;

/// <summary>Triangles of one part of a mesh, placed once.</summary>
/// <param name="Node">Index into <c>Scene.Nodes</c>.</param>
/// <param name="Part">Index into the parts of its mesh.</param>
/// <param name="File">The one it lies in.</param>
/// <param name="PerUv">Metres that one step of its first UV set covers, by the areas of its triangles; 0 where it has none.</param>
public sealed record ViewedPiece(int Node, int Part, int File, long Triangles, double PerUv);

/// <summary>A GLB with a part of a scene.</summary>
/// <param name="Triangles">As they are placed.</param>
/// <param name="Min">Lower corner of the box around it, in the space of the view: x y z.</param>
public sealed record ViewedFile(int Number, long Triangles, long Bytes, ImmutableArray<double> Min, ImmutableArray<double> Max);

/// <summary>A scene made ready to be walked around: its geometry in files that can be taken one by one.</summary>
/// <param name="Print">What it was made of (<see cref="PrintOf"/>).</param>
/// <param name="IsQuantised">Places are in steps of 1/32,767 of each piece's size.</param>
/// <param name="Told">What it does not show, in sentences.</param>
public sealed record ViewedScene(
    string Print,
    DateTimeOffset At,
    bool IsQuantised,
    ImmutableArray<ViewedFile> Files,
    ImmutableArray<ViewedPiece> Pieces,
    ImmutableArray<string> Told
)
{
    /// <summary>Another way to write it makes other files.</summary>
    private const int Version = 1;

    /// <summary>What is known of the view in a folder; null when there is none.</summary>
    public static ViewedScene? Of(string folder)
    {
        try
        {
            return JsonSerializer.Deserialize(File.ReadAllBytes(About(folder)), ViewedSceneContext.Default.ViewedScene);
        }
        catch (Exception e) when (e is JsonException or IOException)
        {
            return null;
        }
    }

    public static string Place(string folder, int file) => Path.Combine(folder, string.Create(CultureInfo.InvariantCulture, $"{file}.glb"));

    /// <summary>Written last: what it tells of lies there.</summary>
    internal void Keep(string folder) =>
        WholeOrNothing.Cached(About(folder), JsonSerializer.SerializeToUtf8Bytes(this, ViewedSceneContext.Default.ViewedScene));

    /// <summary>A hash of all that geometry and its places are made of; whatever the materials look like.</summary>
    public static string PrintOf(MusterReport report)
    {
        var scene = report.Scene;
        var hash = new XxHash128();
        void Add(string text) => hash.Append(Encoding.UTF8.GetBytes(text + "\n"));
        Add(string.Create(CultureInfo.InvariantCulture, $"{Version} {scene.UpAxis} {scene.MetresPerUnit}"));
        var buffers = report.References.Where(r => r.Reference.Kind == ReferenceKind.Buffer).Select(r => r.Resolved).OfType<string>();
        foreach (var file in scene.Files.Select(f => f.Path).Concat(buffers))
            Add(FileFacts.Stamp(file) is { } stamp ? $"{file} {stamp.Bytes} {stamp.ModifiedUtc.Ticks}" : file);
        foreach (var node in scene.Nodes)
        {
            var place = string.Join(' ', node.Transform.Select(t => t.ToString("R", CultureInfo.InvariantCulture)));
            Add($"{node.Parent} {Geometry(scene, node)} {place}");
        }

        // What comes into being as another one's like has its geometry.
        foreach (
            var part in scene.Meshes.Where(m => m.CopyOf is null).SelectMany(m => m.Parts.Prepend(new(m.Id, string.Empty, m.Triangles)))
        )
            Add($"{part.Name} {part.Triangles}");
        return hash.GetCurrentHashAsUInt128().ToString("x32", CultureInfo.InvariantCulture);
    }

    private static string Geometry(Scene scene, SceneNode node) =>
        scene.Meshes.ElementAtOrDefault(node.Mesh) is { } mesh ? mesh.CopyOf ?? mesh.Id : string.Empty;

    private static string About(string folder) => Path.Combine(folder, "about.json");
}

[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(ViewedScene))]
internal sealed partial class ViewedSceneContext : JsonSerializerContext;
