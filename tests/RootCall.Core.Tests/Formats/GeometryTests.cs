using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>
/// STL and PLY: layouts as "The STL Format" (StereoLithography Interface Specification) and "PLY - Polygon File Format"
/// (Stanford) give them.
/// </summary>
public sealed class GeometryTests : IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void An_STL_is_text_or_binary_by_what_it_holds()
    {
        var text = Look.Read(
            place.Put(
                "t.stl",
                "solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 2 0 0\nvertex 0 3 0\nendloop\nendfacet\nendsolid a\n"
            )
        );
        Assert.Equal((1L, new Box(new(0, 0, 0), new(2, 3, 0))), (text.Counts.Triangles, text.Meshes[0].Bounds!.Value));
        Assert.Contains("no materials", Assert.Single(text.Notes).Message, StringComparison.Ordinal);

        // A binary file whose header says "solid" is still binary.
        byte[] binary = [.. Encoding.ASCII.GetBytes("solid x".PadRight(80)), .. BitConverter.GetBytes(2), .. new byte[100]];
        Assert.Equal(2, Look.Read(place.Put("b.stl", binary)).Counts.Triangles);
        var cut = Look.Read(place.Put("c.stl", [.. new byte[80], .. binary[80..150]]));
        Assert.Equal(1, cut.Counts.Triangles);
        Assert.Contains(cut.Notes, n => n.Message.Contains("declares 2", StringComparison.Ordinal));
        Assert.Throws<CannotUseException>(() => Look.Read(place.Put("d.stl", "short")));
    }

    [Theory]
    [InlineData("ascii")]
    [InlineData("binary_little_endian")]
    [InlineData("binary_big_endian")]
    public void A_PLY_is_read_in_every_order(string format)
    {
        var header =
            $"ply\nformat {format} 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty double z\nproperty "
            + $"uchar red\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n";
        byte[] Float(float v) =>
            [.. format.EndsWith("big_endian", StringComparison.Ordinal) ? BitConverter.GetBytes(v).Reverse() : BitConverter.GetBytes(v)];
        byte[] Double(double v) =>
            [.. format.EndsWith("big_endian", StringComparison.Ordinal) ? BitConverter.GetBytes(v).Reverse() : BitConverter.GetBytes(v)];
        byte[] body =
            format == "ascii"
                ? Encoding.ASCII.GetBytes("0 0 0 255\n1 0 0 255\n1 1 0.5 255\n0 1 0 255\n4 0 1 2 3\n")
                :
                [
                    .. new[] { (0, 0, 0.0), (1, 0, 0), (1, 1, 0.5), (0, 1, 0) }.SelectMany(p =>
                        (byte[])[.. Float(p.Item1), .. Float(p.Item2), .. Double(p.Item3), 255]
                    ),
                    4,
                    .. new byte[16],
                ];
        var scene = Look.Read(place.Put("a.ply", [.. Encoding.ASCII.GetBytes(header), .. body]));
        Assert.Equal(
            (4L, 1L, 2L, true),
            (scene.Meshes[0].Vertices, scene.Meshes[0].Faces, scene.Meshes[0].Triangles, scene.Meshes[0].HasColours)
        );
        Assert.Equal(new Box(new(0, 0, 0), new(1, 1, 0.5)), scene.Meshes[0].Bounds);
        var cut = Look.Read(place.Put("b.ply", [.. Encoding.ASCII.GetBytes(header), .. body[..20]]));
        Assert.Contains(cut.Notes, n => n.Message.Contains("ends after", StringComparison.Ordinal));
    }

    [Fact]
    public void Formats_and_versions_that_are_not_read_are_told_in_one_sentence()
    {
        foreach (
            var (name, text) in new[]
            {
                ("a.gltf", "{\"asset\":{\"version\":\"1.0\"}}"),
                ("b.gltf", "{\"asset\":{\"version\":1},\"meshes\":{}}"),
                ("c.usda", "#sdf 1.4"),
                ("d.ply", "ply\nformat odd 1.0\nend_header\n"),
                ("e.dae", "<x/>"),
                ("f.xyz", "x"),
            }
        )
        {
            var message = Assert.Throws<CannotUseException>(() => Look.Read(place.Put(name, text))).Message;
            Assert.DoesNotContain('\n', message);
            Assert.Contains(name, message, StringComparison.Ordinal);
        }
    }

    public void Dispose() => place.Dispose();
}
