using RootCall.Core.Geometry;

namespace RootCall.Core.Formats.Geometry;

/// <summary>Takes what a format of plain geometry reads, while it streams by.</summary>
internal sealed class ShapeKeep(GeometryBudget budget)
{
    private readonly List<float> points = [];
    private readonly List<(GeometryUse Use, string Name, int Width, bool ByPoint, List<float> Values)> streams = [];
    private readonly List<int[]> faces = [];

    public void Point(double x, double y, double z)
    {
        budget.Take(3, sizeof(float));
        points.AddRange([(float)x, (float)y, (float)z]);
    }

    /// <summary>Values that hang on the points, or on the faces.</summary>
    public List<float> Stream(GeometryUse use, string name, int width, bool byPoint)
    {
        streams.Add((use, name, width, byPoint, []));
        return streams[^1].Values;
    }

    public void Face(int[] corners)
    {
        budget.Take(corners.Length + 4L, sizeof(int) * 2);
        faces.Add(corners);
    }

    /// <summary>A triangle of points that belong to it alone.</summary>
    public void Triangle(ReadOnlySpan<float> nine)
    {
        var first = points.Count / 3;
        budget.Take(9, sizeof(float));
        points.AddRange(nine);
        Face([first, first + 1, first + 2]);
    }

    public MeshGeometry Build()
    {
        var builder = new GeometryBuilder(budget) { Points = points.ToArray() };
        foreach (var (use, name, width, byPoint, values) in streams)
            if (byPoint)
                builder.ByPoint(use, name, width, values.ToArray());
            else
                builder.Indexed(use, name, width, values.ToArray());
        foreach (var (face, corners) in faces.Index())
        {
            // What hangs on the faces is called by their number.
            var own = Enumerable.Repeat(face, corners.Length).ToArray();
            builder.Face(corners, 0, [.. streams.Select(_ => own)]);
        }

        return builder.Build();
    }
}
