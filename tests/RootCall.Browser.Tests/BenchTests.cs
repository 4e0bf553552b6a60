using System.Globalization;
using System.Text.RegularExpressions;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using RootCall.Testing;

namespace RootCall.Browser.Tests;

/// <summary>Stage four by hand: a sheet of a thousand, values tried, wires laid otherwise, images down to the pixel.</summary>
[Collection(BrowserCollection.Name)]
public sealed partial class BenchTests(BrowserFixture browser)
{
    private readonly RunningApplication app = browser.App;

    [Fact]
    public void A_thousand_materials_are_stepped_through_marked_and_opened_by_keys()
    {
        var materials = string.Join(
            ',',
            Enumerable
                .Range(0, 1000)
                .Select(i =>
                    FormattableString.Invariant($"{{\"name\":\"tin_{i:000}\",")
                    + FormattableString.Invariant($"\"pbrMetallicRoughness\":{{\"baseColorFactor\":[{i / 1000.0},0.4,0.3,1]}}}}")
                )
        );
        var id = browser.Open("thousand.gltf", $$"""{"asset":{"version":"2.0"},"materials":[{{materials}}]}""");
        browser.Go("/bench/" + id);
        browser.SeeCall("1,000 materials under one light");
        browser.SeeText("1 of 1000");
        browser.Press(Keys.End);
        browser.SeeText("1000 of 1000");
        // What is not in view is not there.
        Assert.InRange(browser.Evaluate<long>("return document.querySelectorAll('[role=gridcell]').length"), 5, 120);
        browser.Press(Keys.Home + Keys.ArrowRight + Keys.ArrowRight);
        browser.SeeText("3 of 1000");
        browser.Press(Keys.ArrowDown);
        browser.Press(Keys.ArrowUp);
        browser.SeeText("3 of 1000");
        browser.Press(Keys.Space);
        browser.SeeText("seen 1 of 1,000");
        browser.Press("j");
        browser.Press("x");
        browser.See("//input[@aria-label='What is not right']");
        browser.Press("too dull" + Keys.Enter);
        browser.SeeText("seen 2 of 1,000");
        browser.SeeText("too dull");
        browser.SeeCall("1 does not look as it should");
        Assert.Empty(browser.SeriousFindings());
        browser.Press(Keys.Enter);
        browser.See("//button[contains(., 'Back to the sheet')]");
        browser.See("//*[@data-growing='now']//img");
        browser.Press(Keys.Escape);
        browser.PressShift(Keys.ArrowLeft);
        browser.Press(Keys.Home);
        browser.PressShift(Keys.ArrowRight);
        browser.SeeText("4 of 1000");
        browser.Find("tin_99");
        browser.SeeText("1 of 10");
        browser.Press(Keys.Escape);

        // By likeness: measured first, then each beside those that look like it.
        browser.ClickAt("//*[@role='combobox'][@aria-label='Order of the materials']");
        browser.ClickAt("//*[@role='option'][. = 'by likeness']");
        browser.See("//*[@role='status'][@aria-label='Measuring looks']");
        browser.Click("Stop");
    }

    [Fact]
    public void A_value_is_dragged_drawn_as_it_would_look_and_written_only_when_it_is_taken()
    {
        var id = Wired("dragged");
        browser.Go("/bench/" + id);
        browser.ClickAt("//*[@role='tab'][. = 'Inputs']");
        var slider = browser.See("//input[@aria-label='clearcoat by slider']");
        // Clicked where 0.75 is, then moved on by keys, as whoever drags it would.
        new Actions(browser.Driver).MoveToElement(slider, slider.Size.Width / 4, 0).Click().Perform();
        slider.SendKeys(Keys.ArrowLeft);
        browser.SeeText("1 value is tried; nothing is written");
        browser.See("//*[@data-growing='tried']//img");
        RunningApplication.Until(
            () =>
                browser.Text.Contains("from now", StringComparison.Ordinal)
                || browser.Text.Contains("looks as now", StringComparison.Ordinal),
            "no difference from now is told",
            60
        );
        Assert.Equal(0, Entries(id));
        var colour = browser.See("//input[@aria-label='specularColor, hexadecimal as a display shows it']");
        colour.SendKeys(Keys.Control + "a");
        colour.SendKeys("#ff8000");
        browser.SeeText("2 values are tried");
        Assert.Empty(browser.SeriousFindings());
        browser.ClickAt("//*[@role='tab'][. = 'How it is wired']");
        browser.Press("t");
        RunningApplication.Until(() => Entries(id) == 1, "what was tried was not taken");
        browser.SeeText("0 applied, 1 pending");
        browser.Press("u");
        RunningApplication.Until(() => Entries(id) == 0, "it was not taken back");
    }

