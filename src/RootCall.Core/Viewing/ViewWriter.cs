using System.Text.Json.Nodes;
using RootCall.Core.Files;
using RootCall.Core.Formats.Gltf.Authoring;
using RootCall.Core.Geometry;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Viewing;

/// <summary>
/// Writes the geometry of a scene of any format as GLBs of a bounded size, so that whoever looks at it can begin with what is near. A
/// node stands for one part of a mesh at one place and says both in its extras; materials are not written: they are put on by whoever
/// shows it, so that a look that changes asks for no new geometry. Gives up: subdivision (its cage is shown, smooth), instancers,
/// colours of vertices, and what is more than is shown, which is told.
/// </summary>
/// <param name="folder">Empty; it becomes the view's.</param>
public sealed class ViewWriter(Scene scene, IGeometrySource source, string folder) : IDisposable
{
    /// <summary>Triangles of one piece, and of one file as they are placed.</summary>
    private const int MostOfPiece = 120_000,
        MostOfFile = 300_000;

    /// <summary>Bytes of one file.</summary>
    private const long MostBytes = 12_000_000;

    /// <summary>Pieces, and triangles as they are placed, of one scene: what is more takes a browser too long to draw.</summary>
    private const int MostPieces = 20_000;
    private const long MostTriangles = 60_000_000;

    /// <summary>From so many triangles on places are written in steps.</summary>
    private const long LargeFrom = 1_000_000;

    private readonly double[][] world = Transforms.Worlds(scene);
    private readonly double[] upright = Transforms.Upright(scene.UpAxis);
    private readonly double metres = scene.MetresPerUnit ?? 1;
    private readonly bool isLarge =
        scene.Nodes.Where(n => n.Mesh >= 0 && n.Mesh < scene.Meshes.Length).Sum(n => scene.Meshes[n.Mesh].Triangles) > LargeFrom;
    private readonly bool countsDown = scene.Format.Id is "gltf" or "glb";
    private readonly List<ViewedFile> files = [];
    private readonly List<ViewedPiece> pieces = [];
    private readonly SortedSet<string> told = new(StringComparer.Ordinal);
    private GlbAuthor glb = new();
    private BoxBuilder box = new();
    private long inFile;
    private long shown;
    private long tooMany;
    private long astray;

    /// <summary>The first place: all others are taken from it, so that single precision holds what lies far out.</summary>
    private double[]? home;

    /// <param name="progress">Told how many meshes of how many were written.</param>
    /// <exception cref="CannotUseException">Nothing is left to show.</exception>
    public ViewedScene Write(string print, DateTimeOffset at, Action<string, int, int> progress, CancellationToken stop)
    {
        var byMesh = scene
            .Nodes.Select((n, i) => (n.Mesh, Node: i))
            .Where(n => n.Mesh >= 0 && n.Mesh < scene.Meshes.Length)
            .ToLookup(n => n.Mesh, n => n.Node);
        foreach (var (mesh, done) in byMesh.Select((m, i) => (m, i)))
        {
            stop.ThrowIfCancellationRequested();
            progress(scene.Meshes[mesh.Key].Name, done, byMesh.Count);
            Add(mesh.Key, [.. mesh], stop);
        }

        Close();
        foreach (var node in scene.Nodes.Where(n => n.Copies > 1))
            told.Add(Invariant($"“{node.Name}” is shown once, not {node.Copies:N0} times."));
        if (astray > 0)
            told.Add(Invariant($"{astray:N0} triangles lie at no place that can be shown; they were left out."));
        if (tooMany > 0)
            told.Add(Invariant($"{tooMany:N0} triangles are more than can be shown; they were left out."));
        if (pieces.Count == 0)
            throw new CannotUseException(
                "The scene has no triangles that can be shown." + string.Concat(told.Take(3).Select(t => " " + t))
            );
        return new(print, at, isLarge, [.. files], [.. pieces], [.. told.Take(MostTold)]);
    }

    private const int MostTold = 40;

