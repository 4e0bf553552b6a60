using RootCall.Core.Audit;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit;

/// <summary>What is told between materials, between the maps of one, and of what did not come.</summary>
public sealed class BetweenTests : IDisposable
{
    private readonly Place place = new();

    private Audited Open(Example example) => ExampleTests.Open(place.At("scene"), example);

    [Fact]
    public void A_value_on_another_scale_is_read_by_what_the_scene_writes_elsewhere()
    {
        var audited = Open(
            Example.Gltf(
                """
                { "name": "tin", "pbrMetallicRoughness": { "metallicFactor": 0, "roughnessFactor": 35 } },
                { "name": "brass", "pbrMetallicRoughness": { "metallicFactor": 0, "roughnessFactor": 204 } }
                """
            )
        );
        var tin = audited.Of("values.beyond-clamp").Single(f => f.Target.Name == "tin");
        Assert.Equal("Set roughness to 0.137, a share of 255", tin.Fixes[0].Title);
        Assert.All(tin.Fixes, f => Assert.False(f.IsSafe));
    }

    [Fact]
    public void Two_materials_whose_maps_did_not_come_are_not_the_same()
    {
        var audited = Open(Example.Mtl("newmtl pane\nNi 1.5\nmap_Kd textures/pane.png\nnewmtl door\nNi 1.5\nmap_Kd textures/pane.png"));
        Assert.Single(audited.Of("assignment.identical-materials"));
        File.Delete(Path.Combine(place.At("scene"), "textures", "pane.png"));
        Assert.Empty(Audits.Open(audited.Scene.Scene.Path).Of("assignment.identical-materials"));
    }

    [Fact]
    public void What_a_map_is_that_did_not_come_is_only_asked()
    {
        var audited = Open(
            Example.Mtl("newmtl tin\nmap_Kd textures/tin_basecolor.png\nnorm textures/tin_normal.png\nmap_Pm textures/tin_roughness.png")
        );
        Assert.Equal(Severity.Blocker, Assert.Single(audited.Of("wiring.role-mismatch")).Severity);
        File.Delete(Path.Combine(place.At("scene"), "textures", "tin_roughness.png"));
        var asked = Assert.Single(Audits.Open(audited.Scene.Scene.Path).Of("wiring.role-mismatch"));
        Assert.Equal((Severity.Note, false), (asked.Severity, asked.Fixes.Any(f => f.IsSafe)));
    }

    [Fact]
    public void A_factor_of_zero_switches_highlights_off()
    {
        var audited = Open(
            Example.Gltf(
                """
                {
                  "name": "tin",
                  "pbrMetallicRoughness": { "metallicFactor": 0, "roughnessFactor": 0.6 },
                  "extensions": {
                    "KHR_materials_specular": { "specularFactor": 0, "specularTexture": { "index": "textures/tin_specular.png" } }
                  }
                }
                """
            )
        );
        Assert.DoesNotContain(audited.Report.Findings, f => f.Severity > Severity.Note);
    }

    [Fact]
    public void A_material_that_is_taken_out_leaves_those_after_it_as_they_are()
    {
        place.Put("a.mtl", "newmtl spare\nKd 0.5 0.5 0.5\nnewmtl tin\nKd 0.5 0.5 0.5\nPr 1.8\n");
        var scene = place.Put("a.obj", "mtllib a.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl tin\nf 1 2 3\n");
        var audited = Audits.Open(scene);
        var spare = Assert.Single(audited.Of("assignment.unused-material"));
        var fix = Assert.Single(spare.Fixes);
        Assert.Equal(["tin"], audited.With(place.At("mended"), fix.Edits).Scene.Materials.Select(m => m.Name));
    }

    /// <summary>Its values say that it is the roughness turned over; a name that says something else agrees with nothing.</summary>
    [Fact]
    public void An_inverse_that_is_called_something_else_is_no_sure_gloss()
    {
        static byte[] Steps(bool over) => Pictures.Png(64, 64, 1, (x, y, p) => p[0] = (byte)(over ? 255 - (x * 2) - y : (x * 2) + y));
        place.Put("t/tin_height.png", Steps(over: true));
        place.Put("t/tin_roughness.png", Steps(over: false));
        place.Put("a.mtl", "newmtl tin\nmap_Pr t/tin_height.png\n");
        var scene = place.Put("a.obj", "mtllib a.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nusemtl tin\nf 1/1 2/1 3/1\n");
        Assert.Equal(Severity.Warning, Assert.Single(Audits.Open(scene).Of("wiring.gloss-as-roughness")).Severity);
    }