    [Fact]
    public void A_wire_is_laid_otherwise_by_drag_and_by_keys_and_one_undo_takes_it_back()
    {
        var id = Wired("wires");
        browser.Go("/bench/" + id);
        var end = browser.See("//button[@data-wire='metallic']");
        var target = browser.See("//button[starts-with(normalize-space(.), 'roughness')]");
        new Actions(browser.Driver).MoveToElement(end).ClickAndHold().MoveByOffset(6, 4).MoveToElement(target).Perform();
        browser.SeeText("take it to roughness");
        new Actions(browser.Driver).Release().Perform();
        browser.SeeText("0 applied, 1 pending");
        browser.PressShift("p");
        browser.See("//button[@data-wire='roughness']");
        Assert.Empty(browser.Driver.FindElements(By.CssSelector("[data-wire=metallic]")));
        browser.Press("u");
        browser.See("//button[@data-wire='metallic']");

        // What does not fit says why before it is dropped, and nothing happens.
        end = browser.See("//button[@data-wire='diffuseColor']");
        target = browser.See("//button[starts-with(normalize-space(.), 'roughness')]");
        new Actions(browser.Driver).MoveToElement(end).ClickAndHold().MoveByOffset(6, 4).MoveToElement(target).Perform();
        browser.SeeText("roughness takes one number; pick one channel of the image.");
        new Actions(browser.Driver).MoveByOffset(-120, 60).Release().Perform();

        // The same by keys.
        browser.See("//button[@data-wire='metallic']").SendKeys(Keys.Enter);
        browser.See("//*[@role='menuitem'][contains(., 'Disconnect it')]");
        Assert.Empty(browser.SeriousFindings());
        browser.Press(Keys.Enter);
        // The menu takes letters once one of its own items has the keyboard.
        SeeHeld("roughness");
        browser.Press("occ");
        SeeHeld("occlusion");
        browser.Press(Keys.Enter);
        browser.SeeText("0 applied, 1 pending");
        // Keys of the stage sleep as long as a menu has the keyboard.
        RunningApplication.Until(() => browser.Driver.FindElements(By.CssSelector("[role=menu]")).Count == 0, "the menu did not close");
        browser.PressShift("p");
        browser.See("//button[@data-wire='occlusion']");
        browser.Press("u");
        browser.See("//button[@data-wire='metallic']");
    }

    /// <summary>Colour correction before a colour: laid by keys, set by its slider, taken out again; each an entry of the ledger.</summary>
    [Fact]
    public void A_node_is_laid_set_and_taken_out()
    {
        var id = browser.Open(
            "nodes.mtlx",
            """
            <?xml version="1.0"?>
            <materialx version="1.39">
              <image name="colour" type="color3"><input name="file" type="filename" value="nodes.png" colorspace="srgb_texture"/></image>
              <open_pbr_surface name="s" type="surfaceshader"><input name="base_color" type="color3" nodename="colour"/></open_pbr_surface>
              <surfacematerial name="paint" type="material">
                <input name="surfaceshader" type="surfaceshader" nodename="s"/>
              </surfacematerial>
            </materialx>
            """
        );
        browser.Go("/bench/" + id);
        browser.See("//button[@data-wire='base_color']").SendKeys(Keys.Enter);
        browser.See("//*[@role='menuitem'][contains(., 'a normal map has no meaning there')]");
        browser.Press("corr");
        SeeHeld("Correct its colour");
        browser.Press(Keys.Enter);
        Apply();
        browser.ClickAt("//*[@role='tab'][. = 'Inputs']");
        var slider = browser.See("//input[@aria-label='saturation of colour correction by slider']");
        slider.SendKeys(Keys.Home);
        browser.SeeText("1 value is tried; nothing is written");
        Assert.Empty(browser.SeriousFindings());
        browser.ClickAt("//*[@role='tab'][. = 'Inputs']");
        browser.Press("t");
        Apply();
        RunningApplication.Until(() => Entries(id) == 2, "the value was not taken");
        RunningApplication.Until(
            () => Nodes() is [{ } node] && node.GetRawText().Contains("\"now\":[0]", StringComparison.Ordinal),
            "it is not so"
        );
        browser.ClickAt("//button[@aria-label='Take out colour correction before base_color']");
        Apply();
        RunningApplication.Until(() => Nodes().Count == 0, "it was not taken out");

        List<System.Text.Json.JsonElement> Nodes() =>
            [
                .. app.Get($"/api/scenes/{id}/bench/material?name=paint")
                    .GetProperty("inputs")
                    .EnumerateArray()
                    .SelectMany(i => i.GetProperty("nodes").EnumerateArray()),
            ];
    }

