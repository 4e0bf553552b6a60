using System.Text.Json;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using RootCall.Testing;

namespace RootCall.Browser.Tests;

/// <summary>
/// What an artist does in the first hour: brings textures, says what no rule can know, keeps order among scenes, gets the result.
/// </summary>
[Collection(BrowserCollection.Name)]
public sealed class FirstHourTests(BrowserFixture browser) : IDisposable
{
    private readonly Place place = new();
    private readonly RunningApplication app = browser.App;

    [Fact]
    public void Textures_dropped_on_a_picked_scene_become_its_root_and_are_taken_out_again()
    {
        var id = Bring("wicket.gltf", Look.Gltf("paint/wicket_colour.png"));
        browser.Go("/arrivals/" + id);
        browser.SeeText("wicket.gltf");
        browser.Driver.ExecuteScript(
            """
            const bytes = Uint8Array.from(atob(arguments[0]), (c) => c.charCodeAt(0));
            const transfer = new DataTransfer();
            transfer.items.add(new File([bytes], 'wicket_colour.png'));
            for (const type of ['dragover', 'drop'])
              window.dispatchEvent(new DragEvent(type, { dataTransfer: transfer, bubbles: true, cancelable: true }));
            """,
            Convert.ToBase64String(Pictures.Png(8, 8, 90))
        );
        browser.SeeText("Added from a computer");
        RunningApplication.Until(() => State(id) == "elsewhere", () => $"it is {State(id)}");
        browser.Press("]");
        browser.SeeCall("One relink settles 1 more");
        browser.ClickAt("//button[starts-with(normalize-space(.), '2 roots') or contains(normalize-space(.), ' root')]");
        Assert.Empty(browser.SeriousFindings());
        browser.ClickAt("//button[@aria-label='Take out wicket_colour.png']");
        browser.SeeCall("missing");
    }

    [Fact]
    public void Several_materials_are_set_by_hand_at_once_and_one_undo_takes_it_back()
    {
        browser.Go("/findings/" + Arrived("glasshouse_corner.gltf"));
        browser.Click("Pick materials");
        foreach (var material in new[] { "glazed_pot", "tin_leaf" })
            browser.ClickAt($"//*[@role='option'][contains(., '{material}')]");
        browser.Press(Keys.Escape);
        browser.Click("Set 2 materials by hand");
        browser.ClickAt("//*[@role='combobox'][@aria-label='Input']");
        browser.ClickAt("//*[@role='option'][starts-with(., 'roughness')]");
        var number = browser.See("//input[@aria-label='roughness']");
        number.SendKeys(Keys.Control + "a");
        number.SendKeys("0.25");
        Assert.Empty(browser.SeriousFindings());
        browser.ClickAt("//button[contains(., 'Put in for 2 places')]");
        browser.SeeText("1 pending");
        browser.Press("u");
        browser.SeeText("0 applied");
    }

    [Fact]
    public void A_finding_that_no_rule_can_fix_offers_the_choice_and_says_what_the_format_cannot()
    {
        browser.Go("/findings/" + Arrived("enamel_sign.obj"));
        browser.ClickAt("//*[contains(., 'assigned material is not defined')]/ancestor-or-self::button");
        browser.See("//button[contains(., 'Choose by hand')]");
        browser.Press("c");
        browser.ClickAt("//*[@role='radio'][. = 'Another material']");
        browser.SeeText("face by face");
        Assert.Empty(browser.SeriousFindings());
    }

    [Fact]
    public void Scenes_are_sorted_renamed_and_removed_and_it_is_said_what_stays()
    {
        var id = Bring("a_trellis.gltf", Look.Gltf("trellis_paint.png"));
        browser.Go("/arrivals/" + id);
        browser.ClickAt("//button[starts-with(normalize-space(.), 'More')]");
        browser.ClickAt("//*[@role='menuitem'][. = 'Rename']");
        var name = browser.See("//input[@aria-label='Name of the scene']");
        name.SendKeys(Keys.Control + "a");
        name.SendKeys("South trellis" + Keys.Enter);
        browser.See($"//button[@id='scene-{id}'][contains(., 'South trellis')]");
        browser.ClickAt("//*[@role='combobox'][@aria-label='Order']");
        browser.ClickAt("//*[@role='option'][. = 'by name']");
        RunningApplication.Until(
            () => Titles().SequenceEqual(Titles().Order(StringComparer.InvariantCulture)),
            () => $"not by name: {string.Join(", ", Titles())}"
        );
        browser.ClickAt("//*[@role='combobox'][@aria-label='Order']");
        browser.ClickAt("//*[@role='option'][. = 'newest first']");
        browser.Find("trellis_pai");
        browser.SeeText("image");
        RunningApplication.Until(() => Titles() is ["South trellis"], () => $"found {string.Join(", ", Titles())}");
        browser.Press(Keys.Escape);
        browser.ClickAt("//button[starts-with(normalize-space(.), 'More')]");
        browser.ClickAt("//*[@role='menuitem'][. = 'Remove the scene']");
        browser.SeeText("every file outside the store");
        Assert.Empty(browser.SeriousFindings());
        browser.ClickAt("//*[@role='alertdialog']//button[contains(., 'Remove the scene')]");
        RunningApplication.Until(() => !Titles().Contains("South trellis"), "it is still listed");
    }