    [Fact]
    public void What_is_asked_of_a_shared_image_bars_merging_those_that_share_it()
    {
        var audited = Open(
            Example.Mtl("newmtl pot\nmap_Kd textures/basecolor.png\nnewmtl lid\nmap_Kd textures/basecolor.png") with
            {
                Beside = ["textures/lid/basecolor.png#other"],
            }
        );
        Assert.Single(audited.Of("sets.shared-image"));
        var same = Assert.Single(audited.Of("assignment.identical-materials"));
        Assert.Empty(same.Fixes);
        Assert.Contains("say first which is whose", same.Decide, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("f 1/1 2/2 3/3\nf 1/1 2/2 3/3", null)]
    [InlineData("f 1/1 2/2 3/3\nf 1 2 3", Severity.Warning)]
    [InlineData("f 1 2 3\nf 1//1 2//1 3//1", Severity.Blocker)]
    public void Faces_without_UV_coordinates_are_counted_where_an_image_lies_on_them(string faces, Severity? severity)
    {
        place.Put("a.mtl", "newmtl tin\nmap_Kd tin.png\n");
        place.Put("tin.png", Pictures.Png(4, 4, 200));
        var scene = place.Put(
            "a.obj",
            $"mtllib a.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nvn 0 0 1\no pot\nusemtl tin\n{faces}\n"
        );
        Assert.Equal(severity, Audits.Open(scene).Of("settings.no-uvs").SingleOrDefault()?.Severity);
    }

    [Fact]
    public void One_channel_into_a_colour_is_written_as_three_in_MaterialX()
    {
        var audited = Open(
            Example.Mtlx(
                """
                <image name="paint" type="float">
                  <input name="file" type="filename" value="textures/tin_basecolor.png"/>
                </image>
                <standard_surface name="SR_tin" type="surfaceshader">
                  <input name="base_color" type="color3" nodename="paint"/>
                </standard_surface>
                <surfacematerial name="tin" type="material">
                  <input name="surfaceshader" type="surfaceshader" nodename="SR_tin"/>
                </surfacematerial>
                """
            )
        );
        var finding = Assert.Single(audited.Of("wiring.type-mismatch"));
        var mended = audited.With(place.At("mended"), finding.Fixes[0].Edits);
        FixTests.AssertMended(audited, mended, finding);
        Assert.Equal(3, mended.Scene.Materials.Single().Input("base_color")!.Maps.Single().Node.Output.Numbers);
    }

    [Fact]
    public void A_mix_of_surfaces_is_a_surface_of_the_standard_library()
    {
        var audited = Open(
            Example.Mtlx(
                """
                <standard_surface name="a" type="surfaceshader"/>
                <standard_surface name="b" type="surfaceshader"/>
                <mix name="both" type="surfaceshader">
                  <input name="fg" type="surfaceshader" nodename="a"/>
                  <input name="bg" type="surfaceshader" nodename="b"/>
                </mix>
                <surfacematerial name="tin" type="material">
                  <input name="surfaceshader" type="surfaceshader" nodename="both"/>
                </surfacematerial>
                """
            )
        );
        Assert.Equal("materialx-mix", audited.Scene.Materials.Single().Model?.Id);
        Assert.DoesNotContain(audited.Report.Findings, f => f.Severity > Severity.Note);
    }

    [Theory]
    [InlineData("", true)]
    [InlineData("\"emissiveFactor\": [0, 0, 0],", false)]
    public void An_emission_that_was_switched_off_in_writing_is_not_switched_on_unasked(string written, bool safe)
    {
        var audited = Open(
            Example.Gltf($$"""{ "name": "lamp", {{written}} "emissiveTexture": { "index": "textures/lamp_emission.png" } }""")
        );
        Assert.Equal(safe, Assert.Single(audited.Of("wiring.emission-zero")).Fixes[0].IsSafe);
    }

    public void Dispose() => place.Dispose();
}
