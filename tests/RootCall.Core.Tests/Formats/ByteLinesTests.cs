using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>OBJ files as they come: long lines, odd ends of line, names in odd encodings, much white space.</summary>
public sealed class ByteLinesTests : IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void A_line_longer_than_any_buffer_is_read()
    {
        var corners = 200_000;
        var face = "f " + string.Join(' ', Enumerable.Repeat("1/1/1", corners));
        Assert.Equal(corners - 2, Look.Read(place.Put("s.obj", $"v 0 0 0\n{face}\n")).Counts.Triangles);
    }

    [Theory]
    [InlineData("v 0 0 0\nf 1 2 3\nf 1 2 3")]
    [InlineData("v 0 0 0\r\nf 1 2 3\r\nf 1 2 3\r\n")]
    [InlineData("v 0 0 0\rf 1 2 3\rf 1 2 3\r")]
    [InlineData("\n\n\r\n  \t\nv 0 0 0\n\t f\t1  2\t\t3   \n#f 1 2 3\nf 1 2 3 # f 4 5 6\n")]
    [InlineData("\uFEFFv 0 0 0\nf 1 2 3\nf 1 2 3\n")]
    public void Two_triangles_are_two_triangles_however_the_lines_end(string text) =>
        Assert.Equal(2, Look.Read(place.Put("s.obj", text)).Counts.Triangles);

    [Fact]
    public void A_face_that_a_backslash_carries_on_past_the_end_still_counts()
    {
        Assert.Equal(3, Look.Read(place.Put("s.obj", "v 0 0 0\nf 1 2 \\\n3 \\\n4 5 \\")).Counts.Triangles);
        Assert.Equal(1, Look.Read(place.Put("s.obj", "v 0 0 0\nf \\\n1 2 3\n")).Counts.Triangles);
    }

    [Fact]
    public void A_library_and_its_maps_are_found_under_names_in_any_alphabet()
    {
        place.Put("材質.mtl", "newmtl мох\nmap_Kd текстура/мох.png\n");
        place.PutPng("текстура/мох.png");
        var report = Look.Muster(place.Put("s.obj", "mtllib 材質.mtl\nusemtl мох\nv 0 0 0\n"));
        Assert.Equal("мох", Assert.Single(report.Scene.Materials).Name);
        Assert.All(report.References, r => Assert.Equal(ReferenceState.Present, r.State));
    }

    [Fact]
    public void A_library_called_twice_or_calling_in_a_circle_is_read_once()
    {
        place.Put("m.mtl", "newmtl a\nmap_Kd a.png\nmtllib m.mtl\n");
        var scene = Look.Read(place.Put("s.obj", "mtllib m.mtl\nmtllib ./m.mtl m.mtl\nv 0 0 0\n"));
        Assert.Equal(2, scene.Files.Length);
        Assert.Single(scene.Materials);
    }

    [Fact]
    public void Statements_without_what_they_need_are_notes_with_their_line()
    {
        place.Put("m.mtl", "newmtl\nmap_Kd\nmap_Ks -s 1 1 1\n");
        var scene = Look.Read(place.Put("s.obj", "v 0 0 0\nmtllib\nmtllib m.mtl\n"));
        Assert.Equal(["s.obj, line 2", "m.mtl, line 1", "m.mtl, line 2", "m.mtl, line 3"], scene.Notes.Select(n => n.Place));
    }

    [Fact]
    public void Reading_stops_when_asked()
    {
        using var stop = new CancellationTokenSource();
        stop.Cancel();
        var path = place.Put("s.obj", string.Concat(Enumerable.Repeat("v 0 0 0\n", 70_000)));
        Assert.Throws<OperationCanceledException>(() =>
            Core.Formats.SceneFormats.Read(path, new(new([place.Folder]), Bounds.Default, Stop: stop.Token))
        );
    }

    [Fact]
    public void Text_in_sixteen_bits_is_refused_since_it_would_be_read_wrongly() =>
        Assert.Throws<CannotUseException>(() => Look.Read(place.Put("s.obj", "v 0 0 0\nf 1 2 3\n", Encoding.Unicode)));

    public void Dispose() => place.Dispose();
}
