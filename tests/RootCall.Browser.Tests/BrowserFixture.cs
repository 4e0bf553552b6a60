using System.Globalization;
using System.Text.Json;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using RootCall.Testing;

[assembly: CollectionBehavior(DisableTestParallelization = true)]

namespace RootCall.Browser.Tests;

/// <summary>The running application with the demo, and a headless Chromium of 1280 x 800 on it.</summary>
public sealed class BrowserFixture : IDisposable
{
    private readonly Place profile = new();
    private readonly ChromeDriverService service;

    public BrowserFixture()
    {
        Demo = new();
        App = new(
            new Dictionary<string, string> { ["The Tin Orchard"] = Demo.Folder },
            new[] { "brass_lamp/brass_lamp.glb", "enamel_sign/enamel_sign.obj", "glasshouse_corner/glasshouse_corner.gltf" }.Select(s =>
                Demo.At("arrived/" + s)
            ),
            [Demo.Library]
        );
        App.StartWorker();
        RunningApplication.Until(() => App.Get("/api/scenes").GetArrayLength() == 3, "the demo's scenes did not arrive");

        (service, var options) = Chromium.Of(profile.Folder);
        options.AddUserProfilePreference("download.default_directory", Downloads);
        options.SetLoggingPreference(LogType.Browser, LogLevel.Severe);
        Driver = new(service, options, TimeSpan.FromMinutes(2));
        Driver.ExecuteCdpCommand(
            "Emulation.setDeviceMetricsOverride",
            new()
            {
                ["width"] = 1280,
                ["height"] = 800,
                ["deviceScaleFactor"] = 1,
                ["mobile"] = false,
            }
        );
        Driver.ExecuteCdpCommand("Browser.setDownloadBehavior", new() { ["behavior"] = "allow", ["downloadPath"] = Downloads });
    }

    public DemoPlace Demo { get; }

    public RunningApplication App { get; }

    public ChromeDriver Driver { get; }

    public string Downloads => profile.At("downloads");

    /// <exception cref="InvalidOperationException">The page before had an error in its console.</exception>
    public void Go(string path)
    {
        DemandQuiet();
        // Each test begins with nothing picked; a refresh would keep it.
        Driver.ExecuteScript("try { sessionStorage.clear(); } catch { /* no page is open yet */ }");
        Driver.Navigate().GoToUrl(App.Address + path);
    }

    /// <summary>A scene of that text beside the demo's, opened, and read with its ledger.</summary>
    /// <returns>Its id.</returns>
    public string Open(string name, string text)
    {
        var path = Demo.At("arrived/" + name);
        File.WriteAllText(path, text);
        Xunit.Assert.Equal("done", App.Ended(App.Post("/api/arrivals/open", new { path })).GetProperty("state").GetString());
        var id = App.SceneId(name);
        App.Settled(id);
        return id;
    }

    /// <summary>What was asked for on purpose, and is not there, is no fault of the page's.</summary>
    public void Forgive() => Driver.Manage().Logs.GetLog(LogType.Browser);

    private void DemandQuiet()
    {
        if (Driver.Manage().Logs.GetLog(LogType.Browser).FirstOrDefault() is { } told)
            throw new InvalidOperationException($"The console of {Driver.Url} says: {told.Message}");
    }

    /// <summary>Presses a key as if nothing had the focus.</summary>
    public void Press(string keys) => new OpenQA.Selenium.Interactions.Actions(Driver).SendKeys(keys).Perform();

    /// <summary>Presses a key with Shift.</summary>
    public void PressShift(string key) =>
        new OpenQA.Selenium.Interactions.Actions(Driver).KeyDown(Keys.Shift).SendKeys(key).KeyUp(Keys.Shift).Perform();

    /// <summary>Types into the stage's own field for finding. A press that met a menu still closing is made once more.</summary>
    public void Find(string letters)
    {
        for (var tries = 0; !Evaluate<bool>("return document.activeElement?.type === 'search'"); tries++)
        {
            if (tries == 50)
                throw new TimeoutException("the field for finding did not take the focus");
            Press("/");
            Thread.Sleep(tries * 10);
        }
        Press(letters);
    }

