using System.Net;
using System.Net.Http.Json;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>What a request may do, and may not: host, origin, paths.</summary>
[Collection(ApplicationCollection.Name)]
public sealed class SecurityTests(ApplicationFixture fixture)
{
    private readonly RunningApplication app = fixture.App;

    [Theory]
    [InlineData("evil.example")]
    [InlineData("127.0.0.1.evil.example")]
    [InlineData("192.168.0.9")]
    public void Another_host_name_is_refused(string host)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, app.Address + "/api/scenes");
        request.Headers.Host = host;
        Assert.Equal(HttpStatusCode.BadRequest, Send(request).StatusCode);
    }

    [Theory]
    [InlineData(null, null)]
    [InlineData("http://evil.example", null)]
    [InlineData("null", null)]
    [InlineData(null, "cross-site")]
    [InlineData(null, "same-site")]
    [InlineData("own", "cross-site")]
    public void A_change_from_elsewhere_is_refused_and_changes_nothing(string? origin, string? site)
    {
        var before = app.Get("/api/roots").GetArrayLength();
        using var request = new HttpRequestMessage(HttpMethod.Post, app.Address + "/api/roots")
        {
            Content = JsonContent.Create(new { folder = fixture.Demo.At("clean") }),
        };
        if (origin is not null)
            request.Headers.Add("Origin", origin == "own" ? app.Address : origin);
        if (site is not null)
            request.Headers.Add("Sec-Fetch-Site", site);
        var answer = Send(request);
        Assert.Equal(HttpStatusCode.Forbidden, answer.StatusCode);
        Assert.Equal("application/problem+json", answer.Content.Headers.ContentType?.MediaType);
        Assert.Equal(before, app.Get("/api/roots").GetArrayLength());
    }

    [Fact]
    public void It_listens_on_loopback_only()
    {
        var port = new Uri(app.Address).Port;
        var listening = System
            .Net.NetworkInformation.IPGlobalProperties.GetIPGlobalProperties()
            .GetActiveTcpListeners()
            .Where(l => l.Port == port);
        Assert.All(listening, l => Assert.True(IPAddress.IsLoopback(l.Address)));
    }

    [Fact]
    public void Pages_carry_a_policy_that_loads_nothing_from_elsewhere()
    {
        var answer = app.Client.GetAsync("/").Result;
        Assert.Contains("default-src 'self'", answer.Headers.GetValues("Content-Security-Policy").Single(), StringComparison.Ordinal);
        Assert.Contains("Root Call", answer.Content.ReadAsStringAsync().Result, StringComparison.Ordinal);
        // Errors carry it too, and nothing says what serves them.
        foreach (var path in new[] { "/api/nothing", $"/api/scenes/{Guid.Empty}" })
        {
            answer = app.Client.GetAsync(path).Result;
            Assert.InRange((int)answer.StatusCode, 400, 499);
            Assert.Contains("default-src 'self'", answer.Headers.GetValues("Content-Security-Policy").Single(), StringComparison.Ordinal);
            Assert.Empty(answer.Headers.Server);
        }
    }

    [Theory]
    [InlineData("http://evil.example", HttpStatusCode.Forbidden)]
    [InlineData(null, HttpStatusCode.Forbidden)]
    [InlineData("own", HttpStatusCode.SwitchingProtocols)]
    public void Only_own_pages_may_listen(string? origin, HttpStatusCode expected)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, app.Address + "/hub/work");
        if (origin is not null)
            request.Headers.Add("Origin", origin == "own" ? app.Address : origin);
        request.Headers.Add("Connection", "Upgrade");
        request.Headers.Add("Upgrade", "websocket");
        request.Headers.Add("Sec-WebSocket-Version", "13");
        request.Headers.Add("Sec-WebSocket-Key", Convert.ToBase64String(new byte[16]));
        Assert.Equal(expected, Send(request).StatusCode);
    }

    [Theory]
    [InlineData("/etc")]
    [InlineData("demo/..")]
    [InlineData("demo/leads-out")]
    [InlineData("demo/none")]
    public void Browsing_shows_only_what_lies_in_the_server_folders(string path)
    {
        var asked = path.Replace("demo", fixture.Demo.Folder, StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            app.Client.GetAsync("/api/folders?path=" + Uri.EscapeDataString(asked)).Result.StatusCode
        );
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            app.Client.PostAsJsonAsync("/api/roots", new { folder = asked }).Result.StatusCode
        );
    }

    [Fact]
    public void A_link_that_leads_out_is_not_even_listed()
    {
        var top = app.Get("/api/folders").GetProperty("entries").EnumerateArray().Select(e => e.GetProperty("path").GetString());
        Assert.Equal([fixture.Demo.Folder], top);
        var names = app.Get("/api/folders?path=" + Uri.EscapeDataString(fixture.Demo.Folder))
            .GetProperty("entries")
            .EnumerateArray()
            .Select(e => e.GetProperty("name").GetString())
            .ToList();
        Assert.Contains("library", names);
        Assert.DoesNotContain("leads-out", names);
    }

    [Theory]
    [InlineData("/etc/passwd")]
    [InlineData("demo/leads-out/secret.png")]
    [InlineData("demo/answer-key.json")]
    [InlineData("demo/arrived/none.gltf")]
    public void Only_scenes_inside_the_server_folders_are_opened(string path)
    {
        var answer = app
            .Client.PostAsJsonAsync(
                "/api/arrivals/open",
                new { path = path.Replace("demo", fixture.Demo.Folder, StringComparison.Ordinal) }
            )
            .Result;
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
    }

    private static HttpResponseMessage Send(HttpRequestMessage request)
    {
        using var client = new HttpClient();
        return client.Send(request, HttpCompletionOption.ResponseHeadersRead);
    }
}
