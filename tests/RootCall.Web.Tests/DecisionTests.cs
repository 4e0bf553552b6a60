using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using RootCall.Data;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>From the muster through the ledger to a proven package, over HTTP and PostgreSQL.</summary>
[Collection(ApplicationCollection.Name)]
public sealed class DecisionTests(ApplicationFixture fixture)
{
    private readonly RunningApplication app = fixture.App;

    [Fact]
    public void A_rule_is_approved_undone_approved_again_applied_and_packed()
    {
        var id = fixture.Open("arrived/brass_lamp/brass_lamp.glb");
        Assert.Equal(3, Muster(id).GetProperty("answering").GetInt32());
        var rule = Muster(id).GetProperty("bundles")[0];
        Assert.Equal(
            ("elsewhere", "//stow04/lib/metals", "library/metals"),
            (Text(rule, "state"), Text(rule, "from"), Text(rule.GetProperty("to")[0], "name"))
        );

        Approve(id, rule);
        Assert.Equal(3, Muster(id).GetProperty("answering").GetInt32());
        Assert.Equal(1, Muster(id).GetProperty("bundles")[0].GetProperty("entry").GetInt32());
        Assert.Equal(0, app.Post($"/api/scenes/{id}/ledger/undo").GetProperty("entries").GetArrayLength());
        var ledger = Approve(id, rule);
        Assert.Equal("Relink 3 references, //stow04/lib/metals to library/metals", Text(ledger.GetProperty("entries")[0], "sentence"));
        app.Post($"/api/scenes/{id}/ledger/apply");
        // The list waits for nobody: it says what was counted last, and soon the new number.
        RunningApplication.Until(() => Unanswered(id) == 0, "the list does not count what was applied");
        Assert.Equal(6, Muster(id).GetProperty("answering").GetInt32());

        var plan = app.Get($"/api/scenes/{id}/send-off");
        Assert.Equal(0, plan.GetProperty("unresolved").GetArrayLength());
        Assert.Equal("done", Text(app.Ended(app.Post($"/api/scenes/{id}/packages", new { zip = true, allowMissing = false })), "state"));
        var package = app.Get($"/api/scenes/{id}/send-off").GetProperty("packages")[0];
        Assert.Equal((6, 0), (package.GetProperty("resolved").GetInt32(), package.GetProperty("unresolved").GetArrayLength()));
        using var place = new Place();
        var zip = place.Put("p.zip", app.Client.GetByteArrayAsync($"/api/packages/{Text(package, "id")}/download").Result);
        Assert.Equal(0, Tool.RootCall("muster", zip).Status);
    }

    private int Unanswered(string id) =>
        app.Get("/api/scenes").EnumerateArray().Single(s => Text(s, "id") == id).GetProperty("unanswered").GetInt32();

    [Fact]
    public void A_package_with_missing_files_is_built_only_when_somebody_says_so()
    {
        var id = fixture.Open("arrived/glasshouse_corner/glasshouse_corner.gltf");
        var refused = app.Ended(app.Post($"/api/scenes/{id}/packages", new { zip = true, allowMissing = false }));
        Assert.Contains("stay unanswered", Text(refused, "error"), StringComparison.Ordinal);
        Assert.Equal("done", Text(app.Ended(app.Post($"/api/scenes/{id}/packages", new { zip = false, allowMissing = true })), "state"));
        var package = app.Get($"/api/scenes/{id}/send-off").GetProperty("packages")[0];
        Assert.Contains(package.GetProperty("unresolved").EnumerateArray(), u =>
            u.GetString() == "missing E:/scans/glaze/glaze_normal.png"
        );
    }

