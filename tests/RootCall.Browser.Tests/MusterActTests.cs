using OpenQA.Selenium;
using RootCall.Testing;

namespace RootCall.Browser.Tests;

/// <summary>The map, find and replace, variants, order and changed files, as an artist uses them.</summary>
[Collection(BrowserCollection.Name)]
public sealed class MusterActTests : IDisposable
{
    private readonly BrowserFixture browser;
    private readonly Place place = new();
    private readonly string id;

    public MusterActTests(BrowserFixture browser)
    {
        this.browser = browser;
        // A scene of its own for each test, in a folder that the application may see.
        Folder = Directory.CreateDirectory(browser.Demo.At($"own/{Path.GetFileName(place.Folder)}")).FullName;
        Put("maps/oak_col_2k.png", 32, 1);
        Put("maps/oak_col_proxy.png", 8, 2);
        Put("maps/oak_nrm_2k.png", 32, 3);
        Put("maps/oak_nrm_proxy.png", 8, 4);
        Put("moved/odd.png", 4, 5);
        var scene = Path.Combine(Folder, $"oak_{Path.GetFileName(place.Folder)[^4..]}.gltf");
        File.WriteAllText(
            scene,
            Look.Gltf("maps/oak_col_2k.png", "maps/oak_nrm_2k.png", "D:/jobs/maps/oak_col_2k.png", "D:/jobs/other/odd_thing.png")
        );
        Assert.Equal(
            "done",
            browser.App.Ended(browser.App.Post("/api/arrivals/open", new { path = scene })).GetProperty("state").GetString()
        );
        id = browser.App.SceneId(Path.GetFileName(scene));
        browser.Go("/muster/" + id);
        browser.SeeCall("2 of 4 references answer");
    }

    private string Folder { get; }

    [Fact]
    public void Find_and_replace_shows_every_change_tells_a_bad_pattern_and_makes_one_entry()
    {
        browser.Press("e");
        browser.SeeText("Every change is shown here before it is made");
        Fill("Find", "D:/jobs/");
        browser.SeeText("2 paths change; 1 of them resolves");
        Assert.Contains("no file is there", browser.Text, StringComparison.Ordinal);
        Assert.Empty(browser.SeriousFindings());
        browser.ClickAt("//label[contains(., 'Regular expression')]//button");
        Fill("Find", "D:/(jobs");
        browser.SeeText("cannot be read at character");
        Fill("Find", "D:/(jobs)/");
        browser.SeeText("2 paths change; 1 of them resolves");
        browser.Click("Replace in 1");
        browser.SeeText("1 pending");
        Assert.Equal("Replace “D:/(jobs)/” by “” in 1 path", Sentence(0));
        browser.PressShift("p");
        browser.SeeCall("3 of 4 references answer");
        browser.Press("u");
        browser.SeeCall("2 of 4 references answer");
    }

    [Fact]
    public void Variants_are_switched_for_what_is_in_focus()
    {
        browser.ClickAt("//*[@role='row'][contains(., 'oak_nrm_2k.png')]");
        browser.Press(Keys.Space);
        browser.SeeText("Decide for 1");
        browser.Press("q");
        browser.SeeText("For the one reference in focus");
        Assert.Empty(browser.SeriousFindings());
        browser.Click("Switch 1 file");
        browser.SeeText("1 pending");
        browser.PressShift("p");
        browser.ClickAt("//button[@aria-label='Take 1 file off the focus']");
        browser.ClickAt("//*[@role='row'][contains(., 'oak_nrm_proxy.png')]");
        browser.SeeText("oak_nrm_proxy.png");
        browser.Press("q");
        browser.SeeText("For all 4 references");
    }

