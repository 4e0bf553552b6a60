using OpenQA.Selenium;
using RootCall.Testing;

namespace RootCall.Browser.Tests;

/// <summary>
/// The Findings stage as an artist uses it: by keyboard from cause to cause, fixing a family, waiving, choosing where
/// the scene goes.
/// </summary>
[Collection(BrowserCollection.Name)]
public sealed class FindingsTests
{
    private readonly BrowserFixture browser;
    private readonly string id;

    public FindingsTests(BrowserFixture browser)
    {
        this.browser = browser;
        Assert.Equal(
            "done",
            browser
                .App.Ended(browser.App.Post("/api/arrivals/open", new { path = browser.Demo.At("arrived/seed_tins/seed_tins.mtlx") }))
                .GetProperty("state")
                .GetString()
        );
        id = browser.App.SceneId("seed_tins.mtlx");
        while (browser.App.Get($"/api/scenes/{id}/ledger").GetProperty("entries").GetArrayLength() > 0)
            browser.App.Post($"/api/scenes/{id}/ledger/undo");
        RunningApplication.Until(
            () =>
                browser.App.Get($"/api/scenes/{id}/audit") is var a
                && a.GetProperty("toMeasure").GetInt32() == 0
                && a.GetProperty("blockers").GetInt32() == 17,
            "the scene was not measured"
        );
        browser.Go("/findings/" + id);
        browser.SeeCall("23 findings come from nine causes");
        browser.SeeText("The clearest of 12");
    }

    [Fact]
    public void A_family_is_fixed_by_keyboard_and_the_counts_fall_and_come_back()
    {
        Assert.Empty(browser.SeriousFindings());
        Assert.Contains(
            "seed_tin_01_roughness.png feeds subsurface now, and specular_roughness after the fix",
            browser.See("//*[name()='svg'][@role='img'][contains(@aria-label, 'after the fix')]").GetDomAttribute("aria-label"),
            StringComparison.Ordinal
        );
        browser.See("//img[@alt='seed_tin_01 with the fix']");
        Assert.Matches("Now, and after the fix ?ΔE [0-9.]+", browser.See("//figure[@aria-label='How seed_tin_01 looks']").Text);
        browser.SeeText("24 edits = 12 connect + 12 disconnect");
        browser.PressShift(Keys.ArrowRight);
        browser.SeeText("2 of 12");
        browser.Press(Keys.Space);
        browser.SeeText("1 in focus");
        browser.PressShift("f");
        browser.SeeText("pending, entry 1");
        browser.PressShift("p");
        browser.SeeCall("11 findings come from eight causes");
        browser.Press("u");
        browser.SeeCall("23 findings come from nine causes");
    }

    [Fact]
    public void What_is_in_focus_is_fixed_alone_and_the_ledger_makes_a_recipe_of_it()
    {
        browser.Press(Keys.Space);
        browser.SeeText("1 in focus");
        browser.Press("f");
        browser.SeeText("1 pending");
        browser.Press("l");
        browser.SeeText("One entry since it arrived");
        browser.ClickAt("//button[@aria-label='Pick entry 1']");
        browser.SeeText("Make a recipe of this");
        Assert.Empty(browser.SeriousFindings());
        browser.ClickInSheet("Make a recipe of this");
        browser.ClickInSheet("Record it");
        browser.SeeText("Recorded");
        browser.Press(Keys.Escape);
        browser.Click("Recipes");
        browser.SeeText("Here it would");
        Assert.Empty(browser.SeriousFindings());
        browser.ClickInSheet("Remove it");
        browser.SeeText("No recipe yet");
        browser.Press(Keys.Escape);
        browser.Press("u");
    }

    [Fact]
    public void A_cause_is_waived_with_a_reason_and_the_waiver_is_taken_back()
    {
        browser.ClickAt("//nav[@aria-label='Causes']//button[contains(., 'index of refraction')]");
        browser.SeeText("specular_IOR of seed_tin_06 is 0.667");
        browser.ClickAt("//button[contains(., 'Waive with a reason')]");
        browser.See("//input[contains(@placeholder, 'meant to glow')]").SendKeys("wet paint" + Keys.Enter);
        browser.SeeCall("22 findings come from eight causes");
        browser.SeeText("Waived: wet paint");
        browser.ClickAt("//nav[@aria-label='Causes']//button[contains(., 'index of refraction')]");
        browser.ClickAt("//button[contains(., 'Take the waiver back')]");
        browser.SeeCall("23 findings come from nine causes");
    }

    [Fact]
    public void Destinations_house_rules_and_the_help_of_a_rule_open_and_change_what_is_found()
    {
        browser.ClickAt("//button[contains(., 'Why, rule')]");
        browser.SeeText("A scene that breaks it");
        Assert.Empty(browser.SeriousFindings());
        browser.Press(Keys.Escape);
        browser.Click("For: No destination");
        browser.SeeText("Comes:");
        Assert.Empty(browser.SeriousFindings());
        browser.ClickAt("//*[@role='listitem'][contains(., 'Lantern headset')]//button[contains(., 'Edit')]");
        browser.SeeText("An empty limit is none");
        Assert.Equal("2048", browser.See("//label[contains(., 'Largest side')]//input").GetDomProperty("value"));
        Assert.Empty(browser.SeriousFindings());
        browser.ClickInSheet("Back");
        browser.ClickAt("//*[@role='listitem'][contains(., 'USD preview')]//button[contains(., 'Audit for it')]");
        browser.SeeText("For: USD preview");
        browser.SeeText("which the destination does not evaluate");
        browser.ClickAt("//*[@role='listitem'][contains(., 'No destination')]//button[contains(., 'Audit for it')]");
        browser.SeeCall("23 findings come from nine causes");
        browser.Press(Keys.Escape);
        browser.Click("House rules");
        browser.SeeText("all as they ship");
        Assert.Empty(browser.SeriousFindings());
        browser.ClickAt("//button[@aria-label='A material that nothing wears: note']");
        browser.ClickAt("//*[@role='menuitem'][contains(., 'off')]");
        browser.SeeCall("22 findings come from eight causes");
        browser.ClickAt("//button[@aria-label='A material that nothing wears: off']");
        browser.ClickAt("//*[@role='menuitem'][contains(., 'note')]");
        browser.SeeCall("23 findings come from nine causes");
        browser.Press(Keys.Escape);
    }
}
