using System.Collections.Immutable;
using System.Globalization;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.Transfer;

/// <param name="Value">Largest difference of a value that counts as the same.</param>
/// <param name="Size">Largest difference of a length, as a share of it.</param>
public sealed record TransferTolerance(double Value = 0.004, double Size = 0.005);

/// <summary>
/// Compares two scenes that should show the same asset: what the source described and what arrived, or two deliveries.
/// Every row that an edit can mend carries the edit.
/// </summary>
public static class TransferCheck
{
    public static TransferReport Compare(MusterReport a, MusterReport b, TransferTolerance? tolerance = null)
    {
        tolerance ??= new();
        var rows = new List<TransferRow>();
        var same = ImmutableDictionary.CreateBuilder<string, int>();
        var (sceneA, sceneB) = (a.Scene, b.Scene);
        var materials = new Pairing<Material>(
            [.. sceneA.Materials.Where(m => !m.IsTemplate)],
            [.. sceneB.Materials.Where(m => !m.IsTemplate)],
            m => m.Name,
            Content
        );
        var meshes = new Pairing<Mesh>(sceneA.Meshes, sceneB.Meshes, m => m.Name, Shape);
        var images = new ImagePairs(a, b);

        Whole(sceneA, sceneB, tolerance, rows);
        Missing("material", materials.OnlyA.Select(m => m.Name), materials.OnlyB.Select(m => m.Name), rows);
        Missing("mesh", meshes.OnlyA.Select(m => m.Name), meshes.OnlyB.Select(m => m.Name), rows);
        Missing("image", images.OnlyA, images.OnlyB, rows);
        Hierarchy.Compare(sceneA, sceneB, rows);
        var looks = new LookCheck(sceneA, sceneB, images, tolerance);
        foreach (var (x, y) in materials.Pairs)
            Count(same, "material", looks.Compare(x, y, rows));
        var named = materials.Pairs.DistinctBy(p => p.A.Name).ToDictionary(p => p.A.Name, p => p.B.Name, StringComparer.Ordinal);
        var known = sceneA.Materials.Select(m => m.Name).ToHashSet(StringComparer.Ordinal);
        // What a mesh of the second scene should show; null when that material did not arrive.
        string? Expected(string name) => named.GetValueOrDefault(name) ?? (known.Contains(name) ? null : name);
        foreach (var (x, y) in meshes.Pairs)
            Count(same, "mesh", Mesh(x, y, Expected, tolerance, rows));
        same["image"] = images.Same;
        return new([.. rows], same.ToImmutable());
    }

    private static void Count(ImmutableDictionary<string, int>.Builder same, string kind, bool isSame)
    {
        if (isSame)
            same[kind] = same.GetValueOrDefault(kind) + 1;
    }

    private static void Missing(string kind, IEnumerable<string> onlyA, IEnumerable<string> onlyB, List<TransferRow> rows)
    {
        rows.AddRange(onlyA.Select(n => new TransferRow(kind, n, "missing", n, null) { WhyNot = "nothing is made that was not there" }));
        rows.AddRange(onlyB.Select(n => new TransferRow(kind, n, "extra", null, n) { WhyNot = "nothing is removed" }));
    }

    private static void Whole(Scene a, Scene b, TransferTolerance tolerance, List<TransferRow> rows)
    {
        void Add(string what, string? x, string? y, string whyNot) =>
            rows.Add(new("scene", Path.GetFileName(b.Path), what, x, y) { WhyNot = whyNot });
        if (a.MetresPerUnit is { } ma && b.MetresPerUnit is { } mb && Math.Abs(ma - mb) > ma * 1e-6)
            Add("unit", $"{Number(ma)} m", $"{Number(mb)} m", "the unit scales the whole scene");
        if (a.UpAxis is { } ua && b.UpAxis is { } ub && ua != ub)
            Add("up axis", ua, ub, "the axis turns the whole scene");
        if (a.Counts.Triangles != b.Counts.Triangles)
            Add("triangles", Count(a.Counts.Triangles), Count(b.Counts.Triangles), "geometry is not changed");
        if (WorldBox.Of(a) is { } boxA && WorldBox.Of(b) is { } boxB)
        {
            var (sizeA, sizeB) = (Sides(boxA, a.UpAxis), Sides(boxB, b.UpAxis));
            if (sizeA.Zip(sizeB).Any(s => Math.Abs(s.First - s.Second) > Math.Max(1e-9, tolerance.Size * Math.Max(s.First, s.Second))))
                Add(
                    "bounding box",
                    string.Join(" x ", sizeA.Select(Metres)),
                    string.Join(" x ", sizeB.Select(Metres)),
                    "geometry is not changed"
                );
        }
    }

    /// <summary>Width, depth and height, whichever axis is up.</summary>
    private static double[] Sides(Box box, string? up) =>
        up == "Z" ? [box.Size.X, box.Size.Z, box.Size.Y] : [box.Size.X, box.Size.Y, box.Size.Z];

