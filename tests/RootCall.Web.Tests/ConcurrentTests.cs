using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>Many hands on one scene: independent decisions all go in, and no result is stored over a newer one.</summary>
[Collection(ApplicationCollection.Name)]
public sealed class ConcurrentTests(ApplicationFixture fixture)
{
    private const string Scene = "arrived/glasshouse_corner/glasshouse_corner.gltf";
    private readonly RunningApplication app = fixture.App;

    [Fact]
    public async Task Independent_decisions_made_at_once_all_go_in()
    {
        var (id, decisions) = Undecided();
        Assert.True(decisions.Count >= 3, $"only {decisions.Count} references can be decided");
        var answers = await Task.WhenAll(decisions.Select(d => Decide(id, d)));
        Assert.All(answers, a => Assert.Equal(HttpStatusCode.OK, a));
        var ledger = app.Get($"/api/scenes/{id}/ledger");
        Assert.Equal(decisions.Count, ledger.GetProperty("pending").GetInt32());
        Assert.Equal(
            Enumerable.Range(1, decisions.Count),
            ledger.GetProperty("entries").EnumerateArray().Select(e => e.GetProperty("place").GetInt32())
        );
        app.Post($"/api/scenes/{id}/ledger/apply");
        var muster = app.Get($"/api/scenes/{id}/muster");
        foreach (var decision in decisions)
            Assert.Equal("present", Text(Reference(muster, decision.Number), "state"));
    }

    [Fact]
    public async Task Two_decisions_about_one_reference_made_at_once_leave_one_answer()
    {
        var (id, decisions) = Undecided();
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => Decide(id, decisions[0])));
        Assert.All(answers, a => Assert.True((int)a < 500, $"{a}"));
        Assert.Contains(HttpStatusCode.OK, answers);
        app.Post($"/api/scenes/{id}/ledger/apply");
        var reference = Reference(app.Get($"/api/scenes/{id}/muster"), decisions[0].Number);
        Assert.Equal("present", Text(reference, "state"));
    }

    [Fact]
    public async Task Undo_by_many_hands_ends_where_the_scene_arrived()
    {
        var (id, decisions) = Undecided();
        await Task.WhenAll(decisions.Select(d => Decide(id, d)));
        var answers = await Task.WhenAll(
            Enumerable.Range(0, decisions.Count + 3).Select(_ => app.Client.PostAsJsonAsync($"/api/scenes/{id}/ledger/undo", new { }))
        );
        Assert.All(answers, a => Assert.True((int)a.StatusCode < 500, $"{a.StatusCode}"));
        Assert.Equal(0, app.Get($"/api/scenes/{id}/ledger").GetProperty("entries").GetArrayLength());
        Assert.Equal(decisions.Select(d => d.Number), Elsewhere(app.Get($"/api/scenes/{id}/muster")));
    }

    [Fact]
    public async Task Searches_that_overlap_each_other_and_a_decision_lose_nothing()
    {
        var (id, decisions) = Undecided();
        var before = Numbers(app.Get($"/api/scenes/{id}/muster"));
        var searches = Enumerable.Range(0, 3).Select(_ => app.Post($"/api/scenes/{id}/search")).ToList();
        Assert.Equal(HttpStatusCode.OK, await Decide(id, decisions[0]));
        app.Post($"/api/scenes/{id}/ledger/apply");
        foreach (var search in searches)
            Assert.Equal("done", Text(app.Ended(search), "state"));
        var muster = app.Get($"/api/scenes/{id}/muster");
        Assert.Equal(before, Numbers(muster));
        Assert.Equal("present", Text(Reference(muster, decisions[0].Number), "state"));
        Assert.Equal(1, app.Get($"/api/scenes/{id}/ledger").GetProperty("applied").GetInt32());
    }

    private (string Id, List<(int Number, string Folder)> Decisions) Undecided()
    {
        var id = fixture.Open(Scene);
        return (
            id,
            [
                .. Elsewhere(app.Get($"/api/scenes/{id}/muster"))
                    .Select(n =>
                        (n, Text(app.Get($"/api/scenes/{id}/references/{n}").GetProperty("candidates").EnumerateArray().First(), "folder"))
                    ),
            ]
        );
    }

    private async Task<HttpStatusCode> Decide(string id, (int Number, string Folder) decision) =>
        (
            await app.Client.PostAsJsonAsync(
                $"/api/scenes/{id}/ledger/entries",
                new { numbers = new[] { decision.Number }, folder = decision.Folder }
            )
        ).StatusCode;

    private static List<int> Elsewhere(JsonElement muster) =>
        [
            .. muster
                .GetProperty("references")
                .EnumerateArray()
                .Where(r => Text(r, "state") == "elsewhere")
                .Select(r => r.GetProperty("number").GetInt32()),
        ];

    private static List<int> Numbers(JsonElement muster) =>
        [.. muster.GetProperty("references").EnumerateArray().Select(r => r.GetProperty("number").GetInt32()).Order()];

    private static JsonElement Reference(JsonElement muster, int number) =>
        muster.GetProperty("references").EnumerateArray().Single(r => r.GetProperty("number").GetInt32() == number);

    private static string Text(JsonElement element, string name) => element.GetProperty(name).GetString()!;
}
