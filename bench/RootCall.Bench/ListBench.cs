using System.Globalization;
using RootCall.Browser.Tests;

namespace RootCall.Bench;

/// <summary>The list of 50,000 references in headless Chromium: frames while it scrolls, and answers while letters are typed.</summary>
internal static class ListBench
{
    private const int Rows = 50_000;
    private const int FrameLimit = 50;
    private const int AnswerLimit = 100;

    private const string Scroll = """
        const done = arguments[arguments.length - 1];
        const list = document.querySelector('[data-list=references]');
        const frames = [];
        let last = 0;
        const step = (now) => {
          if (last) frames.push(now - last);
          last = now;
          list.scrollTop += 160;
          if (frames.length < 240) requestAnimationFrame(step);
          else done(Math.max(...frames));
        };
        requestAnimationFrame(step);
        """;

    /// <summary>Types a word letter by letter; answers the longest time from a letter to the list that shows its rows.</summary>
    private const string Type = """
        const done = arguments[arguments.length - 1];
        const field = document.querySelector('input[type=search]');
        const grid = document.querySelector('[data-list=references]');
        const put = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set;
        const times = [];
        const word = 'panel_12345';
        const letter = (n) => {
          if (n > word.length) return done(Math.max(...times));
          const before = performance.now();
          let answered = before;
          const watch = new MutationObserver(() => (answered = performance.now()));
          watch.observe(grid, { subtree: true, childList: true, attributes: true });
          put.call(field, word.slice(0, n));
          field.dispatchEvent(new Event('input', { bubbles: true }));
          setTimeout(() => { watch.disconnect(); times.push(answered - before); letter(n + 1); }, 400);
        };
        letter(1);
        """;

    public static void Run()
    {
        using var browser = new BrowserFixture();
        var images = string.Join(
            ",",
            Enumerable.Range(0, Rows).Select(i => $$"""{"uri":"{{(i % 2 == 0 ? "tex" : "D:/jobs/" + (i % 40))}}/panel_{{i:00000}}.png"}""")
        );
        var path = browser.Demo.At("arrived/many.gltf");
        File.WriteAllText(path, $$"""{"asset":{"version":"2.0"},"images":[{{images}}]}""");
        browser.App.Ended(browser.App.Post("/api/arrivals/open", new { path }), seconds: 180);
        browser.Go("/muster/" + browser.App.SceneId("many.gltf"));
        browser.SeeCall("of 50,000 references");
        Thread.Sleep(2000);
        browser.Driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromSeconds(60);
        Measure.Print($"longest frame while {Rows:N0} rows scroll", Ask(browser, Scroll), "the limit", FrameLimit);
        Measure.Print($"longest answer to a letter typed into find, {Rows:N0} rows", Ask(browser, Type), "the limit", AnswerLimit);
    }

    private static double Ask(BrowserFixture browser, string script) =>
        Enumerable.Range(0, 3).Min(_ => Convert.ToDouble(browser.Driver.ExecuteAsyncScript(script), CultureInfo.InvariantCulture));
}
