using System.Collections.Immutable;
using RootCall.Core.Scenes;
using RootCall.Core.Transfer;

namespace RootCall.Core.Tests.Transfer;

/// <summary>What the transfer check says of geometry, hierarchy, levels of detail, unit and axis, on scenes made in memory.</summary>
public sealed class WholeSceneTests
{
    private static readonly Box Unit = new(new(0, 0, 0), new(1, 2, 3));

    [Fact]
    public void Geometry_is_paired_by_name_then_by_shape_and_told_where_it_differs()
    {
        var a = Scene([Mesh("pot_tin", 100), Mesh("lid_tin", 60), Mesh("leaf_tin", 40), Mesh("gone_tin", 7)]);
        var b = Scene([Mesh("pot", 80), Mesh("renamed_entirely", 60), Mesh("Leaf.2", 40) with { UvSets = [] }, Mesh("new", 9)]);
        Assert.Equal(
            ["mesh gone_tin missing", "mesh leaf_tin uv sets", "mesh new extra", "mesh pot_tin triangles", "scene b.gltf triangles"],
            Rows(a, b).Select(r => $"{r.Kind} {r.Name} {r.What}").Order()
        );
    }

    [Fact]
    public void Another_size_is_told_of_the_whole_and_another_proportion_of_the_mesh()
    {
        var a = Scene([Mesh("pot", 10)]);
        var larger = Scene([Mesh("pot", 10) with { Bounds = new(new(0, 0, 0), new(10, 20, 30)) }]);
        Assert.Equal(["scene bounding box"], Rows(a, larger).Select(r => $"{r.Kind} {r.What}"));
        var squeezed = Scene([Mesh("pot", 10) with { Bounds = new(new(0, 0, 0), new(1, 2, 1)) }]);
        Assert.Equal(["mesh bounding box", "scene bounding box"], Rows(a, squeezed).Select(r => $"{r.Kind} {r.What}").Order());
        // The same size said in another unit and with another axis up is the same.
        var turned = Scene([Mesh("pot", 10) with { Bounds = new(new(0, -300, 0), new(100, 0, 200)) }]) with
        {
            MetresPerUnit = 0.01,
            UpAxis = "Z",
        };
        Assert.Equal(["scene unit", "scene up axis"], Rows(a, turned).Select(r => $"{r.Kind} {r.What}").Order());
    }

    [Fact]
    public void Nodes_that_hang_elsewhere_and_levels_of_detail_are_told()
    {
        var a = Scene([Mesh("pot", 10)]) with
        {
            Nodes = [new("top", -1, -1), new("pot_LOD0", 0, 0), new("pot_LOD1", 0, 0), new("pot_LOD2", 0, 0), new("lamp", 0, -1)],
        };
        var b = a with { Nodes = [new("top", -1, -1), new("pot_LOD0", 0, 0), new("pot_LOD1", 0, 0), new("lamp", 1, -1)] };
        Assert.Equal(
            ["mesh pot lods 3 2", "node lamp parent top pot_LOD0"],
            Rows(a, b).Select(r => $"{r.Kind} {r.Name} {r.What} {r.A} {r.B}").Order()
        );
        var flat = a with { Nodes = [.. a.Nodes.Select(n => n with { Parent = -1 })] };
        Assert.Equal("hierarchy", Assert.Single(Rows(a, flat)).What);
    }

    [Fact]
    public void Assignments_follow_materials_that_were_renamed()
    {
        Material Named(string name) => new(name);
        var a = Scene([Mesh("pot", 10) with { Parts = [new("x", "tin", 5), new("y", "brass", 5)] }]) with
        {
            Materials = [Named("tin"), Named("brass"), Named("lost")],
        };
        var b = Scene([Mesh("pot", 10) with { Parts = [new("x", "TinLook", 5), new("y", "TinLook", 5)] }]) with
        {
            Materials = [Named("TinLook"), Named("BrassLook")],
        };
        var rows = Rows(a, b);
        Assert.Equal(["material lost missing", "mesh pot assignment"], rows.Select(r => $"{r.Kind} {r.Name} {r.What}").Order());
        Assert.Equal("Assign BrassLook to pot.y", rows.Single(r => r.What == "assignment").Restore.Single().Describe());
        var one = Scene([Mesh("pot", 10) with { Parts = [new(string.Empty, "BrassLook", 10)] }]) with { Materials = b.Materials };
        Assert.Equal("the mesh was cut into other parts", Rows(a, one).Single(r => r.What == "assignment").WhyNot);
    }

    [Fact]
    public void Families_say_their_count_and_the_gravest_comes_first()
    {
        TransferRow Row(string kind, string what, string? input, string? a, string? b) => new(kind, "x", what, a, b) { Input = input };
        var report = new TransferReport(
            [
                Row("mesh", "extra", null, null, "x"),
                Row("material", "tiling", "normal", "4 x 4", "1 x 1"),
                Row("material", "tiling", "normal", "2 x 2", "1 x 1"),
                Row("material", "map", "normal", "n.png", null),
            ],
            ImmutableDictionary<string, int>.Empty
        );
        Assert.Equal(
            ["1 normal map did not arrive", "2 normal maps lost the tiling", "1 mesh is new"],
            report.Families.Select(f => f.Sentence)
        );
    }

    /// <summary>What all of a side end in is taken off one side at a time: other endings are other things.</summary>
    [Fact]
    public void Names_that_end_otherwise_on_both_sides_are_not_one()
    {
        var a = Scene([Mesh("pot", 10)]) with { Materials = [new("brass_old"), new("tin_old")] };
        var b = a with { Materials = [new("brass_new"), new("tin_new")] };
        Assert.Equal(
            ["brass_new extra", "brass_old missing", "tin_new extra", "tin_old missing"],
            Rows(a, b).Where(r => r.Kind == "material").Select(r => $"{r.Name} {r.What}").Order()
        );
        Assert.DoesNotContain(Rows(a, a with { Materials = [new("Brass"), new("Tin")] }), r => r.What is "missing" or "extra");
    }

    private static ImmutableArray<TransferRow> Rows(Scene a, Scene b) =>
        TransferCheck.Compare(new(a, [], []), new(b with { Path = "/b.gltf" }, [], [])).Rows;

    private static Mesh Mesh(string name, long triangles) =>
        new(name, triangles * 3, triangles, triangles, ["st"], [new(string.Empty, string.Empty, triangles)])
        {
            Bounds = Unit with { Max = new(1, 2, 3 + (triangles * 0.0)) },
        };

    private static Scene Scene(ImmutableArray<Mesh> meshes) =>
        new("/a.gltf", new("gltf", "glTF"), [], [], [], new(meshes.Length, meshes.Length, 0, 0, meshes.Sum(m => m.Triangles)), [])
        {
            Meshes = meshes,
            Nodes = [.. meshes.Select((m, i) => new SceneNode(m.Name, -1, i))],
            MetresPerUnit = 1,
            UpAxis = "Y",
        };
}
