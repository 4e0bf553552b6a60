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

    [Fact]
    public async Task A_change_of_a_scene_is_told_to_those_who_show_it_or_the_list()
    {
        using var stop = new CancellationTokenSource(TimeSpan.FromSeconds(60));
        var (mine, other) = (fixture.Open("arrived/brass_lamp/brass_lamp.glb"), fixture.Open("clean/brass_lamp/brass_lamp.glb"));
        using var shows = await Connect(fixture.App.Address, stop.Token);
        using var lists = await Connect(fixture.App.Address, stop.Token);
        using var elsewhere = await Connect(fixture.App.Address, stop.Token);
        await Look(shows, mine, list: false, stop.Token);
        await Look(lists, null, list: true, stop.Token);
        // A window hears of what it shows now, not of what it showed before.
        await Look(elsewhere, mine, list: false, stop.Token);
        await Look(elsewhere, other, list: false, stop.Token);
        fixture.App.Post($"/api/scenes/{mine}/paths/style", new { style = "absolute", numbers = (int[]?)null });
        fixture.App.Post($"/api/scenes/{other}/paths/style", new { style = "absolute", numbers = (int[]?)null });
        Assert.Equal((mine, "ledger"), await Heard(shows, stop.Token));
        Assert.Equal((mine, "ledger"), await Heard(lists, stop.Token));
        Assert.Equal((other, "ledger"), await Heard(elsewhere, stop.Token));
    }

    /// <summary>Says what the window shows, and waits until the server has it.</summary>
    private static async Task Look(ClientWebSocket window, string? scene, bool list, CancellationToken stop)
    {
        var call = JsonSerializer.Serialize(
            new
            {
                type = 1,
                invocationId = "1",
                target = "Look",
                arguments = new object?[] { scene, list },
            }
        );
        await window.SendAsync(Encoding.UTF8.GetBytes(call + RecordEnd), WebSocketMessageType.Text, true, stop);
        await foreach (var message in Messages(window, stop))
            if (message.GetProperty("type").GetInt32() == 3)
                return;
    }

    private static async Task<(string Scene, string Change)> Heard(ClientWebSocket window, CancellationToken stop)
    {
        await foreach (var message in Messages(window, stop))
            if (
                message.GetProperty("type").GetInt32() == 1
                && message.GetProperty("target").GetString() == "scene"
                && message.GetProperty("arguments")[1].GetString() != "counted" // Of scenes that other tests changed.
            )
                return (message.GetProperty("arguments")[0].GetString()!, message.GetProperty("arguments")[1].GetString()!);
        throw new InvalidOperationException("the window was closed");
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
        // No more than the handshake: an event may follow in the same message.
        var answer = new byte[3];
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
