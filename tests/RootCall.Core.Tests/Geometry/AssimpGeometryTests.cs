using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Core.Tests.Geometry;

/// <summary>
/// Corner by corner beside the Assimp library 5.2.5, on models that nobody here made (Debian's assimp-testmodels): every corner
/// that either shows has one in the other with the same position, normal and texture coordinates.
/// </summary>
public sealed class AssimpGeometryTests : IDisposable
{
    private const string Models = "/usr/share/assimp/models";
    private readonly Place place = new();

    [Theory]
    [InlineData("OBJ/box.obj")]
    [InlineData("OBJ/cube_usemtl.obj")]
    [InlineData("OBJ/cube_with_vertexcolors.obj")]
    [InlineData("OBJ/number_formats.obj")]
    [InlineData("OBJ/regr_3429812.obj")]
    [InlineData("OBJ/concave_polygon.obj")]
    [InlineData("OBJ/spider.obj")]
    [InlineData("Collada/COLLADA.dae")]
    [InlineData("Collada/ConcavePolygon.dae")]
    [InlineData("Collada/cube_tristrips.dae")]
    [InlineData("Collada/duck.dae")]
    [InlineData("Collada/sphere.dae")]
    [InlineData("Collada/teapots.DAE")]
    [InlineData("Collada/earthCylindrical.DAE")]
    [InlineData("FBX/box.fbx")]
    [InlineData("FBX/cubes_with_names.fbx")]
    [InlineData("FBX/huesitos.fbx")]
    [InlineData("FBX/phong_cube.fbx")]
    [InlineData("FBX/spider.fbx")]
    [InlineData("STL/Spider_binary.stl")]
    [InlineData("STL/Spider_ascii.stl")]
    [InlineData("STL/triangle_with_two_solids.stl")]
    [InlineData("PLY/cube.ply")]
    [InlineData("PLY/cube_binary.ply")]
    [InlineData("PLY/cube_uv.ply")]
    [InlineData("PLY/Wuson.ply")]
    [InlineData("glTF2/draco/2CylinderEngine.gltf")]
    public void Every_corner_is_where_Assimp_has_it(string file)
    {
        var ours = Shapes.Of($"{Models}/{file}").SelectMany(s => Shapes.Corners(s.Geometry)).ToList();
        var theirs = Theirs($"{Models}/{file}", flipped: file.StartsWith("glTF", StringComparison.Ordinal));
        Missing(ours, new(theirs), "theirs");
        Missing(theirs, new(ours), "ours");
    }

    public void Dispose() => place.Dispose();

    private static void Missing(List<Corner> corners, CornerSet among, string whose)
    {
        var missing = corners.Where(c => !among.Has(c)).ToList();
        Assert.True(missing.Count == 0, $"{missing.Count} of {corners.Count} corners are not among {whose}: {missing.FirstOrDefault()}");
    }

    /// <param name="flipped">Assimp counts v of this format the other way.</param>
    private List<Corner> Theirs(string path, bool flipped)
    {
        var json = place.At("said.json");
        var said = Tool.Run("assimp", ["export", path, json, "-fassjson"]);
        Assert.True(said.Status == 0, said.Output + said.Error);
        using var scene = JsonDocument.Parse(File.ReadAllBytes(json));
        var corners = new List<Corner>();
        foreach (var mesh in scene.RootElement.GetProperty("meshes").EnumerateArray())
        {
            var (points, normals) = (Numbers(mesh, "vertices"), Numbers(mesh, "normals"));
            var uvs = mesh.TryGetProperty("texturecoords", out var sets) ? Numbers(sets[0]) : [];
            var width = uvs.Length == 0 ? 2 : mesh.GetProperty("numuvcomponents")[0].GetInt32();
            foreach (var face in mesh.GetProperty("faces").EnumerateArray().Where(f => f.GetArrayLength() > 2))
            foreach (var corner in face.EnumerateArray().Select(c => c.GetInt32()))
                corners.Add(
                    new(
                        points[(corner * 3)..((corner + 1) * 3)],
                        normals.Length == 0 ? [] : normals[(corner * 3)..((corner + 1) * 3)],
                        uvs.Length == 0 ? [] : [uvs[corner * width], flipped ? 1 - uvs[(corner * width) + 1] : uvs[(corner * width) + 1]]
                    )
                );
        }

        return corners;
    }

    private static float[] Numbers(JsonElement mesh, string key) => mesh.TryGetProperty(key, out var numbers) ? Numbers(numbers) : [];

    private static float[] Numbers(JsonElement numbers) => [.. numbers.EnumerateArray().Select(n => n.GetSingle())];
}