    [Fact]
    public void Two_scenes_are_found_in_the_server_folders_and_opened_at_once_and_decided_about_together()
    {
        browser.Go("/arrivals");
        browser.SeeCall("scenes");
        browser.Press("o");
        browser.SeeText("opened lately");
        var find = browser.See("//*[@role='dialog']//input[@type='search']");
        find.SendKeys("tin_pear");
        browser.ClickAt("//*[@role='dialog']//*[@role='option'][contains(., 'tin_pear.usdz')]");
        browser.SeeText("images called");
        find.SendKeys(Keys.Control + "a");
        find.SendKeys("dew_drop");
        new Actions(browser.Driver)
            .KeyDown(Keys.Control)
            .Click(browser.See("//*[@role='dialog']//*[@role='option'][contains(., 'dew_drop.ply')]"))
            .KeyUp(Keys.Control)
            .Perform();
        Assert.Empty(browser.SeriousFindings());
        browser.ClickInSheet("Open 2 scenes");
        RunningApplication.Until(() => Titles().Contains("tin_pear.usdz") && Titles().Contains("dew_drop.ply"), "they did not arrive");
        foreach (var title in new[] { "tin_pear.usdz", "glasshouse_corner.gltf" })
            new Actions(browser.Driver)
                .KeyDown(Keys.Control)
                .Click(browser.See($"//button[starts-with(@id, 'scene-')][contains(., '{title}')]"))
                .KeyUp(Keys.Control)
                .Perform();
        browser.Press("m");
        browser.ClickAt("(//*[@role='dialog']//input[@name='many'])[1]");
        browser.SeeText("Nothing that is called from");
        browser.See("//button[contains(., 'Put in for 1 scene')]");
        Assert.Empty(browser.SeriousFindings());
    }

    [Fact]
    public void A_refresh_keeps_focus_order_and_what_is_in_hand_and_a_second_window_follows_the_first()
    {
        var id = Arrived("glasshouse_corner.gltf");
        browser.Go("/muster/" + id);
        browser.SeeCall("of 20 references");
        browser.Click("Pick materials");
        browser.ClickAt("//*[@role='option'][contains(., 'verdigris')]");
        browser.Press(Keys.Escape);
        browser.ClickAt("//*[@role='columnheader']//button[contains(., 'File')]");
        browser.ClickAt("//*[@data-list='references']//*[@role='row'][contains(., 'verdigris_normal')]");
        var number = browser.See("//*[@data-list='references']").GetAttribute("aria-activedescendant")!.Split('-')[^1];
        RunningApplication.Until(
            () => browser.Driver.Url.Contains($"reference={number}", StringComparison.Ordinal),
            () => $"the address does not tell it: {browser.Driver.Url}"
        );
        browser.Driver.Navigate().Refresh();
        browser.See("//button[@aria-label='Take verdigris_rib off the focus']");
        const string inHand = """
            const list = document.querySelector('[data-list=references]');
            return document.getElementById(list?.getAttribute('aria-activedescendant'))?.textContent ?? '';
            """;
        RunningApplication.Until(
            () => browser.Evaluate<string>(inHand).Contains("verdigris_normal", StringComparison.Ordinal),
            "what was in hand is not in hand any more"
        );
        Assert.Equal("ascending", browser.See("//*[@role='columnheader'][contains(., 'File')]").GetAttribute("aria-sort"));
        browser.ClickAt("//button[@aria-label='Take verdigris_rib off the focus']");

        browser.Go("/findings/" + Arrived("enamel_sign.obj"));
        browser.SeeCall("blocks the render");
        var first = browser.Driver.CurrentWindowHandle;
        browser.Driver.SwitchTo().NewWindow(WindowType.Tab);
        browser.Driver.Navigate().GoToUrl(app.Address + "/findings/" + Arrived("enamel_sign.obj"));
        browser.SeeCall("blocks the render");
        var second = browser.Driver.CurrentWindowHandle;
        browser.Driver.SwitchTo().Window(first);
        var cause = app.Get($"/api/scenes/{Arrived("enamel_sign.obj")}/audit")
            .GetProperty("causes")
            .EnumerateArray()
            .First(c => c.GetProperty("severity").GetString() == "blocker")
            .GetProperty("key")
            .GetString();
        app.Post($"/api/scenes/{Arrived("enamel_sign.obj")}/audit/waive", new { cause, reason = "made so" });
        foreach (var window in new[] { first, second })
        {
            browser.Driver.SwitchTo().Window(window);
            RunningApplication.Until(
                () => !browser.Call.Contains("blocks the render", StringComparison.Ordinal),
                "a window did not follow"
            );
        }

        browser.Driver.Close();
        browser.Driver.SwitchTo().Window(first);
        app.Post($"/api/scenes/{Arrived("enamel_sign.obj")}/audit/unwaive", new { cause });
    }

