using System.Text;
using System.Text.Json;
using RootCall.Core.Formats.Json;

namespace RootCall.Core.Tests.Formats;

/// <summary>A tree whose every value knows its bytes, and which keeps what stands before an error.</summary>
public sealed class JsonTreeTests
{
    [Theory]
    [InlineData("{\"a\":[1,{\"b\":\"x\"}],\"c\":null}")]
    [InlineData("  {\r\n \"a\" : [ 1 , { \"b\":\"x\" } ] , \"c\" : null }\n")]
    [InlineData("\uFEFF{\"a\":[1,{\"b\":\"x\"},],\"c\":null,}")]
    [InlineData("/* made by hand */{\"a\":[1,// one\n{\"b\":\"x\"}],\"c\":null}")]
    public void Every_value_is_where_it_says(string json)
    {
        var bytes = Encoding.UTF8.GetBytes(json);
        var root = JsonTree.Read(bytes, 64, out var error);
        Assert.Null(error);
        string At(JsonTree value) => Encoding.UTF8.GetString(bytes[value.Start..value.End]);
        Assert.Equal("1", At(root["a"][0]));
        Assert.Equal("\"x\"", At(root["a"][1]["b"]));
        Assert.Equal("null", At(root["c"]));
        Assert.StartsWith("[", At(root["a"]), StringComparison.Ordinal);
        Assert.EndsWith("]", At(root["a"]), StringComparison.Ordinal);
        Assert.Equal("x", root["a"][1]["b"].Text);
    }

    [Fact]
    public void What_is_not_there_is_nothing_and_not_an_error()
    {
        var root = JsonTree.Read("{\"n\":-1,\"f\":1.5,\"big\":1e400,\"s\":\"7\",\"i\":7}"u8, 64, out _);
        Assert.False(root["x"]["y"][3]["z"].Exists);
        Assert.Equal([null, null, null, null, 7], new[] { "n", "f", "big", "s", "i" }.Select(k => root[k].Index));
        Assert.Empty(root["i"].Items);
        Assert.Empty(root["i"].Members);
    }

    [Fact]
    public void Many_members_are_found_and_the_first_of_two_wins()
    {
        var json = "{" + string.Join(',', Enumerable.Range(0, 50).Select(i => $"\"k{i}\":{i}")) + ",\"k7\":99}";
        var root = JsonTree.Read(Encoding.UTF8.GetBytes(json), 64, out _);
        Assert.Equal(7, root["k7"].Index);
        Assert.Equal(49, root["k49"].Index);
        Assert.Equal(51, root.Members.Count);
    }

    [Theory]
    [InlineData("{\"a\":[1,2,", 2)]
    [InlineData("{\"a\":[1,2,]}", 2)]
    [InlineData("{\"a\":[1,2,\"unfinished", 2)]
    [InlineData("{\"a\":[1,2}", 2)]
    [InlineData("{\"a\":[1,2,nonsense]}", 2)]
    [InlineData("{\"a\":[1,2]} more", 2)]
    public void After_an_error_the_tree_holds_what_came_before(string json, int items) =>
        Assert.Equal(items, JsonTree.Read(Encoding.UTF8.GetBytes(json), 64, out _)["a"].Items.Count);

    [Fact]
    public void The_error_says_the_byte_and_the_line()
    {
        JsonTree.Read("{\n\"a\": 1,\n\"b\": ?\n}"u8, 64, out var error);
        Assert.Contains("line 3", error, StringComparison.Ordinal);
        Assert.Contains("byte 15", error, StringComparison.Ordinal);
    }

    [Fact]
    public void Bytes_that_are_no_UTF_8_are_kept_as_Latin_1()
    {
        byte[] bytes = [.. "{\"a\":\"caf"u8, 0xE9, .. "\"}"u8];
        Assert.Equal("café", JsonTree.Read(bytes, 64, out _)["a"].Text);
        Assert.Equal(JsonValueKind.Undefined, JsonTree.Read([], 64, out _).Kind);
    }
}