    private static bool Mesh(Mesh a, Mesh b, Func<string, string?> expected, TransferTolerance tolerance, List<TransferRow> rows)
    {
        var before = rows.Count;
        void Add(string what, string? x, string? y) => rows.Add(new("mesh", a.Name, what, x, y) { WhyNot = "geometry is not changed" });
        var measured = a.Unmeasured is null && b.Unmeasured is null;
        if (measured && a.Triangles != b.Triangles)
            Add("triangles", Count(a.Triangles), Count(b.Triangles));
        else if (measured && a.Vertices != b.Vertices && a.Faces != b.Faces && a.Triangles == 0)
            Add("vertices", Count(a.Vertices), Count(b.Vertices));
        if (measured && a.UvSets.Length != b.UvSets.Length)
            Add("uv sets", Sets(a), Sets(b));
        if (measured && a.HasColours != b.HasColours)
            Add("vertex colours", a.HasColours ? "yes" : "none", b.HasColours ? "yes" : "none");
        if (measured && a.Bounds is { } boxA && b.Bounds is { } boxB && Proportion(boxA, boxB, tolerance.Size))
            Add("bounding box", Size(boxA), Size(boxB));
        Parts(a, b, expected, rows);
        return rows.Count == before;
    }

    /// <summary>Sides that do not differ by one factor: another unit or axis is told of the scene, not of each mesh.</summary>
    private static bool Proportion(Box a, Box b, double tolerance)
    {
        double[] x = [a.Size.X, a.Size.Y, a.Size.Z],
            y = [b.Size.X, b.Size.Y, b.Size.Z];
        Array.Sort(x);
        Array.Sort(y);
        var factor = x[2] > 0 ? y[2] / x[2] : 1;
        return x.Zip(y).Any(s => Math.Abs((s.First * factor) - s.Second) > tolerance * Math.Max(y[2], 1e-12));
    }

    private static void Parts(Mesh a, Mesh b, Func<string, string?> expected, List<TransferRow> rows)
    {
        var wanted = a.Parts.Select(p => (Part: p, Material: expected(p.Material))).ToList();
        if (wanted.Count == b.Parts.Length)
        {
            for (var i = 0; i < wanted.Count; i++)
            {
                var (part, material) = wanted[i];
                var other = b.Parts.FirstOrDefault(p => p.Name.Length > 0 && p.Name == part.Name) ?? b.Parts[i];
                if (material == other.Material)
                    continue;
                rows.Add(
                    new("mesh", a.Name, "assignment", Word(part.Material), Word(other.Material))
                    {
                        Restore = material is null ? [] : [new AssignMaterial(b.Id, other.Name, other.Material, material)],
                        WhyNot = material is null ? $"{part.Material} did not arrive" : null,
                    }
                );
            }

            return;
        }

        // Another number of parts: compare the sets of materials.
        var (namesA, namesB) = (
            wanted.Select(w => w.Material ?? w.Part.Material).Distinct().Order().ToList(),
            b.Parts.Select(p => p.Material).Distinct().Order().ToList()
        );
        if (namesA.SequenceEqual(namesB))
            return;
        var single = b.Parts.Length == 1 && wanted.Count == 1 && wanted[0].Material is { Length: > 0 };
        rows.Add(
            new("mesh", a.Name, "assignment", string.Join(", ", namesA.Select(Word)), string.Join(", ", namesB.Select(Word)))
            {
                Restore = single ? [new AssignMaterial(b.Id, string.Empty, b.Parts[0].Material, namesA[0])] : [],
                WhyNot = single ? null : "the mesh was cut into other parts",
            }
        );
    }

    private static string Word(string material) => material.Length > 0 ? material : "none";

    private static string Sets(Mesh mesh) => mesh.UvSets.Length == 0 ? "none" : string.Join(", ", mesh.UvSets);

    /// <summary>What a material is made of: its images by name, and its values.</summary>
    private static string? Content(Material material)
    {
        var inputs = material.Graph.SurfaceNode?.Inputs ?? [];
        var images = inputs
            .SelectMany(material.Graph.ImagesOf)
            .Select(i => WrittenPath.Parse(i.Reference.Written).FileName.ToLowerInvariant())
            .Distinct()
            .Order()
            .ToList();
        return images.Count > 0 ? string.Join('|', images) : null;
    }

    private static string? Shape(Mesh mesh)
    {
        if (mesh.Triangles == 0 || mesh.Bounds is not { } box)
            return null;
        double[] sides = [box.Size.X, box.Size.Y, box.Size.Z];
        Array.Sort(sides);
        return sides[2] > 0
            ? string.Create(CultureInfo.InvariantCulture, $"{mesh.Triangles} {sides[0] / sides[2]:0.###} {sides[1] / sides[2]:0.###}")
            : null;
    }

    private static string Size(Box box) =>
        string.Create(CultureInfo.InvariantCulture, $"{box.Size.X:0.####} x {box.Size.Y:0.####} x {box.Size.Z:0.####}");

    private static string Metres(double n) => n.ToString("0.####", CultureInfo.InvariantCulture) + " m";

    internal static string Number(double n) => n.ToString("0.######", CultureInfo.InvariantCulture);

    private static string Count(long n) => n.ToString("N0", CultureInfo.InvariantCulture);
}
