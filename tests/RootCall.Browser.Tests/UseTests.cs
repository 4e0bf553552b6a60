using OpenQA.Selenium;
using RootCall.Testing;

namespace RootCall.Browser.Tests;

/// <summary>Keyboard, screen reader, long lists, and a server that goes away.</summary>
[Collection(BrowserCollection.Name)]
public sealed class UseTests(BrowserFixture browser)
{
    [Theory]
    [InlineData("/arrivals", "scenes", null)]
    [InlineData("/muster/{corner}", "references", null)]
    [InlineData("/muster/{corner}", "references", "l")]
    [InlineData("/muster/{corner}", "references", "?")]
    [InlineData("/arrivals/{corner}", "nodes", "o")]
    [InlineData("/send-off/{corner}", "package", null)]
    public void No_screen_has_a_serious_finding(string path, string call, string? key)
    {
        browser.Go(path.Replace("{corner}", browser.App.SceneId("glasshouse_corner.gltf"), StringComparison.Ordinal));
        browser.SeeCall(call);
        if (key is not null)
        {
            browser.Press(key);
            browser.See("//*[@role='dialog']");
        }

        Thread.Sleep(600); // Drawn in once; a half-transparent text is no finding.
        Assert.Empty(browser.SeriousFindings());
    }

    [Fact]
    public void The_list_is_moved_through_picked_and_narrowed_by_keyboard()
    {
        browser.Go("/muster/" + browser.App.SceneId("glasshouse_corner.gltf"));
        browser.SeeCall("of 20 references");
        var list = browser.See("//*[@data-list='references']");
        list.SendKeys(Keys.Home);
        string Current() => list.GetAttribute("aria-activedescendant") ?? string.Empty;
        var first = Current();
        list.SendKeys("j");
        Assert.NotEqual(first, Current());
        list.SendKeys(Keys.ArrowUp);
        Assert.Equal(first, Current());
        list.SendKeys(Keys.Space);
        list.SendKeys("jj");
        new OpenQA.Selenium.Interactions.Actions(browser.Driver).KeyDown(Keys.Shift).SendKeys(Keys.Space).KeyUp(Keys.Shift).Perform();
        browser.SeeText("3 files");
        list.SendKeys(Keys.Enter);
        browser.SeeText("shown at most");
        browser.Press(Keys.Escape);

        // The focus stays while walking to another stage and back, and × takes it off.
        browser.Press("]");
        browser.SeeText("House rules");
        browser.Press("]");
        browser.SeeCall("under one light");
        browser.Press("]");
        browser.SeeCall("can cross to");
        browser.Press("]");
        browser.SeeCall("package");
        browser.SeeText("3 files");
        browser.Press("[");
        browser.SeeCall("can cross to");
        browser.Press("[");
        browser.SeeCall("under one light");
        browser.Press("[");
        browser.SeeText("House rules");
        browser.Press("[");
        browser.ClickAt("//button[@aria-label='Take 3 files off the focus']");
        browser.SeeText("whole scene");
    }

    [Fact]
    public void Picking_a_material_a_state_or_words_narrows_the_list()
    {
        browser.Go("/muster/" + browser.App.SceneId("glasshouse_corner.gltf"));
        browser.SeeCall("of 20 references");
        Assert.Equal(20, Rows());
        browser.Click("Pick materials");
        browser.ClickAt("//*[@role='option'][contains(., 'tin_leaf')]");
        browser.Press(Keys.Escape);
        RunningApplication.Until(() => Rows() == 3, "a material does not narrow the list");
        browser.ClickAt("//button[@aria-label='Take tin_leaf off the focus']");
        RunningApplication.Until(() => Rows() == 20, "taking the material off does not widen the list");
        browser.ClickAt("//*[@aria-label='States shown']//button[contains(., 'damaged')]");
        RunningApplication.Until(() => Rows() == 2, "a state does not narrow the list");
        browser.ClickAt("//*[@aria-label='States shown']//button[contains(., 'damaged')]");
        browser.Find("terracotta normal");
        RunningApplication.Until(() => Rows() == 1, "words do not narrow the list");
        // Keys sleep while text is typed: the letters above did nothing else.
        Assert.Equal(
            0,
            browser.App.Get($"/api/scenes/{browser.App.SceneId("glasshouse_corner.gltf")}/ledger").GetProperty("entries").GetArrayLength()
        );
        browser.Press(Keys.Escape);
        RunningApplication.Until(() => Rows() == 20, "Escape does not empty the find field");
    }

    [Fact]
    public void Columns_sort_and_are_chosen()
    {
        browser.Go("/muster/" + browser.App.SceneId("glasshouse_corner.gltf"));
        browser.SeeCall("of 20 references");
        string[] Names() =>
            browser
                .Evaluate<string>(
                    "return [...document.querySelectorAll('[data-list=references] [role=row] "
                        + "[role=gridcell]:nth-child(3)')].map((c) => c.textContent).join('|')"
                )
                .Split('|');
        browser.ClickAt("//*[@role='columnheader']//button[contains(., 'File')]");
        RunningApplication.Until(() => Names().SequenceEqual(Names().Order(StringComparer.OrdinalIgnoreCase)), "names are not sorted");
        browser.Click("Columns");
        browser.ClickAt("//*[@role='menuitemcheckbox'][contains(., 'Flags')]");
        browser.Press(Keys.Escape);
        browser.See("//*[@role='gridcell'][contains(., 'another computer')]");
    }

    [Fact]
    public void Twenty_thousand_references_are_listed_virtually_and_found_at_once()
    {
        var images = string.Join(
            ",",
            Enumerable
                .Range(0, 20_000)
                .Select(i => $$"""{"uri":"{{(i % 2 == 0 ? "tex" : "D:/jobs/" + (i % 40))}}/panel_{{i:00000}}.png"}""")
        );
        var path = browser.Demo.At("arrived/rows.gltf");
        File.WriteAllText(path, $$"""{"asset":{"version":"2.0"},"images":[{{images}}]}""");
        Assert.Equal("done", browser.App.Ended(browser.App.Post("/api/arrivals/open", new { path })).GetProperty("state").GetString());
        browser.Go("/muster/" + browser.App.SceneId("rows.gltf"));
        browser.SeeCall("0 of 20,000 references");
        Assert.Equal(20_000, Rows());
        Assert.InRange(browser.Evaluate<long>("return document.querySelectorAll('[data-list=references] [role=row]').length"), 5, 60);
        var list = browser.See("//*[@data-list='references']");
        list.SendKeys(Keys.End);
        browser.See("//*[@data-list='references']//*[@role='row'][contains(., 'panel_19999')]");
        browser.Find("panel_12345");
        RunningApplication.Until(() => Rows() == 1, "the one row was not found");
    }

    [Fact]
    public void Addresses_of_nothing_say_so_and_lead_on()
    {
        browser.Go($"/muster/{Guid.NewGuid()}");
        browser.SeeCall("There is no such scene");
        browser.Forgive();
        browser.Click("Go to Arrivals");
        browser.SeeCall("scenes");
    }

    private long Rows() =>
        browser.Evaluate<long>("return Number(document.querySelector('[data-list=references]').getAttribute('aria-rowcount')) - 1");
}
