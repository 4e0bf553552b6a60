using System.Globalization;
using System.Text.RegularExpressions;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>
/// Files of other origins from Debian's package assimp-testmodels, counted by the Assimp library 5.2.5. Files whose name
/// or text names a program are left out.
/// </summary>
public sealed partial class AssimpTests
{
    public const string Models = "/usr/share/assimp/models";

    public static TheoryData<string> Files => [.. All];

    public static IReadOnlyList<string> All =>
        [
            "OBJ/box.obj",
            "OBJ/box_longline.obj",
            "OBJ/box_without_lineending.obj",
            "OBJ/cube_mtllib_after_g.obj",
            "OBJ/cube_usemtl.obj",
            "OBJ/cube_with_vertexcolors.obj",
            "OBJ/cube_with_vertexcolors_uni.obj",
            "OBJ/multiple_spaces.obj",
            "OBJ/number_formats.obj",
            "OBJ/regr_3429812.obj",
            "OBJ/concave_polygon.obj",
            "OBJ/space_in_material_name.obj",
            "Collada/COLLADA.dae",
            "Collada/ConcavePolygon.dae",
            "Collada/box_nested_animation.dae",
            "Collada/cube_UTF8BOM.dae",
            "Collada/cube_emptyTags.dae",
            "Collada/cube_tristrips.dae",
            "Collada/cube_xmlspecialchars.dae",
            "Collada/duck.dae",
            "Collada/sphere.dae",
            "Collada/regr01.dae",
            "Collada/teapots.DAE",
            "Collada/earthCylindrical.DAE",
            "Collada/teapot_instancenodes.DAE",
            "FBX/box.fbx",
            "FBX/cubes_with_names.fbx",
            "FBX/cubes_nonames.fbx",
            "FBX/cubes_with_mirroring_and_pivot.fbx",
            "FBX/close_to_identity_transforms.fbx",
            "FBX/global_settings.fbx",
            "FBX/huesitos.fbx",
            "FBX/phong_cube.fbx",
            "FBX/animation_with_skeleton.fbx",
            "STL/Spider_binary.stl",
            "STL/triangle.stl",
            "STL/triangle_with_two_solids.stl",
            "PLY/cube.ply",
            "PLY/cube_binary.ply",
            "PLY/cube_uv.ply",
            "PLY/float-color.ply",
            "PLY/Wuson.ply",
        ];

    [Theory]
    [MemberData(nameof(Files))]
    public void A_file_shows_the_triangles_and_textures_that_Assimp_shows(string file)
    {
        var path = $"{Models}/{file}";
        // -tri: polygons become triangles, as they are counted here.
        var said = Tool.Run("assimp", ["info", path, "-tri"]).Output;
        var scene = Look.Read(path);
        Assert.Equal(Placed(said), scene.Nodes.Where(n => n.Mesh >= 0).Sum(n => scene.Meshes[n.Mesh].Triangles));
        // It names only the textures of materials that are used, and drops inputs it does not know: none of its own may be missing here.
        var theirs = Textures().Matches(said).Select(m => Path.GetFileName(m.Groups[1].Value.Replace('\\', '/'))).ToHashSet();
        var ours = scene
            .References.Where(r => r.Kind == ReferenceKind.Image)
            .Select(r => Path.GetFileName(r.Written.Replace('\\', '/')))
            .ToHashSet();
        Assert.Empty(theirs.Except(ours));
    }

    [Theory]
    [InlineData("OBJ/cube_usemtl.obj")]
    [InlineData("OBJ/regr_3429812.obj")]
    [InlineData("Collada/COLLADA.dae")]
    [InlineData("Collada/teapots.DAE")]
    [InlineData("FBX/cubes_with_names.fbx")]
    [InlineData("FBX/phong_cube.fbx")]
    public void Materials_have_the_names_that_Assimp_gives(string file)
    {
        var said = Tool.Run("assimp", ["info", $"{Models}/{file}", "-tri"]).Output;
        // Assimp adds a material of its own where a mesh has none, and squeezes runs of spaces.
        var theirs = Names()
            .Matches(said)
            .Select(m => Spaces().Replace(m.Groups[1].Value, " "))
            .Where(n => n != "DefaultMaterial")
            .Order(StringComparer.Ordinal);
        var ours = Look.Read($"{Models}/{file}")
            .Materials.Select(m => Spaces().Replace(m.Name, " "))
            .Where(n => n != "DefaultMaterial")
            .ToList();
        Assert.Empty(theirs.Except(ours));
    }

    [Fact]
    public void Broken_models_are_read_or_refused_in_one_sentence()
    {
        foreach (var path in Directory.EnumerateFiles($"{Models}/invalid").Where(RootCall.Core.Formats.SceneFormats.IsScene))
        {
            try
            {
                Look.Read(path);
            }
            catch (Core.Files.CannotUseException e)
            {
                Assert.DoesNotContain('\n', e.Message);
            }
        }
    }

    /// <summary>Assimp keeps one of several equal meshes and places it again: triangles are counted where they are placed.</summary>
    public static long Placed(string said)
    {
        var faces = Meshes()
            .Matches(said)
            .ToDictionary(
                m => int.Parse(m.Groups[1].ValueSpan, CultureInfo.InvariantCulture),
                m => long.Parse(m.Groups[2].ValueSpan, CultureInfo.InvariantCulture)
            );
        return Places()
            .Matches(said)
            .SelectMany(m => m.Groups[1].Value.Split(','))
            .Sum(i => faces[int.Parse(i, CultureInfo.InvariantCulture)]);
    }

    [GeneratedRegex(@"^\s+(\d+) \(.*\): \[\d+ / \d+ / (\d+) \| triangle", RegexOptions.Multiline)]
    private static partial Regex Meshes();

    [GeneratedRegex(@"\(mesh(?:es)? ([\d, ]+)\)")]
    private static partial Regex Places();

    [GeneratedRegex(@"^\s+'(.*)' \(prop\)", RegexOptions.Multiline)]
    private static partial Regex Names();

    [GeneratedRegex(@"^\s+'(.+\.\w+)'\s*$", RegexOptions.Multiline)]
    private static partial Regex Textures();

    [GeneratedRegex(" +")]
    private static partial Regex Spaces();
}
