using System.Globalization;
using System.Numerics;
using System.Runtime.InteropServices;
using RootCall.Core.Crossing;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Rendering.Frames;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.SendOff;
using RootCall.Core.Shading;
using RootCall.Core.Tests.Jobs;
using RootCall.Core.Viewing;
using RootCall.Native;
using RootCall.Testing;

namespace RootCall.Core.Tests.Viewing;

/// <summary>Whole scenes, from their files to a picture.</summary>
public sealed class TestFrameTests : IDisposable
{
    private const int Side = 24;

    private readonly Place place = new();
    private readonly ImageDecoder decoder = new(Bounds.Default);

    public void Dispose()
    {
        decoder.Dispose();
        place.Dispose();
    }

    private FrameTools Tools =>
        new(decoder, new MeshDecoder(Bounds.Default), new RayTracers(Bounds.Default, 2), 64 << 20, place.At("moment"));

    private static FrameView View { get; } = new(Side, Side, SwatchLight.Studio.Map(), 4, 2, TimeSpan.FromSeconds(20));

    private TestFrame Drawn(string path, FrameView? view = null, Bounds? bounds = null)
    {
        var scope = CurrentScene.Scope(path, []);
        var report = CurrentScene.Muster(path, Look.Context(path), Bounds.Default);
        return TestFrame.Of(new(report, report.Scene, new(scope, bounds ?? Bounds.Default)), view ?? View, Tools, default);
    }

    /// <summary>A square of two units that faces +z, with an image.</summary>
    private string Square(string name = "square", string more = "")
    {
        place.Put($"{name}.mtl", $"newmtl tin\nmap_Kd {name}.png\n");
        if (!File.Exists(place.At($"{name}.png")))
            place.PutPng($"{name}.png", 220);
        return place.Put(
            $"{name}.obj",
            $"mtllib {name}.mtl\nv -1 -1 0\nv 1 -1 0\nv 1 1 0\nv -1 1 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\n"
                + $"usemtl tin\nf 1/1 2/2 3/3 4/4\n{more}"
        );
    }

    private static Vector3 Middle(TestFrame frame) => frame.Pixels[(Side / 2 * Side) + (Side / 2)];

    [Fact]
    public void A_scene_is_framed_and_shows_its_images_and_what_did_not_come_is_a_hatch_that_is_told()
    {
        var whole = Drawn(Square());
        Assert.Equal((2, null), (whole.Triangles, whole.Camera));
        Assert.Empty(whole.Told);
        Assert.True(Middle(whole).X > 0.3f, $"{Middle(whole)}");
        Assert.Equal(new(0.18f), whole.Pixels[0]);
        File.Delete(place.At("square.png"));
        var left = Drawn(Without(Square("other")));
        Assert.Contains(left.Told, t => t.Contains("did not come", StringComparison.Ordinal));
        Assert.True(whole.Difference(left).Most > 2);
    }

    private static string Without(string obj)
    {
        File.Delete(Path.ChangeExtension(obj, ".png"));
        return obj;
    }

    /// <summary>The same square, said three ways, is seen by the same camera: at 3 before it, 53.13° high, so 2/3 of the picture.</summary>
    [Theory]
    [InlineData("gltf")]
    [InlineData("usda")]
    [InlineData("dae")]
    public void A_scene_is_seen_by_its_own_camera(string format)
    {
        var path = place.Put($"seen.{format}", Said(format));
        var camera = Assert.Single(Look.Read(path).Cameras);
        Assert.Equal(("eye", 0.5), (camera.Name, Math.Round(camera.Half, 6)));
        var frame = Drawn(path, View with { Camera = "eye" });
        Assert.Equal("eye", frame.Camera);
        int Shown(Func<int, int> pixel) => Enumerable.Range(0, Side).Count(i => frame.Pixels[pixel(i)] != new Vector3(0.18f));
        Assert.InRange(Shown(i => (Side / 2 * Side) + i), 15, 18);
        Assert.InRange(Shown(i => (i * Side) + (Side / 2)), 15, 18);
        var refused = Assert.Throws<CannotUseException>(() => Drawn(path, View with { Camera = "nobody" }));
        Assert.Contains("it has “eye”", refused.Message, StringComparison.Ordinal);
    }