    private void Apply()
    {
        browser.SeeText("1 pending");
        RunningApplication.Until(() => browser.Driver.FindElements(By.CssSelector("[role=menu]")).Count == 0, "the menu did not close");
        browser.PressShift("p");
        RunningApplication.Until(() => !browser.Text.Contains("1 pending", StringComparison.Ordinal), "nothing was applied");
    }

    /// <summary>What <c>oiiotool --dumpdata</c> (OpenImageIO) prints of an image, by its pixels.</summary>
    private static Dictionary<string, string> Dumped(string image) =>
        Pixel()
            .Matches(Tool.Run("oiiotool", ["--dumpdata", image]).Output)
            .ToDictionary(m => m.Groups[1].Value, m => string.Join(' ', m.Groups[2].Value.Split(' ').Select(Three)));

    private static string Three(string number) =>
        double.Parse(number, CultureInfo.InvariantCulture).ToString("0.000", CultureInfo.InvariantCulture);

    /// <summary>An image and a smaller one that could stand in its place, moved and read as one.</summary>
    [Fact]
    public void An_image_is_held_beside_its_candidate()
    {
        // One that no other test relinks.
        var corner = File.ReadAllText(browser.Demo.At("arrived/glasshouse_corner/glasshouse_corner.gltf"));
        var id = browser.Open("corner_beside.gltf", corner);
        browser.Go($"/bench/{id}?material=tin_leaf");
        browser.ClickAt("//*[@role='tab'][. = 'Images']");
        browser.Click("To the pixel");
        browser.ClickAt("//*[@role='combobox'][@aria-label='Held beside']");
        browser.ClickAt("//*[@role='option'][contains(., 'tin_leaf_basecolor_proxy.png')]");
        browser.See("(//canvas[contains(@aria-label, 'arrows move')])[2]").SendKeys(Keys.ArrowRight);
        var (large, small) = (
            Dumped(browser.Demo.At("library/tin-orchard/tex/tin_leaf_basecolor.png")),
            Dumped(browser.Demo.At("library/tin-orchard/tex/tin_leaf_basecolor_proxy.png"))
        );
        RunningApplication.Until(
            () => At.Length > 0 && large.GetValueOrDefault(At) == Stored && small.GetValueOrDefault(Quarter(At)) == Beside,
            () => $"at {At} they are {Stored} and {Beside}, not what oiiotool reads"
        );
        Assert.Empty(browser.SeriousFindings());

        // A pixel of the smaller one is four by four of the larger.
        static string Quarter(string at) => string.Join(", ", at.Split(", ").Select(n => int.Parse(n, CultureInfo.InvariantCulture) / 4));
    }

    private string Beside =>
        browser.Evaluate<string>(
            "return document.querySelectorAll('[aria-label=\"Under the pointer\"] tbody tr')[1]?.cells[1].innerText ?? ''"
        );

    /// <summary>Beside what <c>oiiotool --dumpdata</c> (OpenImageIO) prints of the same pixels.</summary>
    [Fact]
    public void Values_under_the_pointer_are_those_that_oiiotool_reads()
    {
        var id = Wired("pixels");
        var known = Dumped(browser.Demo.At("arrived/pixels_paint.png"));
        browser.Go("/bench/" + id);
        browser.Click("To the pixel");
        var canvas = browser.See("//canvas[contains(@aria-label, 'arrows move')]");
        for (var i = 0; i < 4; i++)
        {
            canvas.SendKeys(i % 2 == 0 ? Keys.ArrowRight + Keys.ArrowRight : Keys.ArrowUp + "+");
            RunningApplication.Until(
                () => known.ContainsKey(At) && Stored == known[At],
                () => $"at {At} is {Stored}, not what oiiotool reads"
            );
        }

        Assert.Matches("baseColor|diffuseColor", browser.Text);
        Assert.Empty(browser.SeriousFindings());
        browser.Press("r");
        browser.See("//button[@aria-pressed='true'][. = 'R']");
        browser.Press(Keys.Escape);
        browser.SeeText("1 of 1");
    }

