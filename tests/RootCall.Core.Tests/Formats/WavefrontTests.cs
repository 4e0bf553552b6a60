using System.Text;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>Wavefront OBJ and MTL format specification; the PBR keys and quirks are common practice.</summary>
public sealed class WavefrontTests : IDisposable
{
    private const string Triangle = "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n";
    private readonly Place place = new();

    [Theory]
    [InlineData("map_Kd wood.png", "map_Kd", "wood.png")]
    [InlineData("map_Kd oak floor 01.png", "map_Kd", "oak floor 01.png")]
    [InlineData("\tmap_Kd   wood.png   ", "map_Kd", "wood.png")]
    [InlineData("map_Kd \"my wood.png\"", "map_Kd", "my wood.png")]
    [InlineData("MAP_KD WOOD.PNG", "MAP_KD", "WOOD.PNG")]
    [InlineData(@"map_Kd D:\jobs\tex\wood.png", "map_Kd", @"D:\jobs\tex\wood.png")]
    [InlineData(@"map_Kd \\server\share\wood.png", "map_Kd", @"\\server\share\wood.png")]
    [InlineData("map_Kd -o 0.5 1 0 wood.png", "map_Kd", "wood.png")]
    [InlineData("map_Kd -o 0.5 wood.png", "map_Kd", "wood.png")]
    [InlineData("map_Kd -s 2 2 my wood 2.png", "map_Kd", "my wood 2.png")]
    [InlineData("map_Kd -s 1 1 1 -o 0 0 0 -clamp on -blendu off wood.png", "map_Kd", "wood.png")]
    [InlineData("map_Ks -mm 0.1 0.9 -texres 512 s.png", "map_Ks", "s.png")]
    [InlineData("map_d -imfchan m -cc on a.tga", "map_d", "a.tga")]
    [InlineData("bump -bm 0.4 b.png", "bump", "b.png")]
    [InlineData("map_Bump -bm 1e-1 -boost 2 b.png", "map_Bump", "b.png")]
    [InlineData("refl -type sphere -mm 0 1 sky.hdr", "refl", "sky.hdr")]
    [InlineData("disp -t 1 1 1 d.exr", "disp", "d.exr")]
    [InlineData("decal d.png", "decal", "d.png")]
    [InlineData("norm n.png", "norm", "n.png")]
    [InlineData("map_Pr r.png", "map_Pr", "r.png")]
    [InlineData("map_Kd wood.png # from the shop", "map_Kd", "wood.png")]
    [InlineData("map_Kd wood #3.png", "map_Kd", "wood #3.png")]
    public void Map_statements_name_their_file_whatever_stands_around_it(string statement, string input, string file)
    {
        var scene = Scene($"newmtl oak\nKd 1 1 1\n{statement}\n");
        var reference = scene.References.Single(r => r.Kind == ReferenceKind.Image);
        Assert.Equal(file, reference.Written);
        Assert.Equal([new("oak", input)], reference.UsedBy.ToArray());
    }

    [Theory]
    [InlineData("Kd 0.5 0.5 0.5")]
    [InlineData("map_aat on")]
    [InlineData("# map_Kd wood.png")]
    [InlineData("illum 2")]
    public void Other_statements_call_for_nothing(string statement) =>
        Assert.DoesNotContain(Scene($"newmtl oak\n{statement}\n").References, r => r.Kind == ReferenceKind.Image);

    [Theory]
    [InlineData("mtllib a.mtl b.mtl", "a.mtl|b.mtl")]
    [InlineData("mtllib my wood.mtl", "my wood.mtl")]
    [InlineData("mtllib my wood.mtl other.MTL", "my wood.mtl|other.MTL")]
    [InlineData("mtllib \"my wood.mtl\"", "my wood.mtl")]
    [InlineData("mtllib ./a.mtl # bought", "./a.mtl")]
    [InlineData("mtllib materials", "materials")]
    public void Material_libraries_may_be_several_and_may_have_spaces(string statement, string names)
    {
        var scene = Look.Read(place.Put("s.obj", statement + "\n" + Triangle));
        Assert.Equal(names.Split('|'), scene.References.Select(r => r.Written));
        Assert.All(scene.References, r => Assert.Equal(ReferenceKind.MaterialLibrary, r.Kind));
    }

    [Fact]
    public void Counts_follow_objects_groups_faces_and_materials()
    {
        place.Put("m.mtl", "newmtl a\nmap_Kd a.png\nnewmtl b\nmap_Kd a.png\nmap_Ka a.png\n");
        var scene = Look.Read(
            place.Put(
                "s.obj",
                "mtllib m.mtl\no one\nv 0 0 0\nusemtl a\nf 1 2 3 4\nf 1/1 2/2 \\\n3/3 4/4 \\\r\n5/5\no two\nusemtl ghost\nf "
                    + "1//1 2//2 3//3 # a comment\nf 1 2\n"
            )
        );
        Assert.Equal(new SceneCounts(2, 2, 3, 1, 2 + 3 + 1), scene.Counts);
        Assert.Equal(["a", "b", "ghost"], scene.Materials.Select(m => m.Name));
        var image = scene.References.Single(r => r.Kind == ReferenceKind.Image);
        Assert.Equal((3, 3), (image.Sites.Length, image.UsedBy.Length));
        Assert.Contains(scene.Notes, n => n.Message.Contains("ghost", StringComparison.Ordinal));
    }