    private void Add(int index, int[] nodes, CancellationToken stop)
    {
        var mesh = scene.Meshes[index];
        if (pieces.Count >= MostPieces || shown >= MostTriangles)
        {
            tooMany += mesh.Triangles * nodes.Length;
            return;
        }

        MeshGeometry read;
        try
        {
            read = ViewGeometry.Shown(source.Read(index, stop));
        }
        catch (CannotUseException e)
        {
            told.Add($"“{mesh.Name}” is not shown. {e.Message}");
            return;
        }

        if (read.IsSmoothCage)
            told.Add("Subdivision surfaces are shown as their cages.");
        for (var part = 0; part < Math.Max(1, mesh.Parts.Length); part++)
        {
            var (triangles, lost) = ViewGeometry.Finite(read, read.Triangles(mesh.Parts.Length > 1 ? part : null));
            astray += (long)lost * nodes.Length;
            for (var from = 0; from < triangles.Count; from += MostOfPiece * 3)
            {
                stop.ThrowIfCancellationRequested();
                Piece(mesh.Name, read, part, triangles.Slice(from, Math.Min(MostOfPiece * 3, triangles.Count - from)), nodes);
            }
        }
    }

    private void Piece(string name, MeshGeometry read, int part, List<int> triangles, int[] nodes)
    {
        var count = triangles.Count / 3;
        var welded = new Welded(read, countsDown);
        welded.AddTriangles([.. triangles]);
        var primitive = welded.Primitive(-1);
        var placing = Transforms.Identity;
        if (isLarge)
        {
            var (min, max) = ViewGeometry.BoxOf(primitive.Positions);
            var (middle, half) = ((min + max) / 2, (max - min) / 2);
            var size = MathF.Max(1e-30f, MathF.Max(half.X, MathF.Max(half.Y, half.Z)));
            for (var i = 0; i < primitive.Positions.Length; i++)
                primitive.Positions[i] = (primitive.Positions[i] - middle[i % 3]) / size;
            primitive = primitive with { IsQuantised = true };
            placing = Transforms.Multiply(Transforms.Scaling(size, size, size), Transforms.Translation(middle.X, middle.Y, middle.Z));
        }

        var (area, uvArea) = ViewGeometry.Areas(read, triangles);
        if (inFile > 0 && (inFile + count > MostOfFile || glb.Bytes > MostBytes))
            Close();
        var mesh = -1;
        foreach (var node in nodes)
        {
            if (pieces.Count >= MostPieces || shown >= MostTriangles)
            {
                tooMany += count;
                continue;
            }

            if (Placed(node) is not { } place)
            {
                astray += count;
                continue;
            }

            // Files stay small however often a mesh stands: its next places are written with it once more.
            if (inFile > 0 && inFile + count > MostOfFile)
            {
                Close();
                mesh = -1;
            }

            if (mesh < 0)
                mesh = glb.Mesh(name, [primitive]);
            var placed = Transforms.Multiply(placing, place);
            glb.Node(scene.Nodes[node].Name, -1, mesh, placed, new JsonObject { ["node"] = node, ["part"] = part });
            Grow(placed, primitive.Positions);
            var scale = Math.Cbrt(Math.Abs(Transforms.Determinant(place))) * metres;
            pieces.Add(new(node, part, files.Count, count, uvArea > 0 ? Math.Sqrt(area / uvArea) * scale : 0));
            inFile += count;
            shown += count;
        }
    }

    public void Dispose() => glb.Dispose();

    /// <summary>From the mesh's space into that of the view; null for no place.</summary>
    private double[]? Placed(int node)
    {
        var place = Transforms.Multiply(world[node], upright);
        if (!place.All(v => Math.Abs(v) < ViewGeometry.Farthest))
            return null;
        home ??= [.. place[12..15]];
        return Transforms.Multiply(place, Transforms.Translation(-home[0], -home[1], -home[2]));
    }

    /// <param name="positions">In the mesh's space: x y z of each.</param>
    private void Grow(double[] place, float[] positions)
    {
        for (var i = 0; i + 2 < positions.Length; i += 3)
        {
            var (x, y, z) = Transforms.Apply(place, positions[i], positions[i + 1], positions[i + 2]);
            box.Add(x, y, z);
        }
    }

    /// <summary>The file in hand is full.</summary>
    private void Close()
    {
        if (inFile > 0)
        {
            var path = ViewedScene.Place(folder, files.Count);
            WholeOrNothing.CachedPieces(path, glb.Write);
            var around = box.Box!.Value;
            files.Add(
                new(
                    files.Count,
                    inFile,
                    new FileInfo(path).Length,
                    [around.Min.X, around.Min.Y, around.Min.Z],
                    [around.Max.X, around.Max.Y, around.Max.Z]
                )
            );
        }

        glb.Dispose();
        (glb, box, inFile) = (new(), new(), 0);
    }
}