    private static string Said(string format)
    {
        float[] square = [-1, -1, 0, 1, -1, 0, 1, 1, 0, -1, -1, 0, 1, 1, 0, -1, 1, 0];
        var bytes = new byte[square.Length * 4];
        Buffer.BlockCopy(square, 0, bytes, 0, bytes.Length);
        var angle = 2 * Math.Atan(0.5);
        return format switch
        {
            "gltf" => string.Create(
                CultureInfo.InvariantCulture,
                $$"""
                { "asset": { "version": "2.0" }, "scene": 0, "scenes": [ { "nodes": [ 0, 1 ] } ],
                  "nodes": [ { "mesh": 0 }, { "name": "eye", "camera": 0, "translation": [ 0, 0, 3 ] } ],
                  "cameras": [ { "type": "perspective", "perspective": { "yfov": {{angle}}, "znear": 0.1 } } ],
                  "meshes": [ { "primitives": [ { "attributes": { "POSITION": 0 } } ] } ],
                  "accessors": [ { "bufferView": 0, "componentType": 5126, "count": 6, "type": "VEC3",
                    "min": [ -1, -1, 0 ], "max": [ 1, 1, 0 ] } ],
                  "bufferViews": [ { "buffer": 0, "byteLength": 72 } ],
                  "buffers": [ { "byteLength": 72, "uri": "data:application/octet-stream;base64,{{Convert.ToBase64String(bytes)}}" } ] }
                """
            ),
            "usda" => """
                #usda 1.0
                (
                    upAxis = "Z"
                )
                def Mesh "square"
                {
                    int[] faceVertexCounts = [4]
                    int[] faceVertexIndices = [0, 1, 2, 3]
                    point3f[] points = [(-1, 0, -1), (1, 0, -1), (1, 0, 1), (-1, 0, 1)]
                }
                def Camera "eye"
                {
                    float focalLength = 20
                    float verticalAperture = 20
                    float horizontalAperture = 20
                    float3 xformOp:rotateXYZ = (90, 0, 0)
                    double3 xformOp:translate = (0, -3, 0)
                    uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:rotateXYZ"]
                }
                """,
            _ => string.Create(
                CultureInfo.InvariantCulture,
                $"""
                <COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
                <library_cameras><camera id="c"><optics><technique_common><perspective><yfov>{angle * 180 / Math.PI}</yfov>
                <aspect_ratio>1</aspect_ratio></perspective></technique_common></optics></camera></library_cameras>
                <library_geometries><geometry id="g"><mesh><source id="p">
                <float_array id="f" count="12">-1 -1 0 1 -1 0 1 1 0 -1 1 0</float_array>
                <technique_common><accessor source="#f" count="4" stride="3"><param name="X" type="float"/><param name="Y" type="float"/>
                <param name="Z" type="float"/></accessor></technique_common></source>
                <vertices id="v"><input semantic="POSITION" source="#p"/>
                </vertices><polylist count="1"><input semantic="VERTEX" source="#v" offset="0"/><vcount>4</vcount><p>0 1 2 3</p></polylist>
                </mesh></geometry></library_geometries>
                <library_visual_scenes><visual_scene id="s"><node><instance_geometry url="#g"/></node>
                <node name="eye"><translate>0 0 3</translate><instance_camera url="#c"/></node></visual_scene></library_visual_scenes>
                <scene><instance_visual_scene url="#s"/></scene></COLLADA>
                """
            ),
        };
    }

    private static string Placed(int light) =>
        $$"""{ "translation": [ 0, 0, {{light % 9}} ], "extensions": { "KHR_lights_punctual": { "light": {{light}} } } }""";

