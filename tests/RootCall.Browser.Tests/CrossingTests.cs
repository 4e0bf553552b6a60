using System.Net.Http.Json;
using OpenQA.Selenium;
using RootCall.Testing;

namespace RootCall.Browser.Tests;

/// <summary>Stage five by hand: measure, look, override, take over, wear, sweep, undo.</summary>
[Collection(BrowserCollection.Name)]
public sealed class CrossingTests
{
    private readonly BrowserFixture browser;

    public CrossingTests(BrowserFixture browser)
    {
        this.browser = browser;
        var opened = browser.App.Post("/api/arrivals/open", new { path = browser.Demo.At("clean/lean_to/lean_to.usda") });
        browser.App.Ended(opened);
        var id = browser.App.SceneId("lean_to.usda");
        browser.App.Settled(id);
        browser.Go("/crossing/" + id);
        browser.SeeCall("7 materials can cross to OpenPBR");
    }

    [Fact]
    public void Looks_are_measured_held_beside_each_other_overridden_taken_over_worn_and_swept_out()
    {
        browser.PressShift("m");
        RunningApplication.Until(() => browser.Call.Contains("within the limit", StringComparison.Ordinal), "nothing was measured", 120);
        RunningApplication.Until(() => Measured == 7, "not all were measured", 120);
        var means = browser.Evaluate<string>(
            "return [...document.querySelectorAll('[aria-label=\"Materials, the farthest moved first\"] button')]"
                + ".map((b) => b.ariaLabel.split('ΔE ')[1] ?? '').join()"
        );
        Assert.Equal(string.Join(',', means.Split(',').OrderDescending()), means);

        // The wipe moves by keys, and the difference is drawn with its lines.
        browser.See("//figure[starts-with(@aria-label, 'Where the two looks of')]");
        var wipe = browser.See("//*[@role='slider'][starts-with(@aria-label, 'Wipe between arrived')]");
        wipe.SendKeys(Keys.ArrowRight + Keys.ArrowRight);
        RunningApplication.Until(() => wipe.GetDomAttribute("aria-valuenow") == "60", "the wipe did not move");
        RunningApplication.Until(
            () => browser.Evaluate<string>("return document.querySelector('dl')?.innerText ?? ''").Contains('.', StringComparison.Ordinal),
            "no difference is told",
            60
        );
        RunningApplication.Until(
            () =>
                browser.Evaluate<int>(
                    "const c = document.querySelector('figure canvas');"
                        + "return c.getContext('2d').getImageData(c.width / 2, c.height / 2, 1, 1).data[3]"
                ) > 0,
            "the picture of the difference is not drawn",
            60
        );
        Assert.Empty(browser.SeriousFindings());

        // The best fit is looked for when somebody wants to see it.
        browser.Press("b");
        browser.See("//*[@role='radio'][@aria-checked='true'][starts-with(., 'best fit')]");
        browser.Press("b");
        browser.See("//*[@role='radio'][@aria-checked='true'][. = 'formula']");
        // The whole scene before and after; nothing of it is taken over.
        browser.Press("d");
        browser.ClickInSheet("Draw both");
        browser.See("//*[@data-frames='mean']");
        const string Shown = "return [...document.querySelectorAll('[role=dialog] img')].filter((i) => i.naturalWidth > 0).length";
        RunningApplication.Until(() => browser.Evaluate<int>(Shown) == 3, "the frames are not shown");
        Assert.Empty(browser.SeriousFindings());
        browser.Press(Keys.Escape);
        // The scene in another format, beside nothing that is there.
        var sent = Directory.CreateDirectory(browser.Demo.At("sent")).FullName;
        browser.App.Post("/api/roots", new { folder = sent });
        var root = browser.App.Get("/api/roots").EnumerateArray().First(r => r.GetProperty("folder").GetString() == sent);
        var output = new { purpose = "output" };
        browser.App.Client.PatchAsJsonAsync($"/api/roots/{root.GetProperty("id").GetGuid()}", output).Result.EnsureSuccessStatusCode();
        browser.Click("Write as");
        browser.ClickAt("//*[@role='dialog']//button[starts-with(@aria-label, 'Written as')]");
        browser.ClickAt("//*[@role='menuitemradio'][starts-with(., 'GLB')]");
        browser.SeeText("7 looks are carried to it");
        Assert.Empty(browser.SeriousFindings());
        browser.ClickInSheet("Write it");
        Assert.True(File.Exists(browser.See("//*[@data-written]").GetDomAttribute("data-written")));
        browser.App.Client.DeleteAsync($"/api/roots/{root.GetProperty("id").GetGuid()}").Wait();
        browser.Press(Keys.Escape);
        browser.ClickAt("//button[contains(@aria-label, 'specular_roughness is')]");
        browser.See("//input[@aria-invalid]").SendKeys(Keys.Control + "a" + Keys.Null + "0.9" + Keys.Enter);
        browser.SeeText("set by hand");

        browser.Press("t");
        browser.SeeText("pending, entry 1");
        browser.PressShift("p");
        browser.SeeText("taken over as");
        browser.PressShift("f");
        browser.SeeText("1 pending");
        browser.PressShift("p");
        browser.SeeCall("All 7 are carried to OpenPBR");
        browser.SeeText("Wear the arrived looks");
        browser.Press("y");
        browser.SeeText("1 pending");
        browser.PressShift("p");
        browser.SeeText("Wear the crossed looks");
        browser.Press("u");
        browser.SeeText("Sweep 7 originals out");
        browser.ClickAt("//button[starts-with(., 'Sweep 7')]");
        browser.SeeText("1 pending");
        browser.PressShift("p");
        browser.SeeCall("Nothing has to cross to OpenPBR");
        Assert.Empty(browser.SeriousFindings());
        browser.Press("u");
        browser.SeeCall("All 7 are carried");
        browser.Press("u");
        browser.SeeCall("6 of 6 materials cross within the limit");
        browser.Press("u");
        browser.SeeCall("7 of 7 materials cross within the limit");
    }

    private int Measured =>
        browser.Evaluate<int>(
            "return [...document.querySelectorAll('[aria-label=\"Materials, the farthest moved first\"] button')]"
                + ".filter((b) => b.ariaLabel.includes('mean ΔE')).length"
        );
}
