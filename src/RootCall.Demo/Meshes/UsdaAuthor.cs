using System.Globalization;
using System.Numerics;
using System.Text;

namespace RootCall.Demo.Meshes;

/// <summary>Writes prims of USD as text. Its v runs upward, so it is flipped.</summary>
internal static class UsdaAuthor
{
    /// <param name="binding">Statement that binds a material; empty for none.</param>
    public static string Mesh(string name, MeshData mesh, string binding, string indent = "    ")
    {
        var faces = mesh.Indices.Count / 3;
        var text = new StringBuilder();
        var (min, max) = (mesh.Positions.Aggregate(Vector3.Min), mesh.Positions.Aggregate(Vector3.Max));
        var schemas = binding.Length > 0 ? $" (\n{indent}    prepend apiSchemas = [\"MaterialBindingAPI\"]\n{indent})" : string.Empty;
        text.Append(CultureInfo.InvariantCulture, $"{indent}def Mesh \"{name}\"{schemas}\n{indent}{{\n");
        void Line(string statement) => text.Append(indent).Append("    ").Append(statement).Append('\n');
        Line($"float3[] extent = [{Tuple(min)}, {Tuple(max)}]");
        Line($"int[] faceVertexCounts = [{string.Join(", ", Enumerable.Repeat("3", faces))}]");
        Line($"int[] faceVertexIndices = [{string.Join(", ", mesh.Indices)}]");
        if (binding.Length > 0)
            Line(binding);
        Line(
            $"normal3f[] normals = [{string.Join(", ", mesh.Normals.Select(Tuple))}] (\n{indent}        interpolation = "
                + $"\"vertex\"\n{indent}    )"
        );
        Line($"point3f[] points = [{string.Join(", ", mesh.Positions.Select(Tuple))}]");
        Line(
            $"texCoord2f[] primvars:st = [{string.Join(", ", mesh.Uvs.Select(Tuple))}] (\n{indent}        interpolation = "
                + $"\"vertex\"\n{indent}    )"
        );
        Line("uniform token subdivisionScheme = \"none\"");
        return text.Append(indent).Append("}\n").ToString();
    }

    private static string Tuple(Vector2 uv) => string.Create(CultureInfo.InvariantCulture, $"({uv.X:0.#####}, {1 - uv.Y:0.#####})");

    private static string Tuple(Vector3 v) => string.Create(CultureInfo.InvariantCulture, $"({v.X:0.#####}, {v.Y:0.#####}, {v.Z:0.#####})");
}
