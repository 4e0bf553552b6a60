using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using RootCall.Testing;

namespace RootCall.Browser.Tests;

/// <summary>Two moments of a scene, or of two scenes, held beside each other on the Bench.</summary>
[Collection(BrowserCollection.Name)]
public sealed class MomentTests(BrowserFixture browser)
{
    private readonly RunningApplication app = browser.App;

    [Fact]
    public void Arrived_and_now_another_entry_and_another_scene_are_wiped_over_each_other()
    {
        var other = Open("weathered_pot.gltf", "0.1,0.5,0.1");
        var id = Open("plain_pot.gltf", "0.8,0.2,0.1");
        Set(id, 0.1, 0.1, 0.9);
        Set(id, 0.1, 0.1, 0.1);
        browser.Go("/bench/" + id);
        browser.SeeCall("2 materials under one light");
        browser.Press("v");
        Assert.True(Mean() > 5, "blue beside red is not told apart");
        var wipe = browser.See("//*[@role='slider'][@aria-label='Wipe between arrived and now']");
        new Actions(browser.Driver).MoveToElement(wipe).ClickAndHold().MoveByOffset(60, 0).Release().Perform();
        RunningApplication.Until(() => At(wipe) > 55, "the line was not dragged");
        var before = At(wipe);
        wipe.SendKeys(Keys.ArrowLeft);
        RunningApplication.Until(() => At(wipe) == before - 5, "the line does not obey its keys");
        browser.See("//canvas[contains(@aria-label, 'lie apart')]");
        Assert.Empty(browser.SeriousFindings());

        // An entry beside what follows it, and the same beside itself.
        Choose("The first moment", "after entry 2");
        RunningApplication.Until(() => Figure() == "0.0", "the last entry is not what is now");
        Choose("The first moment", "after entry 1");
        RunningApplication.Until(() => double.TryParse(Figure(), out var mean) && mean > 5, "an entry is not told from the next");

        // Another scene's material of that name; the one in hand is another's when it has none.
        Choose("The second moment", "weathered_pot.gltf");
        browser.See("//*[@role='slider'][@aria-label='Wipe between after entry 1 and weathered_pot.gltf']");
        RunningApplication.Until(() => double.TryParse(Figure(), out var mean) && mean > 5, "another scene looks the same");
        Assert.Contains(other, browser.Driver.Url, StringComparison.Ordinal);
        browser.Driver.Navigate().Refresh();
        browser.See("//*[@role='slider'][@aria-label='Wipe between after entry 1 and weathered_pot.gltf']");

        // Those in focus, each with its own distance.
        Choose("The second moment", "now");
        // Space would open the list again.
        RunningApplication.Until(
            () => browser.Evaluate<bool>("return document.activeElement?.getAttribute('aria-label') === 'The second moment'"),
            "the list did not close"
        );
        browser.Driver.ExecuteScript("document.activeElement.blur()");
        browser.PressShift(Keys.Space);
        browser.Press("j");
        browser.PressShift(Keys.Space);
        browser.See("//ul[@aria-label='In focus']//button[contains(., 'ΔE 0.0')]");
        browser.See("//button[@role='radio'][. = 'flicker']").Click();
        browser.See("//button[. = 'hold']");
        browser.See("//button[@role='radio'][. = 'wipe']").Click();
        browser.Press(Keys.Escape);
        browser.See("//*[@role='grid'][@aria-label='Materials']");
    }

    [Fact]
    public void The_whole_scene_is_drawn_at_two_moments()
    {
        var path = browser.Demo.At("arrived/brass_lamp/brass_lamp.glb");
        var id = app.Get("/api/scenes")
            .EnumerateArray()
            .First(s => s.GetProperty("path").GetString() == path)
            .GetProperty("id")
            .GetString()!;
        browser.Go("/bench/" + id + "?show=compare&of=frame");
        browser.See("//button[contains(., 'Draw both')]");
        browser.Press("d");
        browser.See("//*[@role='status'][@aria-label='Drawing both moments']");
        RunningApplication.Until(
            () => browser.Evaluate<string>("return document.querySelector('[data-frames=mean]')?.innerText ?? ''") == "0.0",
            "the frames were not drawn, or differ",
            120
        );
        browser.See("//*[@role='slider'][@aria-label='Wipe between arrived and now']");
        Assert.Empty(browser.SeriousFindings());
    }

    private double Mean()
    {
        RunningApplication.Until(() => double.TryParse(Figure(), out _), "no difference is told", 90);
        return double.Parse(Figure(), System.Globalization.CultureInfo.InvariantCulture);
    }

    private string Figure() =>
        browser.Evaluate<string>(
            "return [...document.querySelectorAll('dl > div')].find((d) => d.innerText.includes('mean'))"
                + "?.querySelector('dd')?.innerText ?? ''"
        );

    private static int At(IWebElement wipe) =>
        int.Parse(wipe.GetAttribute("aria-valuenow")!, System.Globalization.CultureInfo.InvariantCulture);

    private void Choose(string label, string option)
    {
        browser.ClickAt($"//*[@role='combobox'][@aria-label='{label}']");
        browser.ClickAt($"//*[@role='option'][contains(., '{option}')]");
    }

    private void Set(string id, params double[] colour)
    {
        var values = new Dictionary<string, double[]> { ["baseColor"] = colour };
        app.Post($"/api/scenes/{id}/bench/values", new { material = "pot", values });
        app.Post($"/api/scenes/{id}/ledger/apply", new { });
    }

    private string Open(string name, string colour) =>
        browser.Open(
            name,
            $$"""
            {
              "asset": { "version": "2.0" },
              "materials": [
                { "name": "pot", "pbrMetallicRoughness": { "baseColorFactor": [{{colour}},1], "metallicFactor": 0 } },
                { "name": "{{Path.GetFileNameWithoutExtension(name)}}_lid" }
              ]
            }
            """
        );
}