    [Fact]
    public void Maps_start_from_the_folder_of_their_library()
    {
        place.Put("mtl/m.mtl", "newmtl a\nmap_Kd ../tex/a.png\nmap_Ks tex\\a b.png\n");
        place.PutPng("tex/a.png");
        place.PutPng("mtl/tex/a b.png");
        var report = Look.Muster(place.Put("s.obj", "mtllib mtl/m.mtl\n" + Triangle));
        Assert.All(report.References, r => Assert.Equal(ReferenceState.Present, r.State));
    }

    [Fact]
    public void A_library_outside_the_roots_is_not_read()
    {
        place.Put("outside/m.mtl", "newmtl secret\nmap_Kd s.png\n");
        var report = Look.Muster(place.Put("in/s.obj", "mtllib ../outside/m.mtl\n" + Triangle));
        Assert.Equal(ReferenceState.Outside, report.References.Single().State);
        Assert.Empty(report.Scene.Materials);
        Assert.Equal(ReferenceState.Present, Look.Muster(place.At("in/s.obj"), place.At("outside")).References[0].State);
    }

    [Fact]
    public void Taking_a_library_that_was_left_behind_brings_what_it_calls_for()
    {
        place.Put("lib/m.mtl", "newmtl a\nmap_Kd a.png\n");
        place.PutPng("lib/a.png");
        var path = place.Put("in/s.obj", "mtllib m.mtl\nusemtl a\n" + Triangle);
        Assert.Equal(ReferenceState.Elsewhere, Look.Muster(path, place.At("lib")).References.Single().State);
        var report = Look.TakeClear(path, place.At("lib"));
        Assert.Equal(["m.mtl", "a.png"], report.References.Select(r => r.Reference.Written));
        Assert.All(report.References, r => Assert.Equal(ReferenceState.Present, r.State));
    }

    [Theory]
    [InlineData("hello world\n")]
    [InlineData("")]
    public void What_is_no_OBJ_is_refused(string text) => Assert.Throws<CannotUseException>(() => Look.Read(place.Put("s.obj", text)));

