using OpenQA.Selenium;
using RootCall.Testing;

namespace RootCall.Browser.Tests;

/// <summary>The ledger, the map, the roots and the settings, as they are used by hand.</summary>
[Collection(BrowserCollection.Name)]
public sealed class LedgerTests : IDisposable
{
    private readonly BrowserFixture browser;
    private readonly string id;

    public LedgerTests(BrowserFixture browser)
    {
        this.browser = browser;
        id = browser.App.SceneId("glasshouse_corner.gltf");
        Empty();
        browser.Go("/muster/" + id);
        browser.SeeCall("6 of 20 references answer. Four relinks settle 8 more; 3 are missing, 2 damaged.");
    }

    [Fact]
    public void Entries_are_unfolded_taken_back_and_undone_to_by_keyboard()
    {
        browser.PressShift("f");
        browser.SeeText("4 pending");
        browser.PressShift("p");
        browser.SeeText("4 applied");
        browser.Press("l");
        browser.SeeText("Four entries since it arrived");
        // The last one is in hand; the first unfolds with what was before and after.
        browser.Press(Keys.ArrowUp + Keys.ArrowUp + Keys.ArrowUp + Keys.Enter);
        browser.SeeText("../../../stow/metals/verdigris_basecolor.png");
        browser.SeeText("library/metals/verdigris_basecolor.png");
        browser.Press(Keys.Backspace);
        browser.SeeText("Three entries since it arrived");
        browser.Press(Keys.Home);
        browser.PressShift("u");
        browser.SeeText("One entry since it arrived");
        browser.Press(Keys.Escape);
        browser.SeeCall("of 20 references answer");
        Assert.Equal(1, Entries());
    }

    [Fact]
    public void A_bundle_narrows_the_list_and_the_focus_names_it()
    {
        browser.ClickAt("//section[@aria-label='Relocation map']//button[contains(., '2231/tex')]");
        RunningApplication.Until(() => Rows() == 3, "the list is not narrowed");
        browser.SeeText("found elsewhere, called from D:/jobs/2231/tex");
        browser.ClickAt("//button[starts-with(@aria-label, 'Take found elsewhere')]");
        RunningApplication.Until(() => Rows() == 20, "the list stays narrow");
    }

    [Fact]
    public void Relinking_obeys_the_focus_of_several_materials_and_says_so()
    {
        var elsewhere = browser
            .App.Get($"/api/scenes/{id}/muster")
            .GetProperty("references")
            .EnumerateArray()
            .Where(r => r.GetProperty("state").GetString() == "elsewhere")
            .Select(r => r.GetProperty("usedBy").EnumerateArray().Select(u => u.GetProperty("material").GetString()!).ToHashSet())
            .ToList();
        var materials = elsewhere.SelectMany(m => m).Distinct().Order().Take(2).ToList();
        var wanted = elsewhere.Count(m => m.Overlaps(materials));
        Assert.InRange(wanted, 1, elsewhere.Count - 1);
        browser.Click("Pick materials");
        foreach (var material in materials)
            browser.ClickAt($"//*[@role='option'][contains(., '{material}')]");
        browser.Press(Keys.Escape);
        browser.SeeText("2 materials");
        browser.SeeCall($"{wanted} more in focus");
        browser.SeeText("outside the focus");
        browser.Press("f");
        browser.SeeText("pending");
        RunningApplication.Until(() => Edits() == wanted, $"{Edits()} references were relinked, not the {wanted} in focus");
        RunningApplication.Until(
            () =>
            {
                // The key sleeps while the window still waits for the answer to the last one.
                browser.PressShift("f");
                return Edits() == elsewhere.Count;
            },
            "the others were not relinked"
        );
    }

    private int Edits() =>
        browser.App.Get($"/api/scenes/{id}/ledger").GetProperty("entries").EnumerateArray().Sum(e => e.GetProperty("edits").GetInt32());

    [Fact]
    public void One_reference_is_answered_by_a_file_chosen_by_hand()
    {
        browser.Find("terracotta_pot_occlusion");
        RunningApplication.Until(() => Rows() == 1, "the row was not found");
        browser.Click("Choose a file by hand");
        foreach (var step in new[] { "The Tin Orchard/", "library/", "metals/", "brass_normal.png" })
            browser.ClickInSheet(step);
        browser.ClickInSheet("Use this file");
        browser.SeeText("Decided; pending as entry 1.");
        browser.SeeText("Next: Relink terracotta_pot_occlusion.png to brass_normal.png");
    }

