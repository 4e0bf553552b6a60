using System.Collections.Immutable;
using RootCall.Core.Formats.Json;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Gltf;

/// <summary>Cameras of a glTF file (glTF 2.0, 5.12 and 5.13).</summary>
internal static class GltfCameras
{
    public static ImmutableArray<SceneCamera> Read(JsonTree root, ImmutableArray<SceneNode> nodes) =>
        [.. nodes.Select((n, i) => n.Place >= 0 ? Of(root, root["nodes"][n.Place], i) : null).OfType<SceneCamera>()];

    private static SceneCamera? Of(JsonTree root, JsonTree node, int index)
    {
        if (node["camera"].Index is not { } at || root["cameras"][at] is not { Exists: true } camera)
            return null;
        var name = camera["name"].Text ?? node["name"].Text ?? $"camera {at}";
        if (camera["orthographic"] is { Exists: true } parallel)
            return parallel["ymag"].Number is > 0 and var half
                ? new(name, index, half, parallel["xmag"].Number is > 0 and var wide ? wide / half : null, IsParallel: true)
                : null;
        var perspective = camera["perspective"];
        return perspective["yfov"].Number is > 0 and < Math.PI and var angle
            ? new(name, index, Math.Tan(angle / 2), perspective["aspectRatio"].Number is > 0 and var aspect ? aspect : null)
            : null;
    }
}