    public IWebElement See(string xpath)
    {
        IWebElement? found = null;
        RunningApplication.Until(
            () => (found = Driver.FindElements(By.XPath(xpath)).FirstOrDefault(e => e.Displayed)) is not null,
            $"“{xpath}” did not appear",
            90
        );
        return found!;
    }

    public void Click(string text) =>
        ClickAt($"//button[contains(normalize-space(.), '{text}')] | //a[contains(normalize-space(.), '{text}')]");

    /// <summary>Clicks in the open dialog, whatever of the same name lies behind it.</summary>
    public void ClickInSheet(string text) => ClickAt($"//*[@role='dialog']//button[contains(normalize-space(.), '{text}')]");

    /// <summary>Clicks, once more when the page redrew itself in between.</summary>
    public void ClickAt(string xpath)
    {
        for (var tries = 0; ; tries++)
        {
            try
            {
                See(xpath).Click();
                return;
            }
            catch (WebDriverException e) when (tries < 10 && e is StaleElementReferenceException or ElementClickInterceptedException)
            {
                Thread.Sleep(200);
            }
        }
    }

    /// <summary>Waits until the page shows the text, however it is marked up.</summary>
    public void SeeText(string text) =>
        RunningApplication.Until(() => Text.Contains(text, StringComparison.Ordinal), $"“{text}” did not appear", 40);

    /// <summary>Waits until the call, the large sentence, contains the text.</summary>
    public void SeeCall(string text) =>
        RunningApplication.Until(
            () => Call.Contains(text, StringComparison.Ordinal),
            () => $"the call did not say “{text}” but {Told}",
            40
        );

    /// <summary>What the page says of itself: the call, the ledger, tasks, refusals.</summary>
    private string Told =>
        $"“{Call}”; "
        + Evaluate<string>(
            "return [...document.querySelectorAll('[role=status], [data-sonner-toast]')].map((e) => e.innerText).join(' | ')"
        );

    public string Call => Evaluate<string>("return document.querySelector('h1')?.innerText ?? ''");

    public string Text => Evaluate<string>("return document.body.innerText");

    public T Evaluate<T>(string script) => (T)Convert.ChangeType(Driver.ExecuteScript(script)!, typeof(T), CultureInfo.InvariantCulture);

    /// <summary>Serious and critical findings of axe-core on the page as it stands.</summary>
    public IReadOnlyList<string> SeriousFindings()
    {
        Driver.ExecuteScript(File.ReadAllText(Path.Combine(Tool.Home, "web/node_modules/axe-core/axe.min.js")));
        Driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromSeconds(60);
        var found = (string)
            Driver.ExecuteAsyncScript(
                "const done = arguments[arguments.length - 1]; axe.run(document).then((r) => done(JSON.stringify(r.violations)));"
            )!;
        using var violations = JsonDocument.Parse(found);
        static string Told(JsonElement node) => $"{node.GetProperty("html")} {node.GetProperty("failureSummary")}";
        return
        [
            .. violations
                .RootElement.EnumerateArray()
                .Where(v => v.GetProperty("impact").GetString() is "serious" or "critical")
                .Select(v => $"{v.GetProperty("id")}: {string.Join(" | ", v.GetProperty("nodes").EnumerateArray().Take(3).Select(Told))}"),
        ];
    }

    public void Dispose()
    {
        try
        {
            DemandQuiet();
        }
        finally
        {
            End();
        }
    }

    private void End()
    {
        Driver.Quit();
        Driver.Dispose();
        service.Dispose();
        App.Dispose();
        profile.Dispose();
    }
}

[CollectionDefinition(Name)]
public sealed class BrowserCollection : ICollectionFixture<BrowserFixture>
{
    public const string Name = "browser";
}
