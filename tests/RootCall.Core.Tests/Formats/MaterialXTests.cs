using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>
/// Rules: MaterialX specification 1.38, "File Prefixes", "Color Spaces and Color Management Systems", "Inheritance",
/// standard nodes.
/// </summary>
public sealed class MaterialXTests : IDisposable
{
    private const string Document = """
        <?xml version="1.0"?>
        <materialx version="1.39" xmlns:xi="http://www.w3.org/2001/XInclude" colorspace="lin_rec709" fileprefix="tex/">
          <xi:include href="lib/base.mtlx"/>
          <!-- kept as it is -->
          <nodegraph name="NG">
            <input name="tile" type="vector2" value="3, 2"/>
            <input name="map" type="filename" value="tin &amp; co.png" colorspace="srgb_texture"/>
            <texcoord name="uv" type="vector2"><input name="index" type="integer" value="1"/></texcoord>
            <place2d name="place" type="vector2">
              <input name="texcoord" type="vector2" nodename="uv"/>
              <input name="scale" type="vector2" value="0.5, 0.25"/>
            </place2d>
            <image name="color" type="color3">
              <input name="file" type="filename" interfacename="map"/>
              <input name="texcoord" type="vector2" nodename="place"/>
              <input name="uaddressmode" type="string" value="clamp"/>
              <input name="default" type="color3" value="0.1, 0.2, 0.3"/>
            </image>
            <tiledimage name="rough" type="float">
              <input name="file" type="filename" fileprefix="other/" value="rough.png" colorspace="srgb_texture"/>
              <input name="uvtiling" type="vector2" value="4, 4"/>
            </tiledimage>
            <output name="c" type="color3" nodename="color"/>
            <output name="r" type="float" nodename="rough"/>
          </nodegraph>
          <open_pbr_surface name="SR" type="surfaceshader" inherit="base_shader">
            <input name="base_color" type="color3" nodegraph="NG" output="c"/>
            <input name="specular_roughness" type="float" nodegraph="NG" output="r"/>
          </open_pbr_surface>
          <surfacematerial name="tin" type="material"><input name="surfaceshader" type="surfaceshader" nodename="SR"/></surfacematerial>
          <collection name="metal" includegeom="/a, /b" excludegeom="/b"/>
          <look name="day"><materialassign name="1" material="tin" collection="metal"/></look>
          <look name="night" inherit="day"><materialassign name="2" material="gone" geom="/c"/></look>
        </materialx>
        """;

    private readonly Place place = new();

    public MaterialXTests()
    {
        place.Put("s/tin.mtlx", Document);
        place.Put(
            "s/lib/base.mtlx",
            "<materialx version=\"1.38\"><open_pbr_surface name=\"base_shader\" type=\"surfaceshader\"><input "
                + "name=\"base_metalness\" type=\"float\" value=\"1\"/></open_pbr_surface></materialx>"
        );
        place.PutPng("s/tex/tin & co.png");
        place.PutPng("s/other/rough.png", 9);
    }

    private string Path => place.At("s/tin.mtlx");

    [Fact]
    public void Graphs_prefixes_spaces_and_looks_follow_the_specification()
    {
        var report = Look.Muster(Path);
        var scene = report.Scene;
        Assert.Empty(scene.Notes);
        Assert.Equal(
            ["s/lib/base.mtlx", "s/other/rough.png", "s/tex/tin & co.png"],
            report.References.Select(r => System.IO.Path.GetRelativePath(place.Folder, r.Resolved!)).Order()
        );
        var surface = scene.Materials.Single().Graph.SurfaceNode!;
        Assert.Equal("open_pbr_surface", surface.Type);
        Assert.Equal(ShaderValue.Of(1), surface.Input("base_metalness")!.Value);
        var color = scene.Materials[0].Graph.ImagesOf(surface.Input("base_color")!).Single();
        Assert.Equal(
            ("tex/tin & co.png", "index 1", "srgb", WrapMode.Clamp, WrapMode.Repeat),
            (color.Reference.Written, color.UvSet, color.EffectiveSpace.Word(), color.WrapU, color.WrapV)
        );
        Assert.Equal((2, 4), (color.Transform.ScaleU, color.Transform.ScaleV)); // place2d divides by its scale.
        Assert.Equal([0.1, 0.2, 0.3], color.Default.ToArray());
        var rough = scene.Materials[0].Graph.ImagesOf(surface.Input("specular_roughness")!).Single();
        Assert.Equal(
            ("other/rough.png", "srgb_texture", "data", Channels.R),
            (rough.Reference.Written, rough.DeclaredSpace, rough.EffectiveSpace.Word(), rough.Channels)
        );
        Assert.Equal([("/a", "tin")], scene.Meshes.Select(m => (m.Name, m.Parts[0].Material)));
        Assert.Equal(["day", "night"], Assert.Single(scene.Variants).Options.ToArray());

        var night = Core.Formats.SceneFormats.Read(
            Path,
            new(new([place.At("s")]), Bounds.Default)
            {
                Chosen = new Dictionary<(string, string), string> { [(string.Empty, "look")] = "night" },
            }
        );
        Assert.Equal(["/a", "/c"], night.Meshes.Select(m => m.Name));
        Assert.Contains(night.Notes, n => n.Message.Contains("gone", StringComparison.Ordinal));
    }

