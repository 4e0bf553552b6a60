using OpenQA.Selenium.Chrome;

namespace RootCall.Browser.Tests;

/// <summary>Debian's Chromium without a head, and its driver.</summary>
internal static class Chromium
{
    /// <param name="profile">A new folder.</param>
    public static (ChromeDriverService Service, ChromeOptions Options) Of(string profile)
    {
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments(
            "--headless=new",
            "--no-sandbox",
            "--use-angle=swiftshader",
            "--enable-unsafe-swiftshader",
            "--ignore-gpu-blocklist",
            "--disable-dev-shm-usage",
            "--disable-quic",
            "--no-first-run",
            "--no-default-browser-check",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--disable-default-apps",
            "--force-device-scale-factor=1",
            "--window-size=1280,800",
            "--user-data-dir=" + profile
        );
        var service = ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver");
        service.HostName = "127.0.0.1";
        service.SuppressInitialDiagnosticInformation = true;
        return (service, options);
    }
}
