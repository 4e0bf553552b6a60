using System.Numerics;

namespace RootCall.Demo.Meshes;

/// <summary>Triangles with positions in metres (Y up), normals and one UV set (v down, as glTF has it).</summary>
internal sealed class MeshData
{
    public List<Vector3> Positions { get; } = [];

    public List<Vector3> Normals { get; } = [];

    public List<Vector2> Uvs { get; } = [];

    public List<int> Indices { get; } = [];

    /// <summary>A sheet of quads over (u, v) in the unit square; normals come from the neighbours.</summary>
    public static MeshData Sheet(int columns, int rows, Func<float, float, Vector3> place, float repeatU = 1, float repeatV = 1)
    {
        var mesh = new MeshData();
        for (var j = 0; j <= rows; j++)
        for (var i = 0; i <= columns; i++)
        {
            float u = i / (float)columns,
                v = j / (float)rows;
            const float Step = 1e-3f;
            var normal = Vector3.Cross(place(u, v + Step) - place(u, v - Step), place(u + Step, v) - place(u - Step, v));
            mesh.Positions.Add(place(u, v));
            mesh.Normals.Add(normal.LengthSquared() > 0 ? Vector3.Normalize(normal) : Vector3.UnitY);
            mesh.Uvs.Add(new(u * repeatU, v * repeatV));
        }

        for (var j = 0; j < rows; j++)
        for (var i = 0; i < columns; i++)
        {
            int a = (j * (columns + 1)) + i,
                b = a + 1,
                c = a + columns + 1,
                d = c + 1;
            mesh.Indices.AddRange([a, c, b, b, c, d]);
        }

        return mesh;
    }

    /// <summary>A profile (radius, height) from top to bottom, turned around Y.</summary>
    public static MeshData Lathe(int sides, Vector2[] profile, float repeatU = 1)
    {
        return Sheet(
            sides,
            (profile.Length - 1) * 4,
            (u, v) =>
            {
                var at = Math.Clamp(v, 0, 1) * (profile.Length - 1);
                var i = Math.Min((int)at, profile.Length - 2);
                var p = Vector2.Lerp(profile[i], profile[i + 1], at - i);
                var angle = u * MathF.Tau;
                return new(MathF.Sin(angle) * p.X, p.Y, MathF.Cos(angle) * p.X);
            },
            repeatU
        );
    }

    public MeshData Add(MeshData other, Matrix4x4 place)
    {
        var start = Positions.Count;
        Positions.AddRange(other.Positions.Select(p => Vector3.Transform(p, place)));
        Normals.AddRange(other.Normals.Select(n => Vector3.Normalize(Vector3.TransformNormal(n, place))));
        Uvs.AddRange(other.Uvs);
        Indices.AddRange(other.Indices.Select(i => i + start));
        return this;
    }
}
