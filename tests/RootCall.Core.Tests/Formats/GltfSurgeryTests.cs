using System.Buffers.Binary;
using System.Text;
using RootCall.Core.SendOff;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats;

/// <summary>A relink changes exactly the bytes of that path, and with no edits nothing changes.</summary>
public sealed class GltfSurgeryTests : IDisposable
{
    private readonly Place place = new();

    /// <summary>Everything a formatter would lose: key order, spacing, number spelling, escapes, unknown parts, CRLF, BOM.</summary>
    private const string Odd =
        "\uFEFF{ \"extras\":{\"z\":1.50e+01,\"a\":\"\\u00e9\\/\"},\r\n\t\"images\" :[{\"uri\":\"D:\\\\old\\\\caf\\u00e9 "
        + "a.png\" , \"name\":\"x\"},\r\n{\"uri\":\"keep%20this.png\"}],  \"UNKNOWN_ext\":[ "
        + "],\r\n\"asset\":{\"version\":\"2.0\"} }\r\n";

    [Fact]
    public void With_no_targets_a_copy_is_the_same_to_the_byte()
    {
        var path = place.Put("s.gltf", Odd);
        Assert.Equal(File.ReadAllBytes(path), Rewrite(path, []));
        var glb = place.Put("s.glb", GltfReaderTests.GlbWith(Pictures.Png(2, 2, 9), ",{\"uri\":\"out.png\"}"));
        Assert.Equal(File.ReadAllBytes(glb), Rewrite(glb, []));
    }

    [Fact]
    public void Only_the_bytes_of_the_path_change()
    {
        var path = place.Put("s.gltf", Odd);
        var after = Rewrite(path, new() { [@"D:\old\café a.png"] = "new folder/café b.png" });
        var (gone, came) = ByteDiff.Middle(File.ReadAllBytes(path), after);
        Assert.Equal(@"D:\\old\\caf\u00e9 a", gone);
        Assert.Equal("new%20folder/caf%C3%A9%20b", came);
        Assert.Equal("new folder/café b.png", Look.Read(place.Put("t.gltf", after)).References[0].Written);
    }

    [Theory]
    [InlineData("a.png")]
    [InlineData("deep/er/a b#c?d%25.png")]
    [InlineData("colon:first/[x].png")]
    [InlineData("ünïcode/木.png")]
    public void Every_name_comes_back_as_it_was_meant(string name)
    {
        var path = place.Put("s.gltf", Look.Gltf("old.png"));
        Assert.Equal(name, Look.Read(place.Put("t.gltf", Rewrite(path, new() { ["old.png"] = name }))).References[0].Written);
    }

    [Theory]
    [InlineData("o.png")]
    [InlineData("a-much-longer-name-than-before.png")]
    [InlineData("x/y.png")]
    [InlineData("ab/cd.png")]
    public void In_a_GLB_the_JSON_chunk_is_edited_and_the_BIN_chunk_is_only_moved(string name)
    {
        var image = Pictures.Png(5, 5, 200);
        var path = place.Put("s.glb", GltfReaderTests.GlbWith(image, ",{\"uri\":\"out.png\"}"));
        var before = File.ReadAllBytes(path);
        var after = Rewrite(path, new() { ["out.png"] = name });

        int Length(byte[] glb, int at) => BinaryPrimitives.ReadInt32LittleEndian(glb.AsSpan(at));
        Assert.Equal(after.Length, Length(after, 8));
        Assert.Equal(0, Length(after, 12) % 4);
        Assert.Equal(before[(20 + Length(before, 12))..], after[(20 + Length(after, 12))..]);
        string Json(byte[] glb) => Encoding.UTF8.GetString(glb.AsSpan(20, Length(glb, 12))).TrimEnd();
        Assert.Equal(Json(before).Replace("\"out.png\"", $"\"{name}\"", StringComparison.Ordinal), Json(after));
        Assert.Equal(Core.Muster.ReferenceState.Embedded, Look.Muster(place.Put("t.glb", after)).References[0].State);
    }

    [Fact]
    public void A_path_that_answers_from_the_new_place_keeps_its_spelling()
    {
        var path = place.Put("s.gltf", Look.Gltf("./tex/./a%2Epng"));
        Assert.Equal(File.ReadAllBytes(path), Rewrite(path, new() { ["./tex/./a.png"] = "tex/a.png" }));
    }

    public void Dispose() => place.Dispose();

    /// <summary>The scene's bytes when each written path is answered by a file below the copy's folder.</summary>
    internal static byte[] Rewrite(string path, Dictionary<string, string> answers)
    {
        var scene = Look.Read(path);
        const string Folder = "/copy";
        var targets = scene
            .References.Where(r => answers.ContainsKey(r.Written))
            .ToDictionary(r => r.Key, r => Path.Combine(Folder, answers[r.Written]));
        Assert.Equal(answers.Count, targets.Count);
        using var copy = new MemoryStream();
        new SceneWriter(scene, Folder, targets).Write(0, copy);
        return copy.ToArray();
    }
}
