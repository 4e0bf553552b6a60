using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Geometry;

namespace RootCall.Core.Viewing;

/// <summary>
/// The edges of triangles where a picture lies on them, read from the files of a view. An edge that lies in another tile of the picture
/// is moved into the first: it reads the same pixels.
/// </summary>
/// <param name="Edges">Two places each, u v u v, from the upper left corner of the picture; 1 is its width and its height.</param>
/// <param name="Left">Edges that are more than are shown.</param>
public sealed record UvLayout(ImmutableArray<float> Edges, long Left)
{
    /// <summary>More lines than these cover the picture.</summary>
    private const int MostEdges = 150_000;

    /// <summary>Places closer than that are one.</summary>
    private const float Step = 1f / 16_384;

    /// <param name="folder">Of the view.</param>
    /// <param name="setOf">Which UV set of the files a piece reads the picture by, from 0; null for a piece that does not read it.</param>
    /// <param name="matrix">From glTF's coordinates to places in the picture: two rows of three numbers.</param>
    /// <exception cref="CannotUseException">The view is not there any more.</exception>
    public static UvLayout Of(
        string folder,
        ViewedScene view,
        Func<ViewedPiece, int?> setOf,
        ImmutableArray<double> matrix,
        Bounds bounds,
        CancellationToken stop
    )
    {
        var edges = ImmutableArray.CreateBuilder<float>();
        var known = new HashSet<(int, int, int, int)>();
        var seen = new HashSet<(int File, int Mesh)>();
        var left = 0L;
        foreach (var file in view.Pieces.GroupBy(p => p.File))
        {
            // Nodes stand in a file in the order of its pieces.
            var worn = file.Select((p, place) => (Place: place, Set: setOf(p))).Where(p => p.Set is not null).ToList();
            if (worn.Count == 0)
                continue;
            stop.ThrowIfCancellationRequested();
            var context = new ReadContext(new RootScope([folder]), bounds);
            var scene = SceneFormats.Read(ViewedScene.Place(folder, file.Key), context);
            using var source = SceneFormats.Of(scene.Path).Geometry(scene, context, null);
            foreach (var (place, set) in worn)
            {
                var mesh = scene.Nodes.First(n => n.Place == place).Mesh;
                // However often it stands, its coordinates are the same.
                if (seen.Add((file.Key, mesh)))
                    Add(source.Read(mesh, stop), set!.Value);
            }
        }

        return new(edges.ToImmutable(), left);

        void Add(MeshGeometry mesh, int set)
        {
            if (mesh.Stream(GeometryUse.Uv, set) is not { } uvs)
                return;
            var triangles = mesh.Triangles();
            for (var t = 0; t + 2 < triangles.Length; t += 3)
            for (var k = 0; k < 3; k++)
            {
                var (from, to) = (At(uvs.At(mesh, triangles[t + k])), At(uvs.At(mesh, triangles[t + ((k + 1) % 3)])));
                var tile = (from + to) / 2;
                tile = new(MathF.Floor(tile.X), MathF.Floor(tile.Y));
                (from, to) = (from - tile, to - tile);
                if (!known.Add(Key(from, to)))
                    continue;
                if (known.Count > MostEdges)
                    left++;
                else
                    edges.AddRange(from.X, from.Y, to.X, to.Y);
            }
        }

        Vector2 At(ReadOnlySpan<float> uv) =>
            uv.Length < 2 || !float.IsFinite(uv[0] + uv[1])
                ? Vector2.Zero
                : new(
                    (float)((matrix[0] * uv[0]) + (matrix[1] * uv[1]) + matrix[2]),
                    (float)((matrix[3] * uv[0]) + (matrix[4] * uv[1]) + matrix[5])
                );
    }

    /// <summary>The same for both directions.</summary>
    private static (int, int, int, int) Key(Vector2 from, Vector2 to)
    {
        var (a, b) = ((int)MathF.Round(from.X / Step), (int)MathF.Round(from.Y / Step));
        var (c, d) = ((int)MathF.Round(to.X / Step), (int)MathF.Round(to.Y / Step));
        return (a, b).CompareTo((c, d)) <= 0 ? (a, b, c, d) : (c, d, a, b);
    }
}