    /// <summary>
    /// Names in other scripts, from right to left, and as long as a file system takes, at each width that the interface is made for.
    /// </summary>
    [Fact]
    public void Nothing_scrolls_sideways_or_grows_at_any_width_whatever_names_are_written_in()
    {
        var names = new[] { "锡叶_颜色", "دهان_البوابة", "צבע_השער", "ใบดีบุก_สี", "ペンキ", new string('a', 200) + "_roughness" };
        var id = Bring("scripts.gltf", Look.Gltf([.. names.Select(n => $"textures/{n}.png")]));
        try
        {
            foreach (var (width, height) in new[] { (1024, 700), (1280, 800), (1920, 1080) })
            {
                Size(width, height);
                foreach (var stage in new[] { "arrivals", "muster", "findings", "bench", "crossing", "send-off" })
                {
                    browser.Go($"/{stage}/{id}");
                    browser.See("//h1[string-length(.) > 12]");
                    Thread.Sleep(400);
                    Assert.Equal(
                        string.Empty,
                        browser.Evaluate<string>(
                            """
                            const wide = document.documentElement.scrollWidth > innerWidth ? ['the page'] : [];
                            const rows = [...document.querySelectorAll('[data-list=references] [role=row]')].slice(1);
                            const heights = new Set(rows.map((r) => r.offsetHeight));
                            if (heights.size > 1) wide.push('rows of different heights');
                            for (const e of document.querySelectorAll('h1, main button, main a')) {
                              const box = e.getBoundingClientRect();
                              if (box.width > 0 && (box.right > innerWidth + 1 || box.left < -1)) wide.push(e.textContent);
                            }
                            return wide.join(' | ');
                            """
                        )
                    );
                }
            }

            browser.Go("/muster/" + id);
            // The telling end stays, whatever the length.
            browser.See("//*[@role='gridcell'][contains(., '_roughness.png')]");
            Assert.Empty(browser.SeriousFindings());
        }
        finally
        {
            Size(1280, 800);
        }
    }

    private void Size(int width, int height) =>
        browser.Driver.ExecuteCdpCommand(
            "Emulation.setDeviceMetricsOverride",
            new()
            {
                ["width"] = width,
                ["height"] = height,
                ["deviceScaleFactor"] = 1,
                ["mobile"] = false,
            }
        );

    /// <summary>Others of that name may have been opened since.</summary>
    private string Arrived(string name) =>
        app.Get("/api/scenes")
            .EnumerateArray()
            .First(s =>
                s.GetProperty("name").GetString() == name
                && s.GetProperty("source").GetString()!.StartsWith("arrived/", StringComparison.Ordinal)
            )
            .GetProperty("id")
            .GetString()!;

    private string[] Titles() =>
        browser
            .Evaluate<string>(
                "return [...document.querySelectorAll('[id^=scene-] .mono:first-child')].map((e) => e.title).filter(Boolean).join('|')"
            )
            .Split('|');

    private string State(string id) => app.Get($"/api/scenes/{id}/muster").GetProperty("references")[0].GetProperty("state").GetString()!;

    private string Bring(string name, string scene)
    {
        using var form = new MultipartFormDataContent { { new StringContent(scene), name, "file" } };
        var task = JsonDocument
            .Parse(app.Client.PostAsync("/api/arrivals/upload", form).Result.Content.ReadAsStringAsync().Result)
            .RootElement;
        Assert.Equal("done", app.Ended(task).GetProperty("state").GetString());
        return app.SceneId(name);
    }

    public void Dispose() => place.Dispose();
}