    [Fact]
    public void An_object_that_is_picked_gets_another_material_or_one_of_its_own()
    {
        var id = browser.Open(
            "worn.gltf",
            """
            {
              "asset": { "version": "2.0" },
              "materials": [{ "name": "tin" }, { "name": "oak" }],
              "meshes": [
                { "name": "lid", "primitives": [{ "attributes": {}, "material": 0 }] },
                { "name": "jar", "primitives": [{ "attributes": {}, "material": 0 }] }
              ],
              "nodes": [{ "name": "left", "mesh": 0 }, { "mesh": 1 }, { "name": "right", "mesh": 0 }]
            }
            """
        );
        browser.Go("/bench/" + id);
        Pick();
        browser.ClickAt("//*[@role='dialog']//*[@role='option'][contains(., 'oak')]");
        Assert.Empty(browser.SeriousFindings());
        browser.ClickInSheet("Assign to 1 part");
        browser.SeeText("0 applied, 1 pending");
        browser.PressShift("p");
        RunningApplication.Until(() => Worn("oak") == "lid" && Worn("tin") == "jar", "it does not wear it");
        browser.Press("u");
        RunningApplication.Until(() => Worn("tin") == "lid jar", "it was not taken back");

        browser.Driver.Navigate().Refresh();
        Pick();
        browser.ClickAt("//*[@role='radio'][. = 'one of its own']");
        browser.See("//input[@aria-label='Name of the new material']").SendKeys("tin_lid");
        browser.ClickInSheet("Split off 1 part");
        browser.SeeText("0 applied, 1 pending");
        browser.PressShift("p");
        browser.SeeCall("3 materials under one light");
        Assert.Equal("lid", Worn("tin_lid"));

        // One of the two places of the lid becomes its own.
        browser.Go($"/bench/{id}?material=tin_lid");
        browser.ClickAt("//*[@role='tab'][. = 'Worn by']");
        browser.ClickAt("//button[@aria-label='Make its own: a place of lid']");
        browser.ClickAt("//*[@role='menuitem'][. = 'right']");
        Apply();
        RunningApplication.Until(() => Worn("tin_lid") == "lid right", "it is not its own");

        void Pick()
        {
            browser.ClickAt("//*[@role='tab'][. = 'Worn by']");
            browser.ClickAt("//*[@role='checkbox'][@aria-label='lid']");
            browser.Click("Give 1 part another material");
        }

        string Worn(string material) =>
            string.Join(
                ' ',
                app.Get($"/api/scenes/{id}/bench/material?name={material}")
                    .GetProperty("wearers")
                    .EnumerateArray()
                    .Select(w => w.GetProperty("name").GetString())
            );
    }

    private void SeeHeld(string item) =>
        RunningApplication.Until(
            () => browser.Evaluate<string>("return document.activeElement?.innerText ?? ''") == item,
            $"“{item}” did not get the keyboard"
        );

    private string At =>
        browser.Evaluate<string>("return document.querySelector('[aria-label=\"Under the pointer\"] th .mono')?.innerText ?? ''");

    private string Stored =>
        browser.Evaluate<string>("return document.querySelector('[aria-label=\"Under the pointer\"] tbody td')?.innerText ?? ''");

    [GeneratedRegex(@"Pixel \((\d+, \d+)\): [^(\n]*\(([^)]*)\)")]
    private static partial Regex Pixel();

    /// <summary>A material with a colour map and a number map, in a format that lays wires freely.</summary>
    private string Wired(string name)
    {
        foreach (var (image, channels) in new[] { ($"{name}_paint.png", "3"), ($"{name}_metal.png", "3") })
            Tool.Run(
                "oiiotool",
                [
                    "--pattern",
                    "noise:type=uniform:min=0.2:max=0.8",
                    "24x24",
                    channels,
                    "-d",
                    "uint8",
                    "-o",
                    browser.Demo.At("arrived/" + image),
                ]
            );
        return browser.Open(
            name + ".usda",
            $$"""
            #usda 1.0
            (
                upAxis = "Y"
            )
            def Material "paint"
            {
                token outputs:surface.connect = </paint/surface.outputs:surface>
                def Shader "surface"
                {
                    uniform token info:id = "UsdPreviewSurface"
                    color3f inputs:diffuseColor.connect = </paint/colour.outputs:rgb>
                    float inputs:metallic.connect = </paint/metal.outputs:r>
                    float inputs:clearcoat = 0.25
                    token outputs:surface
                }
                def Shader "colour"
                {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @{{name}}_paint.png@
                    token inputs:sourceColorSpace = "sRGB"
                    float3 outputs:rgb
                }
                def Shader "metal"
                {
                    uniform token info:id = "UsdUVTexture"
                    asset inputs:file = @{{name}}_metal.png@
                    token inputs:sourceColorSpace = "raw"
                    float outputs:r
                }
            }
            """
        );
    }

    private int Entries(string id) => app.Get($"/api/scenes/{id}/ledger").GetProperty("entries").GetArrayLength();
}