    /// <summary>
    /// A light where the camera is: what falls on a place goes with the cosine and the square of the distance (Lambert's law), whoever
    /// says it.
    /// </summary>
    [Theory]
    [InlineData("gltf", "\"camera\": 0,", "\"camera\": 0, \"extensions\": { \"KHR_lights_punctual\": { \"light\": 0 } },")]
    [InlineData(
        "usda",
        "def Camera \"eye\"\n{",
        "def SphereLight \"a\" { double3 xformOp:translate = (0, -3, 0)\nbool treatAsPoint = 1 "
            + "float inputs:intensity = 700 uniform token[] xformOpOrder = [\"xformOp:translate\"] }\ndef Camera \"eye\"\n{"
    )]
    [InlineData("dae", "<instance_camera", "<instance_light url=\"#l\"/><instance_camera")]
    public void A_scene_is_lit_by_its_own_lights_exposed_as_paper_is(string format, string before, string lit)
    {
        var said = Said(format)
            .ReplaceLineEndings("\n")
            .Replace(before, lit, StringComparison.Ordinal)
            .Replace(
                "\"scene\": 0,",
                """ "scene": 0, "extensions": { "KHR_lights_punctual": { "lights": [ { "type": "point", "intensity": 300 } ] } },""",
                StringComparison.Ordinal
            )
            .Replace(
                "<library_cameras>",
                "<library_lights><light id=\"l\"><technique_common><point><color>9 9 9</color>"
                    + "<constant_attenuation>0</constant_attenuation><quadratic_attenuation>1</quadratic_attenuation>"
                    + "</point></technique_common></light></library_lights><library_cameras>",
                StringComparison.Ordinal
            );
        var frame = Drawn(place.Put($"own.{format}", said), View with { HasOwnLights = true });
        Assert.Empty(frame.Told.Where(t => t.Contains("light", StringComparison.Ordinal)));
        // The square reaches from pixel 4 to pixel 19 of 24; the camera sees 3 units.
        float At(int x, int y) => frame.Pixels[(y * Side) + x].X;
        double Fallen(int x, int y)
        {
            double u = ((x + 0.5) / Side * 3) - 1.5,
                v = ((y + 0.5) / Side * 3) - 1.5,
                square = (u * u) + (v * v) + 9;
            return 1 / square * 3 / Math.Sqrt(square);
        }

        foreach (var (x, y) in ((int, int)[])[(5, 5), (18, 5), (12, 18), (8, 12)])
            Assert.Equal(Fallen(x, y) / Fallen(12, 12), At(x, y) / At(12, 12), 0.01);
        Assert.InRange(At(12, 12), 0.8f * PlainSurfaces.Albedo, 0.84f * PlainSurfaces.Albedo);
    }

    [Fact]
    public void A_scene_without_lights_of_its_own_says_so_and_a_dome_is_turned_as_it_stands()
    {
        var none = Assert.Throws<CannotUseException>(() => Drawn(Square(), View with { HasOwnLights = true }));
        Assert.Equal("The scene has no lights of its own.", none.Message);

        // Red at +z of the image, blue at -z; turned about, the square that faces +z sees blue.
        var sky = new Vector3[8 * 4];
        for (var i = 0; i < sky.Length; i++)
            sky[i] = i % 8 is > 1 and < 6 ? Vector3.UnitX : Vector3.UnitZ;
        File.WriteAllBytes(place.At("sky.hdr"), decoder.Encode(LinearFile.Hdr, 8, 4, MemoryMarshal.Cast<Vector3, float>(sky)));
        var dome = Said("usda")
            .Replace("upAxis = \"Z\"", "upAxis = \"Y\"", StringComparison.Ordinal)
            .Replace(
                "def Camera",
                "def DomeLight \"sky\" { asset inputs:texture:file = @sky.hdr@ TURN }\ndef Camera",
                StringComparison.Ordinal
            )
            .Replace(
                "[(-1, 0, -1), (1, 0, -1), (1, 0, 1), (-1, 0, 1)]",
                "[(-1, -1, 0), (1, -1, 0), (1, 1, 0), (-1, 1, 0)]",
                StringComparison.Ordinal
            )
            .Replace("= (90, 0, 0)", "= (0, 0, 0)", StringComparison.Ordinal)
            .Replace("= (0, -3, 0)", "= (0, 0, 3)", StringComparison.Ordinal);
        Vector3 Under(string name, string turn) =>
            Middle(
                Drawn(
                    place.Put(name, dome.Replace("TURN", turn, StringComparison.Ordinal)),
                    View with
                    {
                        HasOwnLights = true,
                        Samples = 64,
                    }
                )
            );
        var (straight, turned) = (
            Under("sky.usda", string.Empty),
            Under("about.usda", "float xformOp:rotateY = 180\nuniform token[] xformOpOrder = [\"xformOp:rotateY\"]")
        );
        Assert.True(straight.X > 3 * straight.Z && turned.Z > 3 * turned.X, $"{straight} {turned}");
    }

