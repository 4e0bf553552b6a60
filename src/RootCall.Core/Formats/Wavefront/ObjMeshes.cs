using System.Buffers.Text;
using System.Collections.Immutable;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>
/// Measures the geometry of an OBJ while it streams by: points are kept for bounds, faces are only counted. A mesh is an
/// object, or a group where the file names no objects.
/// </summary>
internal sealed class ObjMeshes
{
    private readonly List<Open> meshes = [];
    private readonly Dictionary<string, Open> byName = new(StringComparer.Ordinal);
    private float[] points = new float[3 * 1024];
    private int[] countedIn = new int[1024];
    private int pointCount;
    private long textureCount;
    private long normalCount;
    private bool colours;
    private string material = string.Empty;
    private Open? current;
    private bool named;
    private int started;

    public void Object(string name)
    {
        if (!named)
        {
            meshes.RemoveAll(m => m.Faces == 0);
            foreach (var empty in byName.Where(m => m.Value.Faces == 0).Select(m => m.Key).ToList())
                byName.Remove(empty);
        }

        named = true;
        Start(name);
    }

    public void Group(string name)
    {
        if (!named)
            Start(name);
    }

    public void UseMaterial(string name)
    {
        material = name;
        current?.Use(name);
    }

    public void Texture() => textureCount++;

    public void Normal() => normalCount++;

    /// <summary>"v x y z [w] [r g b]".</summary>
    public void Vertex(ReadOnlySpan<byte> text)
    {
        if ((pointCount + 1) * 3 > points.Length)
        {
            Array.Resize(ref points, points.Length * 2);
            Array.Resize(ref countedIn, countedIn.Length * 2);
        }

        var at = 0;
        for (var i = 0; i < 3; i++)
            points[(pointCount * 3) + i] = Number(text, ref at);
        pointCount++;
        if (!colours && at < text.Length)
            colours = Tokens(text[at..]) >= 3;
    }

    /// <summary>Corners of a face; a face that a backslash splits comes in pieces.</summary>
    /// <param name="last">The face ends with this piece.</param>
    public void Face(ReadOnlySpan<byte> text, bool last)
    {
        var mesh = current ?? Start(string.Empty);
        var at = 0;
        while (Corner(text, ref at, out var index))
        {
            mesh.Corners++;
            var point = index > 0 ? index - 1 : pointCount + index;
            if ((uint)point >= (uint)pointCount)
            {
                mesh.Astray++;
                continue;
            }

            if (countedIn[point] != mesh.Number)
            {
                countedIn[point] = mesh.Number;
                mesh.Vertices++;
                mesh.Box.Add(points[point * 3], points[(point * 3) + 1], points[(point * 3) + 2]);
            }
        }

        if (last)
            mesh.CloseFace(material);
    }

    public ImmutableArray<Mesh> Build(string fallback, List<ReadNote> notes, string file)
    {
        var built = ImmutableArray.CreateBuilder<Mesh>();
        foreach (var mesh in meshes.Where(m => m.Faces > 0 || named))
        {
            if (mesh.Astray > 0)
                notes.Add(
                    new(
                        Invariant($"{mesh.Astray:N0} corners of {mesh.Name} call for points that are not there; the faces were counted."),
                        file
                    )
                );
            var parts = mesh.Parts.Where(p => p.Triangles > 0).ToList();
            built.Add(
                new(
                    mesh.Name.Length > 0 ? mesh.Name : fallback,
                    mesh.Vertices,
                    mesh.Faces,
                    mesh.Triangles,
                    textureCount > 0 ? ["vt"] : [],
                    parts.Count == 0
                        ? [new(string.Empty, material, 0)]
                        : [.. parts.Select(p => new MeshPart(parts.Count > 1 ? p.Material : string.Empty, p.Material, p.Triangles))]
                )
                {
                    HasNormals = normalCount > 0,
                    HasColours = colours,
                    Bounds = mesh.Box.Box,
                }
            );
        }

        return built.ToImmutable();
    }

    private Open Start(string name)
    {
        // A group that is named again goes on where it left off.
        if (!byName.TryGetValue(name, out current))
            meshes.Add(byName[name] = current = new(++started, name));
        current.Use(material);
        return current;
    }

    private static bool Corner(ReadOnlySpan<byte> text, ref int at, out int index)
    {
        index = 0;
        while (at < text.Length && Statement.IsSpace(text[at]))
            at++;
        if (at >= text.Length || text[at] == (byte)'#')
            return false;
        var negative = text[at] == (byte)'-';
        if (negative)
            at++;
        while (at < text.Length && (uint)(text[at] - '0') <= 9)
            index = (index * 10) + (text[at++] - '0');
        if (negative)
            index = -index;
        while (at < text.Length && !Statement.IsSpace(text[at]))
            at++; // "/vt/vn", or what is no number at all.
        return true;
    }

    private static float Number(ReadOnlySpan<byte> text, ref int at)
    {
        while (at < text.Length && (Statement.IsSpace(text[at]) || text[at] == (byte)'+'))
            at++;
        if (!Utf8Parser.TryParse(text[at..], out float number, out var used))
            used = 0;
        at += used;
        while (used == 0 && at < text.Length && !Statement.IsSpace(text[at]))
            at++;
        return used == 0 ? 0 : number;
    }

    private static int Tokens(ReadOnlySpan<byte> text)
    {
        var at = 0;
        var count = 0;
        while (at < text.Length)
        {
            while (at < text.Length && Statement.IsSpace(text[at]))
                at++;
            if (at >= text.Length || text[at] == (byte)'#')
                break;
            count++;
            while (at < text.Length && !Statement.IsSpace(text[at]))
                at++;
        }

        return count;
    }

    private sealed class Open(int number, string name)
    {
        private int inHand = -1;

        public int Number => number;

        public string Name => name;

        public long Vertices { get; set; }

        public long Faces { get; private set; }

        public long Triangles { get; private set; }

        public long Corners { get; set; }

        public long Astray { get; set; }

        public BoxBuilder Box = new();

        public List<(string Material, long Triangles)> Parts { get; } = [];

        /// <summary>Place of each material among the parts: a mesh may have tens of thousands.</summary>
        private readonly Dictionary<string, int> places = new(StringComparer.Ordinal);

        public void Use(string material)
        {
            if (places.TryGetValue(material, out inHand))
                return;
            places[material] = inHand = Parts.Count;
            Parts.Add((material, 0));
        }

        public void CloseFace(string material)
        {
            if (inHand < 0)
                Use(material);
            var triangles = Math.Max(0, Corners - 2);
            Corners = 0;
            Faces++;
            Triangles += triangles;
            Parts[inHand] = (Parts[inHand].Material, Parts[inHand].Triangles + triangles);
        }
    }
}
