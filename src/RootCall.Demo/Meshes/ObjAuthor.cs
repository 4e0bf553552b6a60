using System.Globalization;
using System.Text;

namespace RootCall.Demo.Meshes;

/// <summary>Writes Wavefront OBJ text. Its v runs upward, so it is flipped.</summary>
internal static class ObjAuthor
{
    public static string Write(string header, IReadOnlyList<DemoPart> parts)
    {
        var text = new StringBuilder(header);
        var start = 1;
        foreach (var part in parts)
        {
            text.Append(CultureInfo.InvariantCulture, $"o {part.Name}\nusemtl {part.Material}\n");
            foreach (var p in part.Mesh.Positions)
                text.Append(CultureInfo.InvariantCulture, $"v {p.X:0.#####} {p.Y:0.#####} {p.Z:0.#####}\n");
            foreach (var t in part.Mesh.Uvs)
                text.Append(CultureInfo.InvariantCulture, $"vt {t.X:0.#####} {1 - t.Y:0.#####}\n");
            foreach (var n in part.Mesh.Normals)
                text.Append(CultureInfo.InvariantCulture, $"vn {n.X:0.####} {n.Y:0.####} {n.Z:0.####}\n");
            for (var i = 0; i < part.Mesh.Indices.Count; i += 3)
            {
                text.Append('f');
                for (var c = 0; c < 3; c++)
                {
                    var v = part.Mesh.Indices[i + c] + start;
                    text.Append(CultureInfo.InvariantCulture, $" {v}/{v}/{v}");
                }

                text.Append('\n');
            }

            start += part.Mesh.Positions.Count;
        }

        return text.ToString();
    }
}
