using System.Net;
using System.Net.Sockets;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary><c>./rootcall</c> itself: one clear sentence for what is in the way.</summary>
public sealed class LauncherTests : IDisposable
{
    private readonly Place place = new();

    [Theory]
    [InlineData("ROOTCALL_PORT")]
    public void A_port_that_is_taken_is_told_with_the_setting_that_changes_it(string setting)
    {
        using var taken = new TcpListener(IPAddress.Loopback, 0);
        taken.Start();
        var port = ((IPEndPoint)taken.LocalEndpoint).Port;
        var result = Tool.Run("env", [$"{setting}={port}", $"ROOTCALL_DATA={place.At("data")}", Path.Combine(Tool.Home, "rootcall"), "up"]);
        Assert.Equal(2, result.Status);
        Assert.Contains($"port {port} is taken", result.Error, StringComparison.Ordinal);
        Assert.Contains(setting, result.Error, StringComparison.Ordinal);
        Assert.Equal(1, result.Error.Count(c => c == '\n'));
        Assert.False(Directory.Exists(place.At("data/postgres")));
    }

    [Fact]
    public void The_verbs_of_the_job_run_through_it_from_any_folder()
    {
        place.PutPng("a.png");
        place.Put("s.gltf", Look.Gltf("a.png", "b.png"));
        var result = Tool.Run(Path.Combine(Tool.Home, "rootcall"), ["muster", "s.gltf"], place.Folder);
        Assert.True(result.Status == 1, result.Error);
        Assert.Contains("1 of 2 references answer", result.Output, StringComparison.Ordinal);
        Assert.Contains(
            "./rootcall up",
            Tool.Run(Path.Combine(Tool.Home, "rootcall"), ["help"], place.Folder).Output,
            StringComparison.Ordinal
        );
    }

    public void Dispose() => place.Dispose();
}
