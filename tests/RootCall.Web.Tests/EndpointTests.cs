using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>What is asked wrongly is answered with one sentence in a problem document, and changes nothing.</summary>
[Collection(ApplicationCollection.Name)]
public sealed class EndpointTests(ApplicationFixture fixture)
{
    private readonly RunningApplication app = fixture.App;

    [Theory]
    [InlineData("/api/scenes/01a2127b-0000-0000-0000-000000000000")]
    [InlineData("/api/scenes/01a2127b-0000-0000-0000-000000000000/muster")]
    [InlineData("/api/scenes/01a2127b-0000-0000-0000-000000000000/send-off")]
    [InlineData("/api/scenes/01a2127b-0000-0000-0000-000000000000/ledger")]
    [InlineData("/api/packages/01a2127b-0000-0000-0000-000000000000/download")]
    public void What_is_not_there_is_said_in_one_sentence(string path)
    {
        var answer = app.Client.GetAsync(path).Result;
        Assert.Equal(
            (HttpStatusCode.UnprocessableEntity, "application/problem+json"),
            (answer.StatusCode, answer.Content.Headers.ContentType?.MediaType)
        );
        Assert.StartsWith("There is no such", Title(answer), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("{}")]
    [InlineData("{\"from\":\"D:/nowhere\",\"to\":\"/nowhere\"}")]
    [InlineData("{\"numbers\":[1],\"folder\":\"/etc\"}")]
    [InlineData("{\"number\":1,\"path\":\"/etc/passwd\"}")]
    [InlineData("{\"number\":999,\"path\":\"/etc/passwd\"}")]
    public void A_decision_that_means_nothing_is_refused(string body)
    {
        var id = fixture.Open("arrived/glasshouse_corner/glasshouse_corner.gltf");
        var answer = app
            .Client.PostAsync($"/api/scenes/{id}/ledger/entries", new StringContent(body, Encoding.UTF8, "application/json"))
            .Result;
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        Assert.InRange(Title(answer).Length, 20, 200);
        Assert.Equal(0, app.Get($"/api/scenes/{id}/ledger").GetProperty("entries").GetArrayLength());
    }

    [Fact]
    public void A_body_that_is_no_JSON_or_no_form_is_a_bad_call_and_not_a_fault()
    {
        Assert.Equal(
            HttpStatusCode.BadRequest,
            app.Client.PostAsync("/api/roots", new StringContent("{", Encoding.UTF8, "application/json")).Result.StatusCode
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, app.Client.PostAsJsonAsync("/api/arrivals/upload", new { }).Result.StatusCode);
        using var empty = new MultipartFormDataContent { { new StringContent("text"), "field" } };
        Assert.Contains("holds no file", Title(app.Client.PostAsync("/api/arrivals/upload", empty).Result), StringComparison.Ordinal);
    }

    [Fact]
    public void A_picture_that_nobody_has_is_no_content_and_one_that_nobody_offers_is_refused()
    {
        var id = fixture.Open("arrived/glasshouse_corner/glasshouse_corner.gltf");
        Assert.Equal(HttpStatusCode.NoContent, app.Client.GetAsync($"/api/scenes/{id}/references/10/picture").Result.StatusCode);
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            app.Client.GetAsync($"/api/scenes/{id}/references/1/picture?candidate=7").Result.StatusCode
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, app.Client.GetAsync($"/api/scenes/{id}/references/77/picture").Result.StatusCode);
    }

    [Fact]
    public void Health_and_description_answer_and_large_answers_are_compressed()
    {
        Assert.Equal("Healthy", app.Client.GetStringAsync("/health").Result);
        Assert.Contains("/api/scenes/{id}/muster", app.Client.GetStringAsync("/openapi/v1.json").Result, StringComparison.Ordinal);
        using var request = new HttpRequestMessage(
            HttpMethod.Get,
            $"/api/scenes/{fixture.Open("arrived/brass_lamp/brass_lamp.glb")}/muster"
        );
        request.Headers.Add("Accept-Encoding", "br");
        Assert.Equal("br", Assert.Single(app.Client.Send(request).Content.Headers.ContentEncoding));
    }

    private static string Title(HttpResponseMessage answer) =>
        JsonDocument.Parse(answer.Content.ReadAsStringAsync().Result).RootElement.GetProperty("title").GetString()!;
}
