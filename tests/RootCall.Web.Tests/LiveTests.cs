using System.Net.WebSockets;
using System.Text;
using System.Text.Json;

namespace RootCall.Web.Tests;

/// <summary>Progress reaches an open window: worker, PostgreSQL's NOTIFY, web process, SignalR's JSON protocol over a WebSocket.</summary>
[Collection(ApplicationCollection.Name)]
public sealed class LiveTests(ApplicationFixture fixture)
{
    private const char RecordEnd = '\u001e';

    [Fact]
    public async Task A_window_hears_of_a_task_until_it_is_done()
    {
        using var stop = new CancellationTokenSource(TimeSpan.FromSeconds(60));
        using var window = await Connect(fixture.App.Address, stop.Token);
        var work = fixture.App.Post("/api/arrivals/open", new { path = fixture.Demo.At("clean/glasshouse_corner/glasshouse_corner.gltf") });
        var states = new List<string>();
        await foreach (var message in Messages(window, stop.Token))
        {
            if (message.GetProperty("type").GetInt32() != 1)
                continue;
            Assert.Equal("work", message.GetProperty("target").GetString());
            var item = message.GetProperty("arguments")[0];
            if (item.GetProperty("id").GetString() != work.GetProperty("id").GetString())
                continue;
            states.Add(item.GetProperty("state").GetString()!);
            if (states[^1] == "done")
                break;
        }

        Assert.Contains("running", states);
        Assert.Equal("done", states[^1]);
    }

    [Fact]
    public async Task Two_windows_hear_the_same_and_one_that_leaves_disturbs_nobody()
    {
        using var stop = new CancellationTokenSource(TimeSpan.FromSeconds(60));
        using var stays = await Connect(fixture.App.Address, stop.Token);
        using (var leaves = await Connect(fixture.App.Address, stop.Token))
            leaves.Abort();
        var id = fixture.Open("clean/brass_lamp/brass_lamp.glb");
        var search = fixture.App.Post($"/api/scenes/{id}/search");
        await foreach (var message in Messages(stays, stop.Token))
            if (
                message.GetProperty("type").GetInt32() == 1
                && message.GetProperty("arguments")[0] is var item
                && item.GetProperty("id").GetString() == search.GetProperty("id").GetString()
                && item.GetProperty("state").GetString() == "done"
            )
                return;
        Assert.Fail("the window heard no end");
    }

    private static async Task<ClientWebSocket> Connect(string address, CancellationToken stop)
    {
        var socket = new ClientWebSocket();
        socket.Options.SetRequestHeader("Origin", address);
        await socket.ConnectAsync(new Uri(address.Replace("http:", "ws:", StringComparison.Ordinal) + "/hub/work"), stop);
        await socket.SendAsync(
            Encoding.UTF8.GetBytes("{\"protocol\":\"json\",\"version\":1}" + RecordEnd),
            WebSocketMessageType.Text,
            true,
            stop
        );
        var answer = new byte[16];
        var handshake = await socket.ReceiveAsync(answer, stop);
        Assert.Equal("{}" + RecordEnd, Encoding.UTF8.GetString(answer, 0, handshake.Count));
        return socket;
    }

    private static async IAsyncEnumerable<JsonElement> Messages(
        ClientWebSocket socket,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken stop
    )
    {
        var buffer = new byte[1 << 16];
        var text = new StringBuilder();
        while (socket.State == WebSocketState.Open)
        {
            var part = await socket.ReceiveAsync(buffer, stop);
            text.Append(Encoding.UTF8.GetString(buffer, 0, part.Count));
            var records = text.ToString().Split(RecordEnd);
            text.Clear().Append(records[^1]);
            foreach (var record in records[..^1])
                yield return JsonDocument.Parse(record).RootElement;
        }
    }
}
