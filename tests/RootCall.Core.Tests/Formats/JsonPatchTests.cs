using System.Text;
using System.Text.Json.Nodes;
using RootCall.Core.Files;
using RootCall.Core.Formats.Json;

namespace RootCall.Core.Tests.Formats;

/// <summary>
/// Patches of JSON text beside the same changes made by System.Text.Json's nodes: the same value, with every other byte
/// kept.
/// </summary>
public sealed class JsonPatchTests
{
    private const string Text = """{ "a": 1, "b": { "c": [ 1, 2 ], "d": "x" } , "e": [], "f": {} }""";

    [Fact]
    public void Members_are_set_added_and_taken_out_with_their_commas()
    {
        Assert.Equal(Text.Replace("1, \"b\"", "9, \"b\"", StringComparison.Ordinal), Patched(Text, (p, r) => p.Set(r, "a", 9)));
        Assert.Equal(
            Text.Replace("\"x\" }", "\"x\", \"g\": true }", StringComparison.Ordinal),
            Patched(Text, (p, r) => p.Set(p.Child(r, "b"), "g", true))
        );
        Assert.Equal(Text.Replace("\"a\": 1, ", string.Empty, StringComparison.Ordinal), Patched(Text, (p, r) => p.Remove(r, "a")));
        Assert.Equal(
            Text.Replace(", \"d\": \"x\"", string.Empty, StringComparison.Ordinal),
            Patched(Text, (p, r) => p.Remove(p.Child(r, "b"), "d"))
        );
        Assert.Equal(Text.Replace("\"e\": [], ", string.Empty, StringComparison.Ordinal), Patched(Text, (p, r) => p.Remove(r, "e")));
        Assert.Equal(Text.Replace("[]", "[7, 8]", StringComparison.Ordinal), Patched(Text, (p, r) =>
            {
                Assert.Equal(0, p.Append(p.Child(r, "e", array: true), 7));
                Assert.Equal(1, p.Append(p.Child(r, "e", array: true), 8));
            }));
        Assert.Equal(
            Text.Replace("{} }", "{ \"n\": { \"m\": [1] } } }", StringComparison.Ordinal),
            Patched(Text, (p, r) => p.Append(p.Child(p.Child(p.Child(r, "f"), "n"), "m", array: true), 1))
        );
        Assert.Equal(Text, Patched(Text, (p, r) => p.Remove(r, "gone")));
        // Taken out and set again is a change in place.
        Assert.Equal(Text.Replace("1, \"b\"", "2, \"b\"", StringComparison.Ordinal), Patched(Text, (p, r) =>
            {
                p.Remove(r, "a");
                p.Set(r, "a", 2);
            }));
    }

    [Fact]
    public void Random_changes_give_the_value_that_System_Text_Json_gives()
    {
        var random = new Random(21);
        for (var n = 0; n < 500; n++)
        {
            var text = Object(random, 0);
            var expected = JsonNode.Parse(text)!.AsObject();
            var made = Patched(text, (patch, root) => Change(patch, root, expected, random, 0));
            Assert.True(JsonNode.DeepEquals(expected, JsonNode.Parse(made)), $"{text} became {made}, not {expected.ToJsonString()}");
        }
    }

    private static string Object(Random random, int depth)
    {
        var space = random.Next(3) == 0 ? "\n  " : " ";
        var members = Enumerable.Range(0, random.Next(0, 5)).Select(i => $"\"k{i}\"{space}:{space}{Value()}");
        string Value() => depth < 3 && random.Next(2) == 0 ? Object(random, depth + 1) : $"{random.Next(100)}";
        return "{" + space + string.Join(random.Next(2) == 0 ? "," : $" ,{space}", members) + space + "}";
    }

    private static void Change(JsonPatch patch, JsonSpot spot, JsonObject expected, Random random, int depth)
    {
        foreach (var key in Enumerable.Range(0, 6).Select(i => $"k{i}"))
        {
            switch (random.Next(5))
            {
                case 0:
                    patch.Remove(spot, key);
                    expected.Remove(key);
                    break;
                case 1:
                    patch.Set(spot, key, 1000);
                    expected[key] = 1000;
                    break;
                case 2 when depth < 3 && expected[key] is JsonObject inner:
                    Change(patch, patch.Child(spot, key), inner, random, depth + 1);
                    break;
                default:
                    break;
            }
        }
    }

    private static string Patched(string text, Action<JsonPatch, JsonSpot> change)
    {
        var bytes = Encoding.UTF8.GetBytes(text);
        var root = JsonTree.Read(bytes, 32, out _);
        var patch = new JsonPatch(bytes, root);
        change(patch, new(root, null));
        using var result = new MemoryStream();
        SplicedCopy.Write(new MemoryStream(bytes), result, patch.Build(0));
        return Encoding.UTF8.GetString(result.ToArray());
    }
}
