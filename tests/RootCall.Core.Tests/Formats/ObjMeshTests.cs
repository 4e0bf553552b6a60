using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>Objects, groups and faces of OBJ (Wavefront OBJ and MTL format specification).</summary>
public sealed class ObjMeshTests : IDisposable
{
    private const string Points = "v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 -2\n";
    private readonly Place place = new();

    [Theory]
    [InlineData("f 1 2 3\n", ":1")]
    [InlineData("o a\nf 1 2 3\no b\nf 1 2 3 4\n", "a:1 b:2")]
    [InlineData("g a\nf 1 2 3\ng b c\nf 1 2 3 4\ng a\nf 1 2 4\n", "a:2 b c:2")]
    [InlineData("g before\no a\ng within\nf 1 2 3\ng other\nf 1 2 4\n", "a:2")]
    [InlineData("o empty\no a\nf 1 2 3\n", "empty:0 a:1")]
    public void A_mesh_is_an_object_or_else_a_group(string body, string meshes)
    {
        var scene = Read(Points + body);
        Assert.Equal(meshes, string.Join(' ', scene.Meshes.Select(m => $"{(m.Name == "s" ? string.Empty : m.Name)}:{m.Triangles}")));
        Assert.Equal(scene.Meshes.Length, scene.Nodes.Length);
    }

    [Theory]
    [InlineData("f 1 2 3", 3, 1)]
    [InlineData("f -4 -3 -2 -1", 4, 2)]
    [InlineData("f 1/1 2/2 3/3", 3, 1)]
    [InlineData("f 1//1 2//1 3//1 # a comment 4", 3, 1)]
    [InlineData("f 1/1/1 \\\n  2/2/2 \\\n  3/3/3 4/4/4", 4, 2)]
    [InlineData("\tf  1\t2   3  ", 3, 1)]
    [InlineData("fo 1 2 3 4 1", 4, 3)]
    [InlineData("f 1 2", 2, 0)]
    public void Faces_are_read_however_they_are_written(string face, long vertices, long triangles)
    {
        var mesh = Read(Points + face + "\n").Meshes.Single();
        Assert.Equal((vertices, 1L, triangles), (mesh.Vertices, mesh.Faces, mesh.Triangles));
    }

    [Fact]
    public void Materials_cut_a_mesh_into_parts_and_corners_astray_are_told()
    {
        var scene = Read(Points + "o a\nusemtl tin\nf 1 2 3\nusemtl brass\nf 1 2 3 4\nusemtl tin\nf 1 2 9\nf 1 2 -9\n");
        Assert.Equal(["tin:3", "brass:2"], scene.Meshes[0].Parts.Select(p => $"{p.Material}:{p.Triangles}"));
        Assert.Contains(
            "2 corners of a",
            scene.Notes.Single(n => n.Message.Contains("corners", StringComparison.Ordinal)).Message,
            StringComparison.Ordinal
        );
        Assert.Equal(new Box(new(0, 0, -2), new(1, 1, 0)), scene.Meshes[0].Bounds);
    }

    [Theory]
    [InlineData("v 1e1 -2.5E-1 +3", 10, -0.25, 3)]
    [InlineData("v .5 5. -0", 0.5, 5, 0)]
    [InlineData("v 1 2 3 4", 1, 2, 3)]
    [InlineData("v nothing 2 3", 0, 2, 3)]
    public void Numbers_are_read_in_every_spelling(string vertex, double x, double y, double z)
    {
        var box = Read($"{vertex}\nf 1 1 1\n").Meshes[0].Bounds!.Value;
        Assert.Equal((x, y, z), (Math.Round(box.Min.X, 5), Math.Round(box.Min.Y, 5), Math.Round(box.Min.Z, 5)));
    }

    public void Dispose() => place.Dispose();

    private Scene Read(string text) => Look.Read(place.Put("s.obj", text));
}