    [Fact]
    public void A_contest_is_decided_by_a_folder_and_a_missing_file_by_hand()
    {
        var id = fixture.Open("arrived/enamel_sign/enamel_sign.obj");
        var contested = Muster(id)
            .GetProperty("references")
            .EnumerateArray()
            .Single(r => Text(r, "state") == "contested")
            .GetProperty("number")
            .GetInt32();
        var evidence = app.Get($"/api/scenes/{id}/references/{contested}");
        Assert.Equal(0.14, evidence.GetProperty("margin").GetDouble());
        var wip = evidence.GetProperty("candidates")[1];
        Assert.Equal("library/tin-orchard/wip/signs", Text(wip, "folderName"));
        app.Post($"/api/scenes/{id}/ledger/entries", new { numbers = new[] { contested }, folder = Text(wip, "folder") });
        var after = app.Post(
            $"/api/scenes/{id}/ledger/entries",
            new { number = contested, path = Path.Combine(fixture.Demo.Library, "metals/brass_normal.png") }
        );
        Assert.Equal(2, after.GetProperty("pending").GetInt32());

        // The second stands on the first, so the first cannot be taken back alone.
        var first = Text(after.GetProperty("entries")[0], "id");
        var refused = app.Client.PostAsJsonAsync($"/api/scenes/{id}/ledger/take-back/{first}", new { }).Result;
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Equal(1, app.Post($"/api/scenes/{id}/ledger/undo-to/{first}").GetProperty("pending").GetInt32());
        var outside = app
            .Client.PostAsJsonAsync($"/api/scenes/{id}/ledger/entries", new { number = contested, path = fixture.Outside.At("secret.png") })
            .Result;
        Assert.Contains("no file inside the roots", outside.Content.ReadAsStringAsync().Result, StringComparison.Ordinal);
        Assert.Equal(0, app.Post($"/api/scenes/{id}/ledger/undo").GetProperty("pending").GetInt32());
    }

    [Fact]
    public void Applying_a_library_reads_it_and_its_calls_turn_up_and_undo_takes_them_away()
    {
        var id = fixture.Open("arrived/enamel_sign/enamel_sign.obj");
        var library = Muster(id)
            .GetProperty("bundles")
            .EnumerateArray()
            .Single(b => Text(b, "state") == "elsewhere" && Text(b.GetProperty("to")[0], "name").EndsWith("mtl", StringComparison.Ordinal));
        Approve(id, library);
        app.Post($"/api/scenes/{id}/ledger/apply");
        RunningApplication.Until(() => Muster(id).GetProperty("references").GetArrayLength() == 10, "the library was not read");
        Assert.Contains(Muster(id).GetProperty("references").EnumerateArray(), r =>
            Text(r, "written") == "../tex/chain_iron_normal.png" && Text(r, "state") == "present"
        );
        app.Post($"/api/scenes/{id}/ledger/undo");
        RunningApplication.Until(() => Muster(id).GetProperty("references").GetArrayLength() == 8, "the library's calls stayed");
    }

    [Fact]
    public void A_root_that_is_added_is_searched_and_one_taken_out_no_longer_answers()
    {
        using var scene = new Place();
        var id = fixture.Open("arrived/glasshouse_corner/glasshouse_corner.gltf");
        var root = app.Post("/api/roots", new { folder = fixture.Demo.At("clean") });
        app.Ended(app.Post($"/api/scenes/{id}/search"));
        Assert.Contains(Muster(id).GetProperty("references").EnumerateArray(), r =>
            Text(r, "name") == "terracotta_pot_occlusion.png" && Text(r, "state") == "elsewhere"
        );
        Assert.Equal(HttpStatusCode.NoContent, app.Client.DeleteAsync("/api/roots/" + Text(root, "id")).Result.StatusCode);
        app.Ended(app.Post($"/api/scenes/{id}/search"));
        Assert.Contains(Muster(id).GetProperty("references").EnumerateArray(), r =>
            Text(r, "name") == "terracotta_pot_occlusion.png" && Text(r, "state") == "missing"
        );
    }

    [Fact]
    public void The_migrations_are_the_model()
    {
        using var db = new RootCallDb(
            new DbContextOptionsBuilder<RootCallDb>().UseNpgsql(app.Database).UseSnakeCaseNamingConvention().Options
        );
        Assert.False(db.Database.HasPendingModelChanges());
        Assert.Empty(db.Database.GetPendingMigrations());
    }

    private JsonElement Muster(string id) => app.Get($"/api/scenes/{id}/muster");

    private JsonElement Approve(string id, JsonElement bundle) =>
        app.Post($"/api/scenes/{id}/ledger/entries", new { from = Text(bundle, "from"), to = Text(bundle.GetProperty("to")[0], "path") });

    private static string Text(JsonElement element, string name) => element.GetProperty(name).GetString()!;
}
