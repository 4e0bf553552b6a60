using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>Edits of MaterialX documents, each read back by the graph it gives.</summary>
public sealed class MtlxLookTests : IDisposable
{
    private const string Document = """
        <materialx version="1.38" fileprefix="tex/">
          <image name="plain" type="color3">
            <input name="file" type="filename" value="a.png"/>
          </image>
          <place2d name="place" type="vector2"><input name="scale" type="vector2" value="0.5, 0.5"/></place2d>
          <image name="placed" type="float">
            <input name="file" type="filename" value="b.png"/>
            <input name="texcoord" type="vector2" nodename="place"/>
          </image>
          <uvs_from_elsewhere name="odd" type="vector2"/>
          <image name="warped" type="float">
            <input name="file" type="filename" value="c.png"/>
            <input name="texcoord" type="vector2" nodename="odd"/>
          </image>
          <standard_surface name="SR" type="surfaceshader">
            <input name="base_color" type="color3" nodename="plain"/>
            <input name="specular_roughness" type="float" nodename="placed"/>
            <input name="metalness" type="float" nodename="warped"/>
            <input name="coat" type="float" value="0.5"/>
          </standard_surface>
          <surfacematerial name="m" type="material"><input name="surfaceshader" type="surfaceshader" nodename="SR"/></surfacematerial>
          <standard_surface name="bare" type="surfaceshader"/>
          <surfacematerial name="empty" type="material"><input name="surfaceshader" type="surfaceshader" nodename="bare"/></surfacematerial>
          <look name="l"><materialassign name="x" material="m" geom="/a"/></look>
        </materialx>
        """;

    private readonly Place place = new();
    private readonly string path;

    public MtlxLookTests() => path = place.Put("s.mtlx", Document);

    [Fact]
    public void Tiling_goes_where_the_node_has_it()
    {
        Assert.Equal(4, Tiled("base_color", 4)); // An image becomes a tiled image.
        Assert.Equal(8, Tiled("specular_roughness", 8)); // A placement divides.
        var use = Use("m", "metalness", Document);
        var refused = Make(new SetImage("m", "metalness", use, use with { Transform = use.Transform with { ScaleU = 3 } }))
            .Refused.Single();
        Assert.Contains("other nodes", refused.Reason, StringComparison.Ordinal);
    }

    [Fact]
    public void An_image_is_exchanged_tagged_wrapped_or_disconnected()
    {
        var use = Use("m", "base_color", Document);
        var text = Edited(
            new SetImage(
                "m",
                "base_color",
                use,
                use with
                {
                    Reference = use.Reference with { Written = "other/d.png" },
                    DeclaredSpace = "srgb_texture",
                    WrapU = WrapMode.Clamp,
                    WrapV = WrapMode.Black,
                }
            )
        );
        var after = Use("m", "base_color", text);
        Assert.Equal(
            ("other/d.png", "srgb", WrapMode.Clamp, WrapMode.Black),
            (after.Reference.Written, after.EffectiveSpace.Word(), after.WrapU, after.WrapV)
        );
        var off = Edited(new SetImage("m", "base_color", use, null));
        Assert.DoesNotContain("name=\"base_color\"", off, StringComparison.Ordinal);
        Assert.Contains("a.png", off, StringComparison.Ordinal);
    }

    [Fact]
    public void Values_and_images_come_into_a_shader_without_inputs()
    {
        Assert.Equal(
            ShaderValue.Of(1),
            Surface("empty", Edited(new SetValue("empty", "metalness", null, ShaderValue.Of(1)))).Input("metalness")!.Value
        );
        Assert.Null(Surface("m", Edited(new SetValue("m", "coat", ShaderValue.Of(0.5), null))).Input("coat"));
        var text = Edited(
            new SetImage(
                "empty",
                "base_color",
                null,
                new(new(ReferenceKind.Image, "s.mtlx", "x/new & old.png"))
                {
                    DeclaredSpace = "srgb_texture",
                    Transform = UvTransform.Identity with { ScaleU = 2, ScaleV = 3, OffsetU = 0.5 },
                }
            )
        );
        var use = Use("empty", "base_color", text);
        Assert.Equal(
            ("x/new & old.png", "srgb", 2, 3, 0.5),
            (use.Reference.Written, use.EffectiveSpace.Word(), use.Transform.ScaleU, use.Transform.ScaleV, use.Transform.OffsetU)
        );
        // Connecting over a value takes the value out.
        var coat = Surface("m", Edited(new SetImage("m", "coat", null, new(new(ReferenceKind.Image, "s.mtlx", "c.png")))));
        Assert.Equal((null, true), (coat.Input("coat")!.Value, coat.Input("coat")!.From is not null));
    }

    [Theory]
    [InlineData("gone", "coat")]
    [InlineData("m", "carry")]
    public void What_is_not_there_or_cannot_be_said_is_refused(string material, string what)
    {
        Edit edit =
            what == "carry"
                ? new CarryImage(new(ReferenceKind.Image, "s.mtlx", "tex/a.png"), path)
                : new SetValue(material, what, null, ShaderValue.Of(1));
        Assert.DoesNotContain('\n', Assert.Single(Make(edit).Refused).Reason);
    }

    public void Dispose() => place.Dispose();

    private double Tiled(string input, double scale)
    {
        var use = Use("m", input, Document);
        return Use(
            "m",
            input,
            Edited(new SetImage("m", input, use, use with { Transform = use.Transform with { ScaleU = scale, ScaleV = scale } }))
        ).Transform.ScaleU;
    }

    private EditedFiles Make(params Edit[] edits)
    {
        Directory.CreateDirectory(place.At("edited"));
        return EditedFiles.Make(
            path,
            [new(Guid.NewGuid(), "x", [.. edits], EntryState.Applied, "by hand", default)],
            place.At("edited"),
            new(new([place.Folder]), Bounds.Default)
        );
    }

    private string Edited(params Edit[] edits)
    {
        var made = Make(edits);
        Assert.Empty(made.Refused.Select(r => r.Reason));
        return File.ReadAllText(made.Copies[path]);
    }

    private Material Read(string material, string text) =>
        Look.Read(place.Put("read/s.mtlx", text)).Materials.Single(m => m.Name == material);

    private ShaderNode Surface(string material, string text) => Read(material, text).Graph.SurfaceNode!;

    private ImageUse Use(string material, string input, string text)
    {
        var graph = Read(material, text).Graph;
        return graph.ImagesOf(graph.SurfaceNode!.Input(input)!).Single();
    }
}
