using RootCall.Core.Scenes;

namespace RootCall.Core.Transfer;

/// <summary>The box around everything that is placed, in metres.</summary>
internal static class WorldBox
{
    public static Box? Of(Scene scene)
    {
        var unit = scene.MetresPerUnit ?? 1;
        var world = Transforms.Worlds(scene);
        var box = new BoxBuilder();
        for (var i = 0; i < scene.Nodes.Length; i++)
        {
            var node = scene.Nodes[i];
            if (node.Mesh < 0 || node.Mesh >= scene.Meshes.Length || scene.Meshes[node.Mesh].Bounds is not { } bounds)
                continue;
            for (var corner = 0; corner < 8; corner++)
            {
                var (x, y, z) = Transforms.Apply(
                    world[i],
                    (corner & 1) == 0 ? bounds.Min.X : bounds.Max.X,
                    (corner & 2) == 0 ? bounds.Min.Y : bounds.Max.Y,
                    (corner & 4) == 0 ? bounds.Min.Z : bounds.Max.Z
                );
                box.Add(x * unit, y * unit, z * unit);
            }
        }

        return box.Box;
    }
}
