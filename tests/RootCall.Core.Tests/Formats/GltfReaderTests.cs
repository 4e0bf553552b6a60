using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>glTF 2.0 specification: images, buffers, textures, meshes; and what is broken in the wild.</summary>
public sealed class GltfReaderTests : IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void References_know_their_written_path_and_every_input_that_reads_them()
    {
        var scene = Look.Read(
            place.Put(
                "s.gltf",
                """
                {
                  "asset": { "version": "2.0" },
                  "images": [ { "uri": "textures/tin%20leaf.png" }, { "uri": "packed.png" } ],
                  "textures": [ { "source": 0 }, { "source": 1 } ],
                  "materials": [
                    { "name": "leaf", "pbrMetallicRoughness": { "baseColorTexture": { "index": 0 },
                      "metallicRoughnessTexture": { "index": 1 } }, "occlusionTexture": { "index": 1 } },
                    { "pbrMetallicRoughness": {},
                      "extensions": { "KHR_materials_clearcoat": { "clearcoatNormalTexture": { "index": 0 } } } }
                  ],
                  "buffers": [ { "uri": "mesh.bin", "byteLength": 640 } ]
                }
                """
            )
        );

        Assert.Equal(["textures/tin leaf.png", "packed.png", "mesh.bin"], scene.References.Select(r => r.Written));
        Assert.Equal([new("leaf", "baseColorTexture"), new("material 1", "clearcoatNormalTexture")], scene.References[0].UsedBy.ToArray());
        Assert.Equal([new("leaf", "metallicRoughnessTexture"), new("leaf", "occlusionTexture")], scene.References[1].UsedBy.ToArray());
        Assert.Equal((ReferenceKind.Buffer, 640), (scene.References[2].Kind, scene.References[2].ExpectedBytes));
        Assert.Empty(scene.Notes);
    }

    [Fact]
    public void Two_images_of_the_same_path_are_one_reference_with_two_sites()
    {
        var scene = Look.Read(place.Put("s.gltf", Look.Gltf("a.png", "a.png", "b.png")));
        Assert.Equal([2, 1], scene.References.Select(r => r.Sites.Length));
        Assert.Equal(2, scene.References[0].UsedBy.Length);
        Assert.Equal(3, scene.Counts.Images);
    }

    [Fact]
    public void A_texture_may_call_a_second_picture_in_a_newer_container()
    {
        var scene = Look.Read(
            place.Put(
                "s.gltf",
                """
                {
                  "asset": { "version": "2.0" },
                  "images": [ { "uri": "a.png" }, { "uri": "a.ktx2" }, { "uri": "a.webp" } ],
                  "textures": [ { "source": 0, "extensions": { "KHR_texture_basisu": { "source": 1 },
                    "EXT_texture_webp": { "source": 2 } } } ],
                  "materials": [ { "name": "m", "emissiveTexture": { "index": 0 } } ]
                }
                """
            )
        );
        Assert.All(scene.References, r => Assert.Equal([new("m", "emissiveTexture")], r.UsedBy.ToArray()));
    }

    [Fact]
    public void Triangles_follow_the_primitive_mode()
    {
        // glTF 2.0, 3.7.2.1: without indices the vertices are drawn in order; 4 triangles, 5 strip, 6 fan, 1 lines.
        var scene = Look.Read(
            place.Put(
                "s.gltf",
                """
                {
                  "asset": { "version": "2.0" },
                  "nodes": [ { "mesh": 0 }, { "mesh": 0 } ],
                  "meshes": [ { "primitives": [
                    { "attributes": { "POSITION": 0 }, "indices": 1 },
                    { "attributes": { "POSITION": 0 } },
                    { "attributes": { "POSITION": 0 }, "mode": 5 },
                    { "attributes": { "POSITION": 0 }, "mode": 6 },
                    { "attributes": { "POSITION": 0 }, "mode": 1 } ] } ],
                  "accessors": [ { "count": 12 }, { "count": 36 } ]
                }
                """
            )
        );
        Assert.Equal(12 + 4 + 10 + 10, scene.Counts.Triangles);
        Assert.Equal((2, 1), (scene.Counts.Nodes, scene.Counts.Meshes));
    }

    [Fact]
    public void Carried_images_of_both_kinds_give_back_their_bytes()
    {
        var png = Pictures.Png(3, 2, 77);
        var path = place.Put("s.gltf", Look.Gltf("data:image/png;base64," + Convert.ToBase64String(png)));
        var uri = Look.Muster(path).References.Single();
        Assert.Equal(Core.Muster.ReferenceState.Embedded, uri.State);
        Assert.Equal((3, 2, png.Length), (uri.Facts!.Width, uri.Facts.Height, (int)uri.Stamp!.Value.Bytes));

        var view = Look.Muster(place.Put("s.glb", GlbWith(png))).References.Single();
        Assert.Equal((Core.Muster.ReferenceState.Embedded, 3, 2), (view.State, view.Facts!.Width, view.Facts.Height));
        using var carried = Core.Formats.SceneFormats.Of("s.glb").OpenCarried(view.Reference.Carried!);
        using var copy = new MemoryStream();
        carried.CopyTo(copy);
        Assert.Equal(png, copy.ToArray());
    }

    [Theory]
    [InlineData("{ \"asset\": { \"version\": \"1.0\" } }", "glTF 1.0")]
    [InlineData("{ \"name\": \"a package\" }", "not a glTF scene")]
    [InlineData("[1, 2]", "no JSON object")]
    [InlineData("solid cube", "no JSON object")]
    [InlineData("", "is empty")]
    public void What_is_no_glTF_2_is_refused_in_one_sentence(string text, string saying)
    {
        var refused = Assert.Throws<CannotUseException>(() => Look.Read(place.Put("s.gltf", text)));
        Assert.Contains(saying, refused.Message, StringComparison.Ordinal);
        Assert.DoesNotContain('\n', refused.Message);
    }

    [Fact]
    public void Broken_JSON_keeps_what_stands_before_the_break_and_says_where_it_is()
    {
        var whole = Look.Gltf("a.png", "b.png");
        var scene = Look.Read(place.Put("s.gltf", whole[..whole.IndexOf("\"materials\"", StringComparison.Ordinal)]));
        Assert.Equal(["a.png", "b.png"], scene.References.Select(r => r.Written));
        Assert.Contains("line", Assert.Single(scene.Notes).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void Broken_parts_become_notes_with_their_place_and_the_rest_is_read()
    {
        var scene = Look.Read(
            place.Put(
                "s.gltf",
                """
                {
                  "images": [ { "uri": "a.png" }, {}, { "bufferView": 9 } ],
                  "textures": [ { "source": 0 }, { "source": 77 } ],
                  "materials": [ { "name": "m", "normalTexture": { "index": 5 }, "emissiveTexture": { "index": 1 } } ],
                  "buffers": [ {} ],
                  "extensionsRequired": [ "KHR_draco_mesh_compression" ]
                }
                """
            )
        );
        Assert.Equal(["a.png"], scene.References.Select(r => r.Written));
        Assert.Equal(
            [
                "s.gltf, /asset/version",
                "s.gltf, /materials/0",
                "s.gltf, /images/1",
                "s.gltf, /images/2",
                "s.gltf, /buffers/0",
                "s.gltf, /extensionsRequired",
            ],
            scene.Notes.Select(n => n.Place)
        );
    }

    [Fact]
    public void Depth_and_size_are_bounded()
    {
        var deep = "{\"asset\":{\"version\":\"2.0\"},\"images\":[{\"uri\":\"a.png\"}],\"extras\":" + new string('[', 5000);
        Assert.Contains("breaks at byte", Look.Read(place.Put("deep.gltf", deep)).Notes.Single().Message, StringComparison.Ordinal);

        var small = new Core.Formats.ReadContext(new([place.Folder]), Bounds.Default with { JsonBytes = 100 });
        var refused = Assert.Throws<CannotUseException>(() =>
            Core.Formats.SceneFormats.Read(place.Put("big.gltf", Look.Gltf("a.png")), small)
        );
        Assert.Contains("at most 100", refused.Message, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(10, "does not begin")]
    [InlineData(30, null)]
    [InlineData(-5, null)]
    public void A_cut_GLB_keeps_what_is_there_or_says_why_not(int cut, string? refusal)
    {
        var whole = GlbWith(Pictures.Png(3, 2, 1));
        var path = place.Put("s.glb", cut > 0 ? whole[..cut] : whole[..^-cut]);
        if (refusal is not null)
        {
            Assert.Contains(refusal, Assert.Throws<CannotUseException>(() => Look.Read(path)).Message, StringComparison.Ordinal);
            return;
        }

        if (cut > 0)
            Assert.Throws<CannotUseException>(() => Look.Read(path));
        else
        {
            var report = Look.Muster(path);
            Assert.Contains(report.Scene.Notes, n => n.Message.Contains("declares", StringComparison.Ordinal));
            Assert.Equal(Core.Muster.ReferenceState.Damaged, report.References.Single().State);
        }
    }

    [Fact]
    public void A_GLB_of_another_version_is_told()
    {
        var bytes = GlbWith(Pictures.Png(1, 1, 0));
        bytes[4] = 1;
        Assert.Contains(
            "version 1",
            Assert.Throws<CannotUseException>(() => Look.Read(place.Put("s.glb", bytes))).Message,
            StringComparison.Ordinal
        );
    }

    public void Dispose() => place.Dispose();

    internal static byte[] GlbWith(byte[] image, string more = "") =>
        Glb(
            $$"""
            {"asset":{"version":"2.0"},"images":[{"name":"inside","mimeType":"image/png","bufferView":0}{{more}}],
            "bufferViews":[{"buffer":0,"byteLength":{{image.Length}}}],"buffers":[{"byteLength":{{image.Length}}}]}
            """,
            image
        );

    /// <summary>glTF 2.0, 4.4: header, JSON chunk padded with spaces, BIN chunk padded with zeros.</summary>
    internal static byte[] Glb(string json, byte[] bin)
    {
        var text = Encoding.UTF8.GetBytes(json);
        byte[] padded = [.. text, .. Enumerable.Repeat((byte)' ', (4 - (text.Length % 4)) % 4)];
        byte[] data = [.. bin, .. new byte[(4 - (bin.Length % 4)) % 4]];
        return
        [
            .. "glTF"u8,
            .. BitConverter.GetBytes(2),
            .. BitConverter.GetBytes(12 + 8 + padded.Length + 8 + data.Length),
            .. BitConverter.GetBytes(padded.Length),
            .. "JSON"u8,
            .. padded,
            .. BitConverter.GetBytes(data.Length),
            .. "BIN\0"u8,
            .. data,
        ];
    }
}