    [Fact]
    public void A_root_is_taken_out_and_the_scene_is_searched_again()
    {
        browser.Click("1 root");
        browser.ClickInSheet("Search again");
        RunningApplication.Until(
            () =>
                browser
                    .App.Get("/api/work")
                    .EnumerateArray()
                    .Any(w => w.GetProperty("kind").GetString() == "search" && w.GetProperty("state").GetString() == "done"),
            "the search did not end"
        );
        Assert.Equal(1, browser.App.Get("/api/roots").GetArrayLength());
        browser.SeeCall("Four relinks");
    }

    [Fact]
    public void Single_keys_can_be_turned_off_and_rows_made_roomy()
    {
        browser.Press("?");
        browser.SeeText("Keys of this screen");
        browser.ClickAt("//label[contains(., 'Roomy rows')]//button");
        browser.ClickAt("//label[contains(., 'Single keys')]//button");
        browser.Press(Keys.Escape);
        RunningApplication.Until(
            () => browser.Evaluate<long>("return document.querySelector('[data-list=references] [role=row][id]').offsetHeight") == 30,
            "rows are not roomy"
        );
        browser.Press("f");
        Thread.Sleep(500);
        Assert.Equal(0, Entries());
        browser.Driver.ExecuteScript("localStorage.removeItem('rootcall')");
    }

    [Fact]
    public void What_another_window_decides_shows_after_a_reload_and_not_before_it_is_asked_for()
    {
        var bundle = browser.App.Get($"/api/scenes/{id}/muster").GetProperty("bundles")[0];
        browser.App.Post(
            $"/api/scenes/{id}/ledger/entries",
            new { from = bundle.GetProperty("from").GetString(), to = bundle.GetProperty("to")[0].GetProperty("path").GetString() }
        );
        browser.Driver.Navigate().Refresh();
        browser.SeeText("1 pending");
        browser.SeeCall("Three relinks settle 5 more");
    }

    [Fact]
    public void At_1920_pixels_the_same_screen_uses_the_width()
    {
        var size = new Dictionary<string, object?>
        {
            ["width"] = 1920,
            ["height"] = 1080,
            ["deviceScaleFactor"] = 1,
            ["mobile"] = false,
        };
        browser.Driver.ExecuteCdpCommand("Emulation.setDeviceMetricsOverride", size);
        try
        {
            RunningApplication.Until(
                () => browser.Evaluate<long>("return document.querySelector('[aria-label=Evidence]').getBoundingClientRect().right") > 1850,
                "the evidence stays where it was"
            );
            // Nothing reaches past the window, and the frame does not scroll.
            Assert.Equal(1920, browser.Evaluate<long>("return document.documentElement.scrollWidth"));
            Assert.Equal(1080, browser.Evaluate<long>("return document.documentElement.scrollHeight"));
        }
        finally
        {
            size["width"] = 1280;
            size["height"] = 800;
            browser.Driver.ExecuteCdpCommand("Emulation.setDeviceMetricsOverride", size);
        }
    }

    [Fact]
    public void Labels_on_the_map_stay_inside_it_and_never_overlap()
    {
        const string Script = """
            const map = document.querySelector('[aria-label="Relocation map"]').getBoundingClientRect();
            const buttons = document.querySelectorAll('[aria-label="Relocation map"] button[aria-pressed]');
            const labels = [...buttons].map((b) => b.getBoundingClientRect());
            return labels.every((l) => l.bottom <= map.bottom + 1) && labels.slice(1).every((l, i) => l.top >= labels[i].bottom - 1);
            """;
        Assert.True(browser.Evaluate<bool>(Script));
    }

    public void Dispose() => Empty();

    private void Empty()
    {
        while (Entries() > 0)
            browser.App.Post($"/api/scenes/{id}/ledger/undo");
    }

    private int Entries() => browser.App.Get($"/api/scenes/{id}/ledger").GetProperty("entries").GetArrayLength();

    private long Rows() =>
        browser.Evaluate<long>("return Number(document.querySelector('[data-list=references]').getAttribute('aria-rowcount')) - 1");
}
