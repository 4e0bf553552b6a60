using System.Text.Json;
using RootCall.Core.Geometry;
using RootCall.Testing;

namespace RootCall.Core.Tests.Geometry;

/// <summary>Primvars by their interpolation, beside the npm package tinyusdz; cages and subsets as the schema says.</summary>
public sealed class UsdGeometryTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    private const string Shape = """
            int[] faceVertexCounts = [4, 3]
            int[] faceVertexIndices = [0, 1, 2, 3, 1, 4, 2]
            point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0), (0, 1, 0), (2, 0.5, 0)]
        """;

    [Theory]
    [InlineData("", "normal3f[] normals = [(0,0,1), (0,0,1), (0,1,0), (0,0,1), (1,0,0)]")]
    [InlineData("texCoord2f[] primvars:st = [(0,0), (1,0), (1,1), (0,1), (2,0.5)] (interpolation = \"vertex\")", "")]
    [InlineData(
        "texCoord2f[] primvars:st = [(0,0), (1,0), (1,1), (0.5,0.25)] (interpolation = \"faceVarying\")\n"
            + "int[] primvars:st:indices = [0,1,2,3,1,3,2]",
        "normal3f[] normals = [(0,0,1), (0,0,1), (0,0,1), (0,0,1), (1,0,0), (1,0,0), (0,1,0)] (interpolation = \"faceVarying\")"
    )]
    public void Corners_have_what_tinyusdz_gives_them(string uvs, string normals)
    {
        var said = $"{Shape}\n    {uvs}\n    {normals}\n    uniform token subdivisionScheme = \"none\"\n";
        Compare(place.Put("q.usda", $"#usda 1.0\ndef Mesh \"quad\" {{\n{said}}}\n"));
    }

    [Theory]
    [InlineData("clean/watering_can/watering_can.usda")]
    [InlineData("clean/tin_pear/tin_pear.usdz")]
    public void Corners_of_scenes_have_what_tinyusdz_gives_them(string scene) => Compare(demo.At(scene));

    [Fact]
    public void A_cage_is_called_one_and_subsets_are_parts()
    {
        var path = place.Put(
            "cage.usda",
            $$"""
            #usda 1.0
            def Mesh "cage" {
            {{Shape}}
                uniform token orientation = "leftHanded"
                color3f[] primvars:displayColor = [(1, 0.5, 0)]
                normal3f[] normals = [(0, 0, 1), (0, 1, 0)] (interpolation = "uniform")
                def GeomSubset "rim" {
                    uniform token elementType = "face"
                    uniform token familyName = "materialBind"
                    int[] indices = [1]
                }
            }
            """
        );
        var (mesh, geometry) = Assert.Single(Shapes.Of(path));
        Assert.Equal((SurfaceKind.CatmullClarkCage, true), (geometry.Surface, geometry.IsLeftHanded));
        Assert.Equal(["rim", ""], mesh.Parts.Select(p => p.Name));
        Assert.Equal([1, 0], Enumerable.Range(0, 2).Select(geometry.PartOf));
        Assert.Equal(mesh.Parts.Select(p => p.Triangles), mesh.Parts.Select((_, p) => geometry.Triangles(p).Length / 3L));
        // One value for all; one for each face.
        Assert.Equal([1f, 0.5f, 0f], geometry.Stream(GeometryUse.Colour)!.At(geometry, 6).ToArray());
        Assert.Equal([0f, 0f, 1f], geometry.Stream(GeometryUse.Normal)!.At(geometry, 3).ToArray());
        Assert.Equal([0f, 1f, 0f], geometry.Stream(GeometryUse.Normal)!.At(geometry, 4).ToArray());
    }

    public void Dispose() => place.Dispose();

    private static void Compare(string path)
    {
        const string Script = """
            const loader = new usd.TinyUSDZLoaderNative();
            if (!loader.loadFromBinary(new Uint8Array(readFileSync(args[0])), args[0])) throw new Error(loader.error());
            const meshes = [];
            for (let i = 0; i < loader.numMeshes(); i++) {
              const { faceVertexIndices, points, normals, texcoords } = loader.getMesh(i);
              const all = (array) => Array.from(array ?? []);
              meshes.push({ indices: all(faceVertexIndices), points: all(points), normals: all(normals), uvs: all(texcoords) });
            }
            said(JSON.stringify(meshes));
            """;
        var result = Tool.Run("node", ["-e", TinyUsdz.Script(Script), path], Path.Combine(Tool.Home, "web"));
        Assert.True(result.Status == 0, result.Error);
        using var said = JsonDocument.Parse(result.Output);
        var theirs = said.RootElement.EnumerateArray().SelectMany(Theirs).ToList();
        var ours = Shapes.Of(path).SelectMany(s => Shapes.Corners(s.Geometry)).ToList();
        Assert.Equal(theirs.Count, ours.Count);
        var (inTheirs, inOurs) = (new CornerSet(theirs), new CornerSet(ours));
        Assert.Equal([], ours.Where(c => !inTheirs.Has(c)));
        Assert.Equal([], theirs.Where(c => !inOurs.Has(c)));
    }

    private static IEnumerable<Corner> Theirs(JsonElement mesh)
    {
        float[] Numbers(string key) => [.. mesh.GetProperty(key).EnumerateArray().Select(n => n.GetSingle())];
        var (points, normals, uvs) = (Numbers("points"), Numbers("normals"), Numbers("uvs"));
        foreach (var i in mesh.GetProperty("indices").EnumerateArray().Select(i => i.GetInt32()))
            yield return new(
                points[(i * 3)..((i + 1) * 3)],
                normals.Length == 0 ? [] : normals[(i * 3)..((i + 1) * 3)],
                uvs.Length == 0 ? [] : uvs[(i * 2)..((i + 1) * 2)]
            );
    }
}
