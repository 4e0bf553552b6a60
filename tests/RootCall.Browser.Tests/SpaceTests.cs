using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using RootCall.Testing;

namespace RootCall.Browser.Tests;

/// <summary>The scene in space, drawn by WebGL in software.</summary>
[Collection(BrowserCollection.Name)]
public sealed class SpaceTests(BrowserFixture browser)
{
    [Fact]
    public void An_object_is_picked_and_the_focus_follows()
    {
        var id = browser.Open("two_lids.gltf", Lids());
        browser.Go("/bench/" + id);
        browser.Press("z");
        browser.See("//*[@data-loaded='true']");
        browser.SeeText("2 objects");
        Assert.Empty(browser.SeriousFindings());
        // The one left, then the one right of it: both stay in focus, the last is in hand.
        Click(-0.22);
        RunningApplication.Until(() => Focus() == "tin_left", () => $"in focus is {Focus()}");
        browser.SeeText("2 triangles");
        Click(0.22);
        RunningApplication.Until(() => Focus() == "tin_left tin_right", () => $"in focus is {Focus()}");
        RunningApplication.Until(() => Held() == "tin_right", () => $"in hand is {Held()}");
        // Nothing is hit beside them.
        Click(0, 0.45);
        Assert.Equal("tin_left tin_right", Focus());

        // Keys walk the materials; a second click takes out of the focus what is in hand.
        browser.Press("k");
        RunningApplication.Until(() => Held() == "tin_left", () => $"in hand is {Held()}");
        Click(-0.22);
        RunningApplication.Until(() => Focus() == "tin_right", () => $"in focus is {Focus()}");

        // What is hidden is not hit.
        browser.PressShift("z");
        browser.SeeText("show 1 in focus");
        Click(-0.22);
        Assert.Equal("tin_right", Focus());
        browser.PressShift("z");
        browser.SeeText("show in hand");
        browser.PressShift("z");
        browser.SeeText("show all");

        foreach (
            var (overlay, said) in new[]
            {
                ("missing images", "0 with images missing"),
                ("UV checker", "64 texels"),
                ("findings", "blocked"),
            }
        )
        {
            browser.ClickAt("//*[@role='combobox'][@aria-label='What is laid over it']");
            browser.ClickAt($"//*[@role='option'][. = '{overlay}']");
            browser.SeeText(said);
        }

        // Whoever goes on by keys leaves what was chosen, which Enter would open again.
        RunningApplication.Until(
            () => browser.Evaluate<string>("return document.activeElement?.getAttribute('role') ?? ''") == "combobox",
            "what was chosen did not get the keyboard back"
        );
        browser.Driver.ExecuteScript("document.activeElement.blur()");
        browser.Press(Keys.Enter + Keys.ArrowUp + "+");
        // It stands in for the sphere until another shape is chosen.
        browser.Click("Show materials on it");
        browser.See("//*[@role='grid'][@aria-label='Materials']");
        browser.See("//*[@role='combobox'][@aria-label='Shape'][contains(., 'left')]");
        browser.See("//*[@data-growing='now']//img");
        browser.Press("s");
        browser.See("//*[@role='combobox'][@aria-label='Shape'][contains(., 'sphere')]");
    }

    /// <param name="across">From the middle of the view, in its width.</param>
    private void Click(double across, double down = 0)
    {
        var canvas = browser.See("//canvas");
        new Actions(browser.Driver)
            .MoveToElement(canvas, (int)(canvas.Size.Width * across), (int)(canvas.Size.Height * down))
            .Click()
            .Perform();
    }

    private string Focus() =>
        browser.Evaluate<string>(
            "return (JSON.parse(sessionStorage.getItem('rootcall-focus') ?? '{}').state?.materials?.set ?? []).sort().join(' ')"
        );

    private string Held() => browser.Evaluate<string>("return new URLSearchParams(location.search).get('material') ?? ''");

    /// <summary>Two squares that face whoever looks, side by side.</summary>
    private static string Lids()
    {
        float[] points = [-1, -1, 0, 1, -1, 0, 1, 1, 0, -1, 1, 0];
        ushort[] corners = [0, 1, 2, 0, 2, 3];
        byte[] bytes = [.. points.SelectMany(BitConverter.GetBytes), .. corners.SelectMany(BitConverter.GetBytes)];
        string Mesh(int material) =>
            $$"""{ "primitives": [{ "attributes": { "POSITION": 0 }, "indices": 1, "material": {{material}} }] }""";
        return $$"""
            {
              "asset": { "version": "2.0" }, "scene": 0, "scenes": [{ "nodes": [0, 1] }],
              "materials": [{ "name": "tin_left" }, { "name": "tin_right" }],
              "meshes": [{{Mesh(0)}}, {{Mesh(1)}}],
              "nodes": [
                { "name": "left", "mesh": 0, "translation": [-1.2, 0, 0] },
                { "name": "right", "mesh": 1, "translation": [1.2, 0, 0] }
              ],
              "buffers": [{ "byteLength": {{bytes.Length}}, "uri": "data:application/octet-stream;base64,{{Convert.ToBase64String(
                bytes
            )}}" }],
              "bufferViews": [{ "buffer": 0, "byteLength": 48 }, { "buffer": 0, "byteOffset": 48, "byteLength": 12 }],
              "accessors": [
                { "bufferView": 0, "componentType": 5126, "count": 4, "type": "VEC3", "min": [-1, -1, 0], "max": [1, 1, 0] },
                { "bufferView": 1, "componentType": 5123, "count": 6, "type": "SCALAR" }
              ]
            }
            """;
    }
}