    [Fact]
    public void A_file_that_is_written_over_shows_at_once_before_and_now_and_is_taken_over()
    {
        RunningApplication.Until(
            () =>
                browser
                    .App.Get("/api/work")
                    .EnumerateArray()
                    .Any(w =>
                        w.GetProperty("kind").GetString() == "remember"
                        && w.GetProperty("sceneId").GetString() == id
                        && w.GetProperty("state").GetString() == "done"
                    ),
            "the files were not remembered"
        );
        Put("maps/oak_col_2k.png", 64, 200);
        browser.SeeCall("One file changed");
        browser.Click("One file");
        browser.See("//h2[contains(., 'It changed since it was last looked at')]");
        RunningApplication.Until(
            () =>
                browser.Evaluate<long>(
                    "return [...document.querySelectorAll('[aria-label=Evidence] figure img')].filter((i) => i.naturalWidth > 1).length"
                ) == 2,
            "both pictures were not shown"
        );
        Assert.Empty(browser.SeriousFindings());
        browser.ClickAt("//button[starts-with(@aria-label, 'Take changed')]");
        browser.Press("a");
        RunningApplication.Until(() => !browser.Call.Contains("changed", StringComparison.Ordinal), "it was not taken over", 40);
    }

    [Fact]
    public void A_row_of_the_map_is_dragged_to_a_folder_and_becomes_a_rule()
    {
        File.Move(Path.Combine(Folder, "moved/odd.png"), Path.Combine(Folder, "maps/odd_thing.png"));
        // HTML's own dragging cannot be done by WebDriver's mouse; its events can.
        browser.Driver.ExecuteScript(
            """
            const on = (what) => [...document.querySelectorAll(`[aria-label="Relocation map"] ${what}`)];
            const row = on('button').find((b) => b.textContent.includes('jobs/other'));
            const to = on('div[title]').find((e) => e.title.endsWith('/maps'));
            const data = new DataTransfer();
            const at = (type) => new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: data });
            row.dispatchEvent(at('dragstart'));
            to.dispatchEvent(at('dragover'));
            to.dispatchEvent(at('drop'));
            """
        );
        browser.SeeText("1 pending");
        Assert.StartsWith("Relink 1 reference, D:/jobs/other to", Sentence(0), StringComparison.Ordinal);
        browser.PressShift("p");
        browser.SeeCall("3 of 4 references answer");
    }

    [Fact]
    public void What_is_missing_is_told_stood_in_for_and_marked_until_it_is_packed()
    {
        browser.ClickAt("//*[@role='row'][contains(., 'odd_thing.png')]");
        browser.SeeText("it was a base colour map");
        browser.Click("Use a placeholder");
        browser.SeeText("1 pending");
        browser.PressShift("p");
        browser.SeeCall("1 stands in");
        browser.See("//*[@role='row'][contains(., 'placeholder')]");
        browser.Press("i");
        browser.SeeText("Called by nothing");
        Assert.Empty(browser.SeriousFindings());
        browser.Press(Keys.Escape);
        browser.Go("/send-off/" + id);
        browser.SeeText("Placeholders");
        browser.PressShift("b");
        Assert.Contains("1 placeholder stands in", browser.See("//*[@role='alertdialog']").Text, StringComparison.Ordinal);
        browser.Click("Back");
    }

    [Fact]
    public void Roots_show_their_index_and_the_words_of_names_are_edited()
    {
        browser.ClickAt("//main//button[contains(., 'root')]");
        browser.SeeText("files in");
        Assert.Empty(browser.SeriousFindings());
        browser.Click("Words of texture names");
        Fill("normal", "normal nrm nor knobbly", exact: true);
        browser.Click("Use these words");
        RunningApplication.Until(
            () =>
                browser
                    .App.Get("/api/names")
                    .GetProperty("roles")
                    .GetProperty("normal")
                    .EnumerateArray()
                    .Any(w => w.GetString() == "knobbly"),
            "the words were not kept"
        );
    }

    public void Dispose() => place.Dispose();

    private string Sentence(int entry) =>
        browser.App.Get($"/api/scenes/{id}/ledger").GetProperty("entries")[entry].GetProperty("sentence").GetString()!;

    private void Put(string name, int side, byte grey)
    {
        var path = Path.Combine(Folder, name);
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        File.WriteAllBytes(path, Pictures.Png(side, side, grey));
    }

    private void Fill(string label, string text, bool exact = false)
    {
        var field = browser.See(
            exact ? $"//label[normalize-space(text())='{label}']//input" : $"//label[starts-with(normalize-space(.), '{label}')]//input"
        );
        field.SendKeys(Keys.Control + "a");
        field.SendKeys(text);
    }
}