    [Fact]
    public void A_relink_changes_the_path_and_takes_the_prefix_out_only_where_it_must()
    {
        place.PutPng("library/new.png", 7);
        var report = Look.Muster(Path, place.At("library"));
        var targets = report
            .References.Where(r => r.Reference.Kind == ReferenceKind.Image)
            .ToDictionary(
                r => r.Reference.Key,
                r =>
                    r.Reference.Written.StartsWith("tex", StringComparison.Ordinal)
                        ? place.At("s/tex/plain.png")
                        : place.At("library/new.png")
            );
        using var copy = new MemoryStream();
        new SceneWriter(report.Scene, place.At("s"), targets).Write(0, copy);
        var text = System.Text.Encoding.UTF8.GetString(copy.ToArray());
        Assert.Equal(
            Document
                .Replace("tin &amp; co.png", "plain.png", StringComparison.Ordinal)
                .Replace(
                    "fileprefix=\"other/\" value=\"rough.png\"",
                    "fileprefix=\"\" value=\"../library/new.png\"",
                    StringComparison.Ordinal
                ),
            text
        );
    }

    [Fact]
    public void Edits_change_their_own_elements_alone()
    {
        var scene = Look.Read(Path);
        var graph = scene.Materials[0].Graph;
        var rough = graph.ImagesOf(graph.SurfaceNode!.Input("specular_roughness")!).Single();
        var text = Edited(
            new SetValue("tin", "coat_weight", null, ShaderValue.Of(0.5)),
            new SetImage("tin", "specular_roughness", rough, rough with { Transform = rough.Transform with { ScaleU = 8 } }),
            new SetImage("tin", "geometry_normal", null, new(new(ReferenceKind.Image, "tin.mtlx", "other/n.png")))
        );
        Assert.Contains("""<input name="uvtiling" type="vector2" value="8, 4"/>""", text, StringComparison.Ordinal);
        Assert.Contains("""<input name="coat_weight" type="float" value="0.5"/>""", text, StringComparison.Ordinal);
        Assert.Contains("<normalmap ", text, StringComparison.Ordinal);
        Assert.Contains("<!-- kept as it is -->", text, StringComparison.Ordinal);
        Assert.Equal(
            """<input name="base_color" type="color3" value="1, 0, 0"/>""",
            Line(Edited(new SetValue("tin", "base_color", null, ShaderValue.Of(1, 0, 0))), "base_color")
                .Replace("   value", " value", StringComparison.Ordinal)
        );
        Assert.Contains(
            "material=\"tin\" geom=\"/c\"",
            Edited(new AssignMaterial("/c", string.Empty, "gone", "tin")),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_document_that_is_not_well_formed_is_read_as_far_as_it_goes()
    {
        var scene = Look.Read(
            place.Put(
                "b.mtlx",
                Document[..Document.IndexOf("<collection", StringComparison.Ordinal)]
                    .Replace("</place2d>", string.Empty, StringComparison.Ordinal)
            )
        );
        Assert.Contains(scene.Notes, n => n.Message.Contains("not closed", StringComparison.Ordinal));
        Assert.Contains(scene.References, r => r.Written == "tex/tin & co.png");
        Assert.Throws<CannotUseException>(() => Look.Read(place.Put("c.mtlx", "<COLLADA/>")));
    }

    public void Dispose() => place.Dispose();

    private static string Line(string text, string part) => text.Split('\n').First(l => l.Contains(part, StringComparison.Ordinal)).Trim();

    private string Edited(params Edit[] edits)
    {
        Directory.CreateDirectory(place.At("edited"));
        var made = EditedFiles.Make(
            Path,
            [new(Guid.NewGuid(), "x", [.. edits], EntryState.Applied, "by hand", default)],
            place.At("edited"),
            new(new([place.At("s")]), Bounds.Default)
        );
        Assert.Empty(made.Refused.Select(r => r.Reason));
        return File.ReadAllText(made.Copies[Path]);
    }
}
