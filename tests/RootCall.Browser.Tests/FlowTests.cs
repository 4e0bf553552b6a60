using System.IO.Compression;
using OpenQA.Selenium;
using RootCall.Testing;

namespace RootCall.Browser.Tests;

/// <summary>The artist's way through the three stages, with a real browser, database and worker.</summary>
[Collection(BrowserCollection.Name)]
public sealed class FlowTests(BrowserFixture browser) : IDisposable
{
    private readonly Place place = new();

    /// <summary>An entry of the folders' sheet.</summary>
    private static string InSheet(string name) => $"//*[@role='dialog']//*[@role='option'][starts-with(normalize-space(.), '{name}')]";

    [Fact]
    public void A_dropped_zip_is_mustered_relinked_undone_relinked_packed_downloaded_and_proven()
    {
        // A delivery of the lamp under a name of its own, without the files that moved.
        var delivery = Directory.CreateDirectory(place.At("delivery")).FullName;
        File.Copy(browser.Demo.At("arrived/brass_lamp/brass_lamp.glb"), Path.Combine(delivery, "lantern_row.glb"));
        ZipFile.CreateFromDirectory(delivery, place.At("lantern_row.zip"));

        foreach (var root in browser.App.Get("/api/roots").EnumerateArray())
            browser.App.Client.DeleteAsync("/api/roots/" + root.GetProperty("id").GetString()).Wait();

        browser.Go("/arrivals");
        browser.SeeCall("scenes");
        browser.Driver.FindElement(By.CssSelector("[data-upload=files]")).SendKeys(place.At("lantern_row.zip"));
        browser.ClickAt("//button[contains(., 'lantern_row.glb')]");
        browser.SeeText("kept in the store");
        browser.Press("d");
        SeePicture("[aria-label='Test frame'] img");
        browser.SeeText("of 64 samples");
        browser.Click("Stop");
        browser.SeeText("Draw it again");
        browser.Press("]");

        browser.SeeCall("2 of 6 references answer. 4 are missing");
        browser.Click("Search wider");
        browser.ClickAt(InSheet("The Tin Orchard/"));
        browser.ClickInSheet("library/");
        browser.ClickInSheet("Add as a root");
        browser.SeeCall("Two relinks settle 4 more");

        browser.Click("Relink 3");
        browser.SeeText("pending, entry 1");
        browser.SeeCall("One relink settles 1 more");
        browser.Press("u");
        browser.SeeCall("Two relinks settle 4 more");
        browser.PressShift("f");
        browser.SeeCall("4 are decided and pending");
        browser.SeeText("2 pending");
        browser.Press("l");
        browser.Driver.FindElement(By.CssSelector("[data-entry=in-hand]")).Click();
        SeePicture("[aria-label='Looks that it changes'] img");
        browser.SeeText("ΔE");
        browser.Press("l");
        browser.PressShift("p");
        browser.SeeCall("Every one of 6 references answers");

        browser.Press("]");
        browser.SeeText("House rules");
        browser.Press("]");
        browser.SeeCall("under one light");
        browser.Press("]");
        browser.SeeCall("can cross to");
        browser.Press("]");
        browser.SeeCall("all 6 references are answered in it");
        browser.PressShift("b");
        RunningApplication.Until(
            () =>
                browser
                    .Driver.FindElements(By.CssSelector("[data-proof=resolved]"))
                    .Any(e => e.Text.Replace("\n", string.Empty, StringComparison.Ordinal) == "6/6"),
            $"the proof did not come: {browser.Text}"
        );
        foreach (var picture in new[] { "before", "after", "difference" })
            SeePicture($"[aria-label=Proof] img[src$={picture}]");
        Assert.Equal("0.00", browser.Driver.FindElement(By.CssSelector("[data-proof=apart]")).Text);
        browser.Click("Download");
        var zip = Path.Combine(browser.Downloads, "lantern_row_v1.zip");
        RunningApplication.Until(() => File.Exists(zip), "the package was not downloaded");

        var opened = Tool.RootCall("muster", zip);
        Assert.True(opened.Status == 0, opened.Output + opened.Error);
        Assert.Contains("6 of 6 references answer. 4 present, 2 embedded", opened.Output, StringComparison.Ordinal);
        Assert.Equal(0, Tool.Run("unzip", ["-tq", zip]).Status);
    }

    /// <summary>A picture that has come, and is no broken one.</summary>
    private void SeePicture(string css) =>
        RunningApplication.Until(
            () => (bool)browser.Driver.ExecuteScript("return (document.querySelector(arguments[0])?.naturalWidth ?? 0) > 0", css)!,
            $"no picture at {css}: {browser.Text}"
        );

    [Fact]
    public void A_package_that_misses_files_says_which_and_asks()
    {
        browser.Go("/send-off/" + browser.App.SceneId("glasshouse_corner.gltf"));
        browser.SeeCall("not answered");
        browser.PressShift("b");
        var asked = browser.See("//*[@role='alertdialog']").Text;
        Assert.Contains("E:/scans/glaze/glaze_normal.png", asked, StringComparison.Ordinal);
        browser.Click("Back");
        Assert.Equal(
            0,
            browser
                .App.Get($"/api/scenes/{browser.App.SceneId("glasshouse_corner.gltf")}/send-off")
                .GetProperty("packages")
                .GetArrayLength()
        );
        browser.PressShift("b");
        browser.Click("Build without");
        browser.SeeText("its report names the others");
    }

    [Fact]
    public void A_scene_is_opened_from_a_root_and_a_refused_delivery_is_told_where_it_would_stand()
    {
        browser.Go("/arrivals");
        browser.SeeCall("scenes");
        browser.Press("o");
        foreach (var folder in new[] { "The Tin Orchard/", "clean/", "enamel_sign/" })
            browser.ClickAt(InSheet(folder));
        browser.ClickAt(InSheet("enamel_sign.obj"));
        browser.ClickInSheet("Open the scene");
        browser.SeeText("from clean/enamel_sign");

        browser.Driver.FindElement(By.CssSelector("[data-upload=files]")).SendKeys(place.Put("letter.txt", "dear artist"));
        browser.SeeText("holds no scene that is read here");
    }

    [Fact]
    public void A_contest_shows_both_pictures_with_their_evidence_and_is_decided_with_one_click()
    {
        var id = browser.App.SceneId("enamel_sign.obj");
        browser.Go("/muster/" + id);
        browser.See("//h2[text()='Two files could answer this call']");
        Assert.Contains("0.14 apart", browser.Text, StringComparison.Ordinal);
        RunningApplication.Until(
            () =>
                browser.Evaluate<long>(
                    "return [...document.querySelectorAll('[aria-label=Evidence] img')].filter((i) => i.naturalWidth > 100).length"
                ) == 2,
            "two pictures were not shown"
        );
        browser.Click("Use this");
        browser.SeeText("pending as entry");
        browser.Press("l");
        browser.SeeText("One entry since it arrived");
        browser.Press(Keys.Escape);
        browser.Press("u");
        browser.SeeText("Nothing edited");
    }

    public void Dispose() => place.Dispose();
}