    /// <summary>Absurd scenes cost a sentence; what can be shown of them is shown.</summary>
    [Theory]
    [InlineData("v nan nan nan\nv 1 0 0\nv 0 1 0\nf 5 6 7\n", "1 triangles lie at no place")]
    [InlineData("v 1e30 0 0\nv 0 1e30 0\nv 0 0 1e30\nf 5 6 7\n", "1 triangles lie at no place")]
    [InlineData("f 1 1 1\nf 1 2 2\n", null)]
    public void Absurd_places_are_left_out_and_told(string more, string? told)
    {
        var frame = Drawn(Square("absurd", more));
        Assert.Equal(told is null ? [] : new[] { told }, frame.Told.Select(t => t[..(told?.Length ?? 0)]));
        Assert.True(Middle(frame).X > 0.3f);
    }

    [Fact]
    public void A_scene_of_nothing_of_too_much_and_of_lights_without_number_ends_in_a_sentence_or_a_picture()
    {
        var nothing = Assert.Throws<CannotUseException>(() => Drawn(place.Put("nothing.obj", "v 0 0 0\n")));
        Assert.Contains("no triangles", nothing.Message, StringComparison.Ordinal);

        var grid = string.Concat(Enumerable.Repeat("f 1/1 2/2 3/3 4/4\n", 5000));
        var many = Drawn(Square("many", grid), bounds: Bounds.Default with { DrawnTriangles = 1000 });
        Assert.Equal(1000, many.Triangles);
        Assert.Contains(many.Told, t => t.StartsWith("9,002 triangles are more", StringComparison.Ordinal));

        var lights = string.Join(", ", Enumerable.Repeat("""{ "type": "point", "intensity": 1e30 }""", 100_000));
        var lit = Said("gltf")
            .Replace(
                "\"scene\": 0",
                $"\"scene\": 0, \"extensions\": {{ \"KHR_lights_punctual\": {{ \"lights\": [ {lights} ] }} }}",
                StringComparison.Ordinal
            );
        var places = string.Join(", ", Enumerable.Range(0, 100_000).Select(Placed));
        lit = lit.Replace("[ 0, 1 ]", $"[ {string.Join(", ", Enumerable.Range(0, 100_002))} ]", StringComparison.Ordinal);
        lit = lit.Replace("{ \"mesh\": 0 }", $"{{ \"mesh\": 0 }}, {places}", StringComparison.Ordinal);
        var named = Drawn(place.Put("lit.gltf", lit), View with { HasOwnLights = true });
        Assert.Equal(2, named.Triangles);
        Assert.All(named.Pixels, p => Assert.True(float.IsFinite(p.X)));

        var late = Assert.Throws<CannotUseException>(() =>
            Drawn(Square(), View with { Width = 2048, Height = 2048, Most = TimeSpan.FromMilliseconds(1) })
        );
        Assert.Contains("takes longer", late.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_frame_is_drawn_by_a_job_and_knows_whether_it_still_shows_the_scene()
    {
        var host = new MemoryHost(place.Folder);
        await host.Arrive.Run(new Attempt(), new(Square(), null, "here"), default);
        var scene = host.Arrivals[^1].Head.SceneId;
        MusterReport Report() => host.Report(host.Arrivals[^1].Head.Id);
        var attempt = new Attempt();
        await host.Draw.Run(attempt, new(scene, FrameLighting.Dusk, null), default);
        var made = DrawnFrame.Of(host.Frame(scene, FrameLighting.Dusk, null))!;
        Assert.Equal((64, 64, 2), (made.Samples, made.Wanted, made.Triangles));
        Assert.Equal(FramePrint.Of(Report(), FrameLighting.Dusk, null, null), made.Print);
        Assert.NotEqual(FramePrint.Of(Report(), FrameLighting.Studio, null, null), made.Print);
        var changed = Report() with { References = [.. Report().References.Select(r => r with { Resolved = null, Tiles = [] })] };
        Assert.NotEqual(FramePrint.Of(changed, FrameLighting.Dusk, null, null), made.Print);
        Assert.Null(DrawnFrame.Of(host.Frame(scene, FrameLighting.Studio, null)));
    }

    [Fact]
    public async Task A_scene_is_drawn_before_and_after_a_crossing_and_stays_as_it_is()
    {
        var host = new MemoryHost(place.Folder);
        await host.Arrive.Run(new Attempt(), new(Square(), null, "here"), default);
        var scene = host.Arrivals[^1].Head.SceneId;
        var report = host.Report(host.Arrivals[^1].Head.Id);
        var asked = new WholeCrossing("gltf-metallic-roughness", CrossingRoute.Kept, Fit: false);
        await host.DrawCrossing.Run(new Attempt(), new(scene, asked), default);
        var folder = host.CrossingFrame(scene, asked);
        var made = DrawnPair.Of(folder)!;
        Assert.Equal(asked.Print(FramePrint.Of(report, FrameLighting.Studio, null, null)), made.Print);
        Assert.All(Enum.GetValues<FramePicture>(), p => Assert.True(File.Exists(FramePair.Place(folder, p))));
        Assert.InRange(made.Moved.Mean, 0.01, 20);
        Assert.Empty(host.LedgerOf(scene).Entries);

        // The same model there and back is the same picture.
        var same = new WholeCrossing(
            ShadingModels.OfType(report.Scene.Materials[0].Graph.SurfaceNode!.Type)!.Id,
            CrossingRoute.Kept,
            false
        );
        await host.DrawCrossing.Run(new Attempt(), new(scene, same), default);
        Assert.Equal(0, DrawnPair.Of(host.CrossingFrame(scene, same))!.Moved.Most);
    }

    /// <summary>What is packed looks the same from the package alone; what does not come along is seen.</summary>
    [Fact]
    public void A_proof_holds_the_scene_beside_itself()
    {
        var path = Square();
        var context = Look.Context(path);
        var report = CurrentScene.Muster(path, context, Bounds.Default);
        var painter = new ProofPainter(Tools, TimeSpan.FromSeconds(20));
        var before = painter.Before(new(report, report.Scene, new(CurrentScene.Scope(path, []), Bounds.Default)), default);
        var built = PackageBuilder.Build(PackagePlan.Make(report, context.Facts), place.At("out/whole"), DateTimeOffset.UnixEpoch);
        Assert.Equal(0, PackageProof.Prove(built.Written, Bounds.Default, drawn: (painter, before)).Frames!.Difference!.Most);
        File.Delete(
            Directory
                .EnumerateFiles(built.Written, "*.png", SearchOption.AllDirectories)
                .Single(f => f.Contains("data", StringComparison.Ordinal))
        );
        var lost = PackageProof.Prove(built.Written, Bounds.Default, drawn: (painter, before)).Frames!;
        Assert.True(lost.Difference!.Most > 5);
        Assert.NotEmpty(lost.After!.DifferencePng(lost.Before!));

        var empty = report.Scene with { Path = place.Put("a.mtlx", "<materialx version=\"1.39\"/>") };
        var none = painter.Before(new(report, empty, new(CurrentScene.Scope(path, []), Bounds.Default)), default);
        Assert.Contains("carries no geometry", none.WhyNot, StringComparison.Ordinal);
    }
}
