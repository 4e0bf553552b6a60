using System.Globalization;
using System.Numerics;
using System.Text;
using RootCall.Demo.Meshes;

namespace RootCall.Demo.Scenes;

/// <summary>A pebble of the floor as STL. Half of its triangles were lost on the way.</summary>
internal static class Pebble
{
    private const string Name = "pebble";

    public static DemoScene Scene =>
        new(Name, $"{Name}.stl", [], Own)
        {
            Losses =
            [
                new("scene", $"{Name}.stl", "triangles", "reduced on the way"),
                new("mesh", Name, "triangles", "reduced on the way"),
                new("mesh", Name, "bounding box", "reduced on the way"),
                new("scene", $"{Name}.stl", "bounding box", "reduced on the way"),
            ],
        };

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        var mesh = OrchardMeshes.Pot();
        var triangles = mesh.Indices.Count / 3 / (arrived ? 2 : 1);
        using var stl = new MemoryStream();
        using var writer = new BinaryWriter(stl, Encoding.ASCII);
        writer.Write(new byte[80]);
        writer.Write(triangles);
        for (var t = 0; t < triangles; t++)
        {
            Write(writer, mesh.Normals[mesh.Indices[t * 3]]);
            for (var c = 0; c < 3; c++)
                Write(writer, mesh.Positions[mesh.Indices[(t * 3) + c]]);
            writer.Write((ushort)0);
        }

        writer.Flush();
        return [($"{Name}.stl", stl.ToArray())];
    }

    private static void Write(BinaryWriter writer, Vector3 v)
    {
        writer.Write(v.X);
        writer.Write(v.Y);
        writer.Write(v.Z);
    }
}

/// <summary>A drop of dew as PLY text, with colours that did not survive.</summary>
internal static class DewDrop
{
    private const string Name = "dew_drop";

    public static DemoScene Scene =>
        new(Name, $"{Name}.ply", [], Own) { Losses = [new("mesh", Name, "vertex colours", "colours did not come along")] };

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        var mesh = OrchardMeshes.LampBody();
        var text = new StringBuilder();
        text.Append(
            CultureInfo.InvariantCulture,
            $"ply\nformat ascii 1.0\ncomment The Tin Orchard\nelement vertex {mesh.Positions.Count}\nproperty float "
                + $"x\nproperty float y\nproperty float z\n"
        );
        if (!arrived)
            text.Append("property uchar red\nproperty uchar green\nproperty uchar blue\n");
        text.Append(
            CultureInfo.InvariantCulture,
            $"element face {mesh.Indices.Count / 3}\nproperty list uchar int vertex_indices\nend_header\n"
        );
        foreach (var p in mesh.Positions)
            text.Append(
                CultureInfo.InvariantCulture,
                $"{p.X:0.#####} {p.Y:0.#####} {p.Z:0.#####}{(arrived ? string.Empty : " 190 205 210")}\n"
            );
        for (var i = 0; i < mesh.Indices.Count; i += 3)
            text.Append(CultureInfo.InvariantCulture, $"3 {mesh.Indices[i]} {mesh.Indices[i + 1]} {mesh.Indices[i + 2]}\n");
        return [($"{Name}.ply", Encoding.UTF8.GetBytes(text.ToString()))];
    }
}
