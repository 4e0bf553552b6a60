using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Core.Tests.Law;
using RootCall.Testing;

namespace RootCall.Core.Tests.Files;

/// <summary>JSON that people keep, read and written by generated code: nothing that a text leaves out is nothing afterwards.</summary>
public sealed class KeptJsonTests : IDisposable
{
    private readonly Place place = new();

    public void Dispose() => place.Dispose();

    /// <summary>The library's other way, which looks at types while it runs, is the yardstick.</summary>
    private static readonly JsonSerializerOptions ByReflection = new(JsonSerializerDefaults.Web)
    {
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        IgnoreReadOnlyProperties = true,
        NumberHandling = JsonNumberHandling.AllowNamedFloatingPointLiterals,
        Converters = { new ColourSpaceConverter(), new ChannelsConverter(), new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower) },
    };

    [Fact]
    public void A_destination_of_two_words_forbids_nothing()
    {
        var read = DestinationFiles.Read("""{ "id": "shelf", "name": "Shelf" }""", "shelf.json");
        Assert.Equal(Destination.Plain with { Id = "shelf", Name = "Shelf", Description = "" }, read);
        Assert.All([read.Models, read.Features, read.AlphaModes, read.ImageFormats], list => Assert.True(list.IsEmpty));
        Assert.True(read.Switches.IsEmpty && read.ColourSpaces.IsEmpty && read.Udim && read.VertexColours);
        Assert.Equal(new NameLimits(), read.Names);
        Assert.True(read.Can("displacement"));
    }

    [Fact]
    public void Parts_of_a_destination_may_be_left_out_too()
    {
        var read = DestinationFiles.Read(
            """
            {
              // An old screen in the porch.
              "id": "porch", "name": "Porch", "udim": false, "normalConvention": "y-down", "colourSpaces": ["srgb", "acescg"],
              "switches": [{ "switch": "glass", "on": false, "features": ["transmission"] }],
              "names": { "mostBytes": 31 },
            }
            """,
            "porch.json"
        );
        Assert.False(read.Udim);
        Assert.True(read.VertexColours);
        Assert.Equal(NormalConvention.YDown, read.NormalConvention);
        Assert.Equal([ColourSpace.Srgb, ColourSpace.AcesCg], read.ColourSpaces.AsEnumerable());
        Assert.Equal(("", 31, false), (read.Names.Forbidden, read.Names.MostBytes, read.Names.CountsBytes));
        Assert.Equal(string.Empty, Assert.Single(read.Switches).Advice);
        Assert.Equal(read, DestinationFiles.Read(DestinationFiles.Write(read), "again"));
    }

    [Theory]
    [InlineData("""{ "id": "a" """, "d.json is no destination, line 1")]
    [InlineData("{\n  \"id\": \"a\",\n  \"name\": \"A\",\n  \"udims\": true\n}", "d.json is no destination, line 4")]
    [InlineData("""{ "id": "a", "name": "A", "normalConvention": "left" }""", "d.json is no destination, line 1")]
    [InlineData("""{ "id": "a", "name": "A", "colourSpaces": ["mauve"] }""", "names a colour space that is not known")]
    [InlineData("""{ "id": "", "name": "A" }""", "has no id or no name")]
    [InlineData("null", "d.json is empty; a destination is expected.")]
    public void What_is_no_destination_says_where(string json, string says) =>
        Assert.Contains(
            says,
            Assert.Throws<CannotUseException>(() => DestinationFiles.Read(json, "d.json")).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void House_rules_that_say_nothing_are_those_that_ship()
    {
        var read = HouseRules.Read("{}", "house.json");
        Assert.Equal(HouseRules.Standard.Write(), read.Write());
        Assert.True(read.IsOn("wiring.height-as-normal"));
        Assert.Null(read.Pattern("material"));
        var some = HouseRules.Read("""{ "severities": { "naming": "off" }, "shaderTypes": [] }""", "house.json");
        Assert.False(some.IsOn("naming.pattern"));
        Assert.Empty(some.Thresholds);
        Assert.Equal(string.Empty, some.Name);
    }

    [Fact]
    public void A_recipe_takes_its_defaults_for_what_it_leaves_out()
    {
        var read = Recipe.Read(
            """{ "name": "gloss", "steps": [{ "rule": "wiring.gloss-as-roughness" }, { "set": { "input": "coat", "numbers": [0] } }] }""",
            "gloss.json"
        );
        Assert.Equal((Recipe.CurrentVersion, string.Empty, string.Empty), (read.Version, read.Description, read.Source));
        Assert.All(read.Steps, s => Assert.Equal(new RecipeMatch(), s.Match));
        Assert.Equal(read.Write(), Recipe.Read(read.Write(), "again").Write());
        Assert.Contains(
            "reads up to 1",
            Assert.Throws<CannotUseException>(() => Recipe.Read("""{ "name": "x", "version": 2, "steps": [] }""", "x.json")).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_ledger_written_by_hand_may_name_an_image_and_no_more()
    {
        const string json = """
            [{ "id": "6f8a3c1e-1111-4222-8333-944455556666", "sentence": "by hand", "edits": [{ "type": "image", "material": "tin",
              "input": "roughness", "to": { "reference": { "kind": "image", "file": "s.gltf", "written": "r.png" }, "channels": "g" } }],
              "state": "pending", "proposedBy": "somebody", "at": "2026-01-02T03:04:05+00:00" },
             { "id": "6f8a3c1e-1111-4222-8333-944455556667",
               "sentence": "nothing", "proposedBy": "somebody", "at": "2026-01-02T03:04:05+00:00" }]
            """;
        var entries = LedgerFile.Read(Encoding.UTF8.GetBytes(json), "l.json");
        var use = Assert.IsType<SetImage>(Assert.Single(entries[0].Edits)).To!;
        Assert.Equal((Channels.G, UvTransform.Identity, WrapMode.Repeat, ""), (use.Channels, use.Transform, use.WrapU, use.DeclaredSpace));
        Assert.True(use.Scale.IsEmpty && use.Bias.IsEmpty && use.Default.IsEmpty);
        Assert.True(entries[1].Edits.IsEmpty && entries[1].Fixed.IsEmpty);
        Assert.All(entries, e => Assert.Equal(EntryState.Applied, e.State));
    }

    [Theory]
    [InlineData("""[{ "edits": [{ "type": "melt" }] }]""")]
    [InlineData("""[{ "edits": [{ "type": "image", "to": { "reference": {}, "channels": "q" } }] }]""")]
    [InlineData("[1, 2]")]
    [InlineData("{ \"edits\": [] }")]
    public void What_is_no_ledger_is_refused_in_one_sentence(string json)
    {
        var message = Assert.Throws<CannotUseException>(() => LedgerFile.Read(Encoding.UTF8.GetBytes(json), "l.json")).Message;
        Assert.StartsWith("l.json is no ledger", message, StringComparison.Ordinal);
        Assert.DoesNotContain('\n', message);
    }

    [Fact]
    public void What_ships_is_written_as_the_library_writes_it_by_itself()
    {
        Assert.All(DestinationFiles.Shipped, d => Same(d, DestinationFiles.Write(d)));
        var house = new HouseRules
        {
            Name = "The Tin Orchard",
            Severities = HouseRules.Standard.Severities.Add("naming", "off"),
            Thresholds = HouseRules.Standard.Thresholds.Add("sets.mixed-resolution/most", 4),
        };
        Same(house, house.Write());
    }

    [Fact]
    public void Ledgers_of_every_kind_of_edit_are_written_as_the_library_writes_them_and_read_back()
    {
        var picture = place.PutPng("picture.png", 9);
        foreach (var source in OwnScenes.All(place))
        {
            var maker = new EditMaker(new Random(4711), picture);
            var session = TestSession.Open(source, Look.Context(source, place.Folder));
            while (session.Edited.Entries.Count() < 60 && maker.Next(session.Current) is { } edit)
                session = session.And(TestSession.Entry(edit, edit.Invert(session.Current)));
            var entries = session.Edited.Entries.ToList();
            var written = LedgerFile.Write(entries);
            Same(entries, Encoding.UTF8.GetString(written));
            var read = LedgerFile.Read(written, "ledger");
            Assert.Equal(Encoding.UTF8.GetString(written), Encoding.UTF8.GetString(LedgerFile.Write(read)));
            Assert.Empty(SceneComparison.Differences(session.Current, TestSession.Open(source, session.Context).With(read).Current));
        }
    }

    private static void Same<T>(T value, string written) =>
        Assert.Null(Difference(JsonSerializer.SerializeToNode(value, ByReflection), JsonNode.Parse(written), "$"));

    /// <summary>Where two documents part, in a sentence.</summary>
    private static string? Difference(JsonNode? a, JsonNode? b, string at) =>
        (a, b) switch
        {
            _ when JsonNode.DeepEquals(a, b) => null,
            (JsonObject x, JsonObject y) => x.Select(p => p.Key)
                .Union(y.Select(p => p.Key))
                .Select(k => Difference(x[k], y[k], $"{at}.{k}"))
                .FirstOrDefault(d => d is not null),
            (JsonArray x, JsonArray y) when x.Count == y.Count => x.Select((v, i) => Difference(v, y[i], $"{at}[{i}]"))
                .FirstOrDefault(d => d is not null),
            _ => $"{at}: {a?.ToJsonString()} and {b?.ToJsonString()}",
        };
}
