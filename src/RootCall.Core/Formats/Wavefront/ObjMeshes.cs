using System.Buffers.Text;
using System.Collections.Immutable;
using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>
/// Measures the geometry of an OBJ while it streams by: points are kept for bounds, faces are only counted. A mesh is an
/// object, or a group where the file names no objects.
/// </summary>
/// <param name="pools">Where everything is kept as well; null where only counts are wanted.</param>
internal sealed class ObjMeshes(ObjPools? pools = null)
{
    /// <summary>The faces of one mesh.</summary>
    /// <param name="Sizes">Corners of each face.</param>
    /// <param name="Points">For each corner its place among the points, -1 for none; so too of the others.</param>
    /// <param name="PartOf">The part of each face.</param>
    public sealed record Kept(
        ObjPools Pools,
        List<int> Sizes,
        List<int> Points,
        List<int> Textures,
        List<int> Normals,
        Func<int, int> PartOf
    );

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

    /// <summary>"vt u [v [w]]".</summary>
    public void Texture(ReadOnlySpan<byte> text)
    {
        textureCount++;
        Keep(pools?.Textures, text, 2);
    }

    public void Normal(ReadOnlySpan<byte> text)
    {
        normalCount++;
        Keep(pools?.Normals, text, 3);
    }

    private static void Keep(List<float>? pool, ReadOnlySpan<byte> text, int count)
    {
        var at = 0;
        for (var i = 0; i < count && pool is not null; i++)
            pool.Add(Number(text, ref at));
    }

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
        if (pools is not null)
            Keep(text, at);
    }

    /// <param name="at">Where the coordinates end; a weight may stand before the colour.</param>
    private void Keep(ReadOnlySpan<byte> text, int at)
    {
        pools!.Points.AddRange(points.AsSpan((pointCount - 1) * 3, 3));
        if (!colours)
            return;
        // Points before the first coloured one are white, and so is one without a colour.
        while (pools.Colours.Count < (pointCount - 1) * 3)
            pools.Colours.Add(1);
        var rest = at < text.Length ? text[at..] : [];
        var more = Tokens(rest);
        var from = 0;
        if (more > 3)
            Number(rest, ref from);
        for (var i = 0; i < 3; i++)
            pools.Colours.Add(more >= 3 ? Number(rest, ref from) : 1);
    }

    /// <summary>Corners of a face; a face that a backslash splits comes in pieces.</summary>
    /// <param name="last">The face ends with this piece.</param>
    public void Face(ReadOnlySpan<byte> text, bool last)
    {
        var mesh = current ?? Start(string.Empty);
        var at = 0;
        while (Corner(text, ref at, out var index, out var others))
        {
            mesh.Corners++;
            mesh.IsBare |= others.Texture == 0;
            var point = Place(index, pointCount);
            if (pools is not null)
                mesh.Keep(point, Place(others.Texture, textureCount), Place(others.Normal, normalCount));
            if (point < 0)
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

    /// <summary>Numbers count from one, negative ones back from the last; -1 for what is not there.</summary>
    private static int Place(int number, long count)
    {
        var place = number > 0 ? number - 1 : count + number;
        return number != 0 && place >= 0 && place < count ? (int)place : -1;
    }

    /// <summary>The faces that were kept, for each mesh of <see cref="Build"/> in its order.</summary>
    public ImmutableArray<Kept> BuildKept() => [.. Built.Select(m => m.KeptFaces(pools!))];

    private IEnumerable<Open> Built => meshes.Where(m => m.Faces > 0 || named);

    public ImmutableArray<Mesh> Build(string fallback, List<ReadNote> notes, string file)
    {
        var built = ImmutableArray.CreateBuilder<Mesh>();
        foreach (var mesh in Built)
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
                        :
                        [
                            .. parts.Select(p => new MeshPart(parts.Count > 1 ? p.Material : string.Empty, p.Material, p.Triangles)
                            {
                                WithoutUvs = p.Bare,
                            }),
                        ]
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

    private static bool Corner(ReadOnlySpan<byte> text, ref int at, out int index, out (int Texture, int Normal) others)
    {
        (index, others) = (0, default);
        while (at < text.Length && Statement.IsSpace(text[at]))
            at++;
        if (at >= text.Length || text[at] == (byte)'#')
            return false;
        index = Whole(text, ref at);
        if (at < text.Length && text[at] == (byte)'/')
        {
            at++;
            others.Texture = Whole(text, ref at);
            if (at < text.Length && text[at] == (byte)'/')
            {
                at++;
                others.Normal = Whole(text, ref at);
            }
        }

        while (at < text.Length && !Statement.IsSpace(text[at]))
            at++; // What is no number at all.
        return true;
    }

    private static int Whole(ReadOnlySpan<byte> text, ref int at)
    {
        var number = 0;
        var negative = at < text.Length && text[at] == (byte)'-';
        if (negative)
            at++;
        while (at < text.Length && (uint)(text[at] - '0') <= 9)
            number = (number * 10) + (text[at++] - '0');
        return negative ? -number : number;
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

        /// <summary>A corner of the face in hand has no UV coordinates.</summary>
        public bool IsBare { get; set; }

        public BoxBuilder Box = new();

        public List<(string Material, long Triangles, long Bare)> Parts { get; } = [];

        /// <summary>Place of each material among the parts: a mesh may have tens of thousands.</summary>
        private readonly Dictionary<string, int> places = new(StringComparer.Ordinal);

        public void Use(string material)
        {
            if (places.TryGetValue(material, out inHand))
                return;
            places[material] = inHand = Parts.Count;
            Parts.Add((material, 0, 0));
        }

        private readonly List<int> sizes = [];
        private readonly List<int> points = [];
        private readonly List<int> textures = [];
        private readonly List<int> normals = [];
        private readonly List<int> partOf = [];

        public void Keep(int point, int texture, int normal)
        {
            points.Add(point);
            textures.Add(texture);
            normals.Add(normal);
        }

        /// <summary>Parts without triangles are not built, so the others move up.</summary>
        public Kept KeptFaces(ObjPools pools)
        {
            var places = new int[Parts.Count];
            for (int i = 0, next = 0; i < places.Length; i++)
                places[i] = Parts[i].Triangles > 0 ? next++ : 0;
            return new(pools, sizes, points, textures, normals, face => places[partOf[face]]);
        }

        public void CloseFace(string material)
        {
            if (inHand < 0)
                Use(material);
            if (points.Count > 0)
            {
                sizes.Add((int)Corners);
                partOf.Add(inHand);
            }

            var triangles = Math.Max(0, Corners - 2);
            Corners = 0;
            Faces++;
            Triangles += triangles;
            var part = Parts[inHand];
            Parts[inHand] = (part.Material, part.Triangles + triangles, part.Bare + (IsBare ? triangles : 0));
            IsBare = false;
        }
    }
}
