using System.Runtime.InteropServices;
using static System.FormattableString;

namespace RootCall.Core.Geometry;

/// <summary>Puts a mesh together face by face. Faces whose corners call for points that are not there are left out and told.</summary>
internal sealed class GeometryBuilder(GeometryBudget budget)
{
    private readonly List<int> sizes = [];
    private readonly List<int> corners = [];
    private readonly List<int> parts = [];
    private readonly List<Open> streams = [];
    private bool allTriangles = true;
    private int astray;

    private sealed record Open(GeometryUse Use, string Name, int Width, ReadOnlyMemory<float> Values, List<int>? Indices);

    public ReadOnlyMemory<float> Points { get; set; }

    /// <summary>A stream whose values corners call by an index of their own.</summary>
    /// <returns>Its place, for <see cref="Face"/>.</returns>
    public int Indexed(GeometryUse use, string name, int width, ReadOnlyMemory<float> values)
    {
        streams.Add(new(use, name, width, values, []));
        return streams.Count - 1;
    }

    /// <summary>The values of a stream that were not known when it was begun.</summary>
    public void Fill(int stream, ReadOnlyMemory<float> values) => streams[stream] = streams[stream] with { Values = values };

    /// <summary>A stream that has a value for each point.</summary>
    public void ByPoint(GeometryUse use, string name, int width, ReadOnlyMemory<float> values) =>
        streams.Add(new(use, name, width, values, null));

    /// <param name="points">The point of each corner.</param>
    /// <param name="part">Index of the part.</param>
    /// <param name="indices">For each stream, in their order, the values of the corners; not looked at for those by point.</param>
    public void Face(ReadOnlySpan<int> points, int part, params ReadOnlySpan<int[]> indices)
    {
        if (points.Length < 3)
            return;
        foreach (var point in points)
            if ((uint)point >= (uint)(Points.Length / 3))
            {
                astray++;
                return;
            }

        budget.Take(points.Length + 2L, sizeof(int) * (1 + streams.Count));
        allTriangles &= points.Length == 3;
        sizes.Add(points.Length);
        corners.AddRange(points);
        parts.Add(part);
        for (var s = 0; s < streams.Count; s++)
            streams[s].Indices?.AddRange(s < indices.Length && indices[s] is { } own ? own : Enumerable.Repeat(-1, points.Length));
    }

    public MeshGeometry Build(SurfaceKind surface = SurfaceKind.Polygons, bool leftHanded = false) =>
        new()
        {
            Points = Points,
            FaceSizes = allTriangles ? default : sizes.ToArray(),
            Corners = corners.ToArray(),
            FaceParts = parts.TrueForAll(p => p == 0) ? default : parts.ToArray(),
            Streams =
            [
                .. streams
                    .Where(s => !s.Values.IsEmpty)
                    .Select(s => new GeometryStream(
                        s.Use,
                        s.Name,
                        s.Width,
                        s.Values,
                        s.Indices is null ? default : Valid(s.Indices, s.Values.Length / s.Width)
                    )),
            ],
            Surface = surface,
            IsLeftHanded = leftHanded,
            Notes = astray > 0 ? [Invariant($"{astray:N0} faces call for points that are not there; they were left out.")] : [],
        };

    /// <summary>A value that is not there is none.</summary>
    private static int[] Valid(List<int> indices, int count)
    {
        foreach (ref var index in CollectionsMarshal.AsSpan(indices))
            if ((uint)index >= (uint)count)
                index = -1;
        return [.. indices];
    }
}
