using System.Text.Json.Nodes;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Gltf.Authoring;

/// <summary>
/// Writes a scene of any format as a GLB whose materials have names and nothing else: what they look like is said afterwards, as in any
/// glTF scene. Gives up: cameras, lights, animation, instancers, subdivision.
/// </summary>
public static class SceneToGlb
{
    /// <exception cref="Files.CannotUseException">A mesh cannot be read.</exception>
    public static BareScene Write(Scene scene, IGeometrySource source, Stream output, CancellationToken stop)
    {
        using var glb = new GlbAuthor();
        foreach (var material in scene.Materials)
            glb.Materials.Add((JsonNode)new JsonObject { ["name"] = material.Name });
        var shapes = new GlbShapes(scene, source, glb, 1);
        shapes.Write(new MaterialPlaces(scene).Of, stop);
        glb.Write(output);
        static string Name(int set) => FormattableString.Invariant($"TEXCOORD_{set}");
        return new([.. shapes.Told], shapes.Sets.ToDictionary(s => s.Key, s => Name(s.Value)), Name(0), []);
    }
}