    [Fact]
    public void Binary_data_called_OBJ_is_refused() =>
        Assert.Contains(
            "binary",
            Assert.Throws<CannotUseException>(() => Look.Read(place.Put("s.obj", Pictures.Png(9, 9, 1)))).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void A_relink_changes_only_the_path_and_keeps_line_ends_tabs_comments_and_quotes()
    {
        var mtl =
            "# c\r\nnewmtl a\r\n\tmap_Kd -s 2 2 1 \"D:\\old\\a b.png\"  \r\nmap_Ks keep.png\r\nmap_Bump -bm .5 "
            + "D:\\old\\n.png\r\nKd 0.50 .5 5e-1";
        place.Put("m.mtl", mtl);
        var path = place.Put("s.obj", "mtllib m.mtl\n" + Triangle);
        var after = RewriteLibrary(path, new() { [@"D:\old\a b.png"] = "tex/a b.png", [@"D:\old\n.png"] = "-n.png" });
        Assert.Equal(
            [
                ("\tmap_Kd -s 2 2 1 \"D:\\old\\a b.png\"  \r", "\tmap_Kd -s 2 2 1 \"tex/a b.png\"  \r"),
                ("map_Bump -bm .5 D:\\old\\n.png\r", "map_Bump -bm .5 ./-n.png\r"),
            ],
            ByteDiff.Lines(Encoding.UTF8.GetBytes(mtl), after)
        );
        Assert.Equal(Encoding.UTF8.GetBytes(mtl), RewriteLibrary(path, []));
    }

    [Fact]
    public void A_Latin_1_library_stays_Latin_1()
    {
        var mtl = Encoding.Latin1.GetBytes("newmtl façade\nmap_Kd café.png\nmap_Ks d\u00e9.png\n");
        place.Put("m.mtl", mtl);
        var path = place.Put("s.obj", "mtllib m.mtl\n" + Triangle);
        Assert.Equal("façade", Look.Read(path).Materials.Single().Name);
        var after = RewriteLibrary(path, new() { ["café.png"] = "über/café.png" });
        Assert.Equal((string.Empty, "über/"), ByteDiff.Middle(mtl, after));
        Assert.Equal("über/café.png", Encoding.Latin1.GetString(after).Split('\n')[1][7..]);
    }

    [Theory]
    [InlineData("\n")]
    [InlineData("\r\n")]
    [InlineData("\r")]
    public void Offsets_are_right_whatever_ends_the_lines_and_wherever_the_buffer_ends(string end)
    {
        // Longer than the reader's buffer, so that lines and ends of line fall across its border.
        var filler = string.Concat(Enumerable.Range(0, 9000).Select(i => $"# line {i}{end}"));
        place.Put("m.mtl", $"newmtl a{end}{filler}map_Kd x.png{end}{filler}map_Ks y.png");
        var path = place.Put("s.obj", "mtllib m.mtl\n" + Triangle);
        var scene = Look.Read(path);
        var bytes = File.ReadAllBytes(place.At("m.mtl"));
        foreach (var reference in scene.References.Where(r => r.Kind == ReferenceKind.Image))
            Assert.Equal(
                reference.Written,
                Encoding.UTF8.GetString(bytes.AsSpan((int)reference.Sites[0].Start, reference.Sites[0].Length))
            );
        Assert.Equal(3, scene.References.Length);
    }

    [Fact]
    public void A_library_says_every_input_and_how_its_images_are_read()
    {
        place.Put(
            "s.mtl",
            "newmtl tin\nKd 0.5\nKe 1 0.5 0\nNi 1.4\nPr 0.3\nmap_Kd -s 2 3 1 -o 0.1 0.2 -mm 0.1 2 -clamp on a.png\nbump -bm "
                + "0.5 -imfchan r b.png\n"
        );
        var scene = Look.Read(
            place.Put(
                "s.obj",
                "mtllib s.mtl\nusemtl tin\ns 1\nvp 1\nsurf 0 1 0 1 1\nwhat 1\nv 0 0 0 1 0 0\nv 2 0 0 1 0 0\nv 0 3 1 1 0 0\nf 1 2 3\n"
            )
        );
        var surface = scene.Materials.Single().Graph.SurfaceNode!;
        Assert.Equal(
            ("mtl-pbr", ShaderValue.Of(1, 0.5, 0), ShaderValue.Of(0.3)),
            (surface.Type, surface.Input("Ke")!.Value, surface.Input("Pr")!.Value)
        );
        var color = scene.Materials[0].Graph.ImagesOf(surface.Input("Kd")!).Single();
        Assert.Equal((2, 3, 0.1, WrapMode.Clamp), (color.Transform.ScaleU, color.Transform.ScaleV, color.Transform.OffsetU, color.WrapU));
        Assert.Equal((0.1, 2), (color.Bias.Single(), color.Scale.Single()));
        Assert.Equal(
            (Channels.R, 0.5),
            scene.Materials[0].Graph.ImagesOf(surface.Input("bump")!).Select(i => (i.Channels, i.Scale[0])).Single()
        );
        Assert.True(scene.Meshes[0].HasColours);
        Assert.Equal(new Box(new(0, 0, 0), new(2, 3, 1)), scene.Meshes[0].Bounds);
        Assert.Contains("what", Assert.Single(scene.Notes).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void An_OBJ_without_a_library_is_given_one_and_its_materials_can_be_edited()
    {
        var path = place.Put("s.obj", "v 0 0 0\nusemtl tin\nf 1 1 1\nusemtl brass\nf 1 1 1\n");
        Directory.CreateDirectory(place.At("edited"));
        LedgerEntry Entry(Edit edit) => new(Guid.NewGuid(), "x", [edit], EntryState.Applied, "by hand", default);
        var made = EditedFiles.Make(
            path,
            [Entry(new MakeLibrary("s.mtl")), Entry(new SetImage("brass", "Kd", null, new(new(ReferenceKind.Image, "s.mtl", "b.png"))))],
            place.At("edited"),
            new(new([place.Folder]), Bounds.Default)
        );
        Assert.Empty(made.Refused.Select(r => r.Reason));
        Assert.Equal("mtllib s.mtl\n" + File.ReadAllText(path), File.ReadAllText(made.Copies[path]));
        var scene = SceneFormats.Read(path, new(new([place.Folder]), Bounds.Default) { Edited = made.Copies });
        Assert.Equal(new ReferenceUse("brass", "map_Kd"), scene.References.Single(r => r.Kind == ReferenceKind.Image).UsedBy.Single());
        Assert.False(File.Exists(place.At("s.mtl")));
        var report = RootCall.Core.Muster.CurrentScene.Muster(path, Look.Context(path) with { Edited = made.Copies }, Bounds.Default);
        Assert.Equal(RootCall.Core.Muster.ReferenceState.Present, report.Named("s.mtl").State);
    }

    public void Dispose() => place.Dispose();

    private Scene Scene(string library)
    {
        place.Put("m.mtl", library);
        return Look.Read(place.Put("s.obj", "mtllib m.mtl\n" + Triangle));
    }

    private static byte[] RewriteLibrary(string path, Dictionary<string, string> answers)
    {
        var scene = Look.Read(path);
        var targets = scene
            .References.Where(r => answers.ContainsKey(r.Written))
            .ToDictionary(r => r.Key, r => Path.Combine("/copy", answers[r.Written]));
        using var copy = new MemoryStream();
        new SceneWriter(scene, "/copy", targets).Write(1, copy);
        return copy.ToArray();
    }
}
