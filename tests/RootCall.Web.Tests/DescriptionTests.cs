using System.Net;
using System.Text;
using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>
/// Every route of the server's own description, called with what nobody should send: no fault, one sentence, nothing changed.
/// </summary>
[Collection(ApplicationCollection.Name)]
public sealed class DescriptionTests(ApplicationFixture fixture)
{
    private static readonly string[] Bodies =
    [
        "",
        "{}",
        "null",
        "[]",
        "\"x\"",
        "{",
        """
            { "numbers": [-1, 2147483647], "number": -5, "from": "\u0000", "to": "../../..", "path": "/etc/passwd",
              "folder": "\u0000" }
            """,
        """
            { "text": "{}", "id": "nowhere", "find": "(", "regex": true, "with": "$1", "style": "x", "kind": "x", "value": "x",
              "act": "x" }
            """,
        """
            { "name": null, "purpose": "x", "position": 0, "severity": "x", "thresholds": { "x": 1e308 }, "cause": "x",
              "keys": [null], "safe": 1 }
            """,
    ];

    /// <summary>Content type, and a form that is none, ends early, or names what cannot be a file.</summary>
    private static readonly (string Type, string Body)[] Uploads =
    [
        ("text/plain", "x"),
        ("multipart/form-data", "x"),
        ("multipart/form-data; boundary=b", "x"),
        ("multipart/form-data; boundary=b", "--b\r\nContent-Disposition: form-data; name=\"a.gltf\"; filename=\"a.gltf\"\r\n\r\n{"),
        ("multipart/form-data; boundary=b", "--b\r\nno header\r\n\r\n{\r\n--b--\r\n"),
        ("multipart/form-data; boundary=b", Part("a%00.gltf")),
        ("multipart/form-data; boundary=b", Part("../a.gltf")),
        ("multipart/form-data; boundary=b", Part(new string('a', 300) + ".gltf")),
        ("multipart/form-data; boundary=b", Part("a") + Part("a/b.gltf")),
        ("multipart/form-data; boundary=b", Part("a/b.gltf") + Part("a")),
        ("multipart/form-data; boundary=b", Part("a/")),
        ("multipart/form-data; boundary=b", Part("")),
        ("multipart/form-data; boundary=" + new string('b', 200), "x"),
    ];

    private static string Part(string name) => $"--b\r\nContent-Disposition: form-data; name=\"{name}\"; filename=\"x\"\r\n\r\n{{}}\r\n";

    private readonly RunningApplication app = fixture.App;

    [Fact]
    public void No_route_faults_whatever_it_is_sent()
    {
        var id = fixture.Open("arrived/moth_jar/moth_jar.dae");
        using var description = JsonDocument.Parse(app.Client.GetStringAsync("/openapi/v1.json").Result);
        var (calls, routes) = (0, 0);
        var faults = new List<string>();
        foreach (var path in description.RootElement.GetProperty("paths").EnumerateObject())
        foreach (var method in path.Value.EnumerateObject().Where(m => m.Name is "get" or "post" or "put" or "patch" or "delete"))
        {
            // A scene that is taken away, or a root, would be missed by the tests that follow.
            if (method.Name == "delete" || path.Name.Contains("search", StringComparison.Ordinal))
                continue;
            routes++;
            foreach (var query in Queries(method.Value))
            {
                calls++;
                var route = Filled(path.Name, id) + query;
                var answer = Send(method.Name, route, method.Name == "get" ? string.Empty : "{}");
                if ((int)answer.StatusCode >= 500)
                    faults.Add($"{method.Name} {route}: {answer.StatusCode}");
            }

            foreach (var scene in new[] { id, Guid.NewGuid().ToString(), "not-an-id" })
            foreach (var body in method.Name == "get" ? [""] : Bodies)
            {
                calls++;
                var route = Filled(path.Name, scene);
                var answer = Send(method.Name, route, body);
                if ((int)answer.StatusCode >= 500)
                    faults.Add($"{method.Name} {route} {body}: {answer.StatusCode}");
                else if ((int)answer.StatusCode >= 400 && !IsOneSentence(answer))
                    faults.Add($"{method.Name} {route} {body}: {answer.StatusCode} without a sentence");
            }
        }

        foreach (var (type, body) in Uploads)
        {
            calls++;
            using var upload = new StringContent(body);
            upload.Headers.Remove("Content-Type");
            upload.Headers.TryAddWithoutValidation("Content-Type", type);
            var answer = app.Client.PostAsync("/api/arrivals/upload", upload).Result;
            if ((int)answer.StatusCode is < 400 or >= 500 || !IsOneSentence(answer))
                faults.Add($"upload {type} {body}: {answer.StatusCode}");
        }

        Assert.True(
            faults.Count == 0,
            $"{faults.Count} of {calls} calls of {routes} routes:\n{string.Join('\n', faults.Distinct().Take(30))}"
        );
        Assert.True(routes > 40, $"only {routes} routes are described");
        Assert.Equal("Healthy", app.Client.GetStringAsync("/health").Result);
    }

    /// <summary>Each value that a query takes, as nobody should send it.</summary>
    private static IEnumerable<string> Queries(JsonElement method)
    {
        if (!method.TryGetProperty("parameters", out var parameters))
            yield break;
        foreach (var name in parameters.EnumerateArray().Where(p => p.GetProperty("in").GetString() == "query"))
        foreach (var value in new[] { "", "%00", "-1", "99999999999999", "(", "..%2F..", "%FF", "true" })
            yield return $"?{name.GetProperty("name").GetString()}={value}";
    }

    private static string Filled(string path, string scene) =>
        System.Text.RegularExpressions.Regex.Replace(path, @"\{(\w+)[^}]*\}", m => m.Groups[1].Value switch
            {
                "id" => scene,
                "number" => "1",
                "entry" => Guid.NewGuid().ToString(),
                _ => "nowhere",
            });

    private HttpResponseMessage Send(string method, string route, string body)
    {
        using var request = new HttpRequestMessage(new HttpMethod(method.ToUpperInvariant()), route);
        if (body.Length > 0)
            request.Content = new StringContent(body, Encoding.UTF8, "application/json");
        return app.Client.SendAsync(request).Result;
    }

    /// <summary>A problem document with a title of one line; a route that is not there may have no body.</summary>
    private static bool IsOneSentence(HttpResponseMessage answer)
    {
        var text = answer.Content.ReadAsStringAsync().Result;
        if (text.Length == 0)
            return answer.StatusCode is HttpStatusCode.NotFound or HttpStatusCode.UnsupportedMediaType or HttpStatusCode.MethodNotAllowed;
        using var json = JsonDocument.Parse(text);
        return json.RootElement.TryGetProperty("title", out var title) && title.GetString() is { Length: > 0 } t && !t.Contains('\n');
    }
}
