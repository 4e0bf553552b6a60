using RootCall.Testing;

[assembly: CollectionBehavior(DisableTestParallelization = true)]

namespace RootCall.Web.Tests;

/// <summary>One running application with a worker and the demo, shared by the tests that do not stop it.</summary>
public sealed class ApplicationFixture : IDisposable
{
    public ApplicationFixture()
    {
        Demo = new();
        Outside = new();
        File.CreateSymbolicLink(Demo.At("leads-out"), Outside.Folder);
        Outside.PutPng("secret.png");
        App = new(new Dictionary<string, string> { ["The Tin Orchard"] = Demo.Folder }, firstRoots: [Demo.Library]);
        App.StartWorker();
    }

    public DemoPlace Demo { get; }

    /// <summary>A folder that no request may reach.</summary>
    public Place Outside { get; }

    public RunningApplication App { get; }

    /// <summary>Opens a scene of the demo and gives its id.</summary>
    public string Open(string scene)
    {
        var ended = App.Ended(App.Post("/api/arrivals/open", new { path = Demo.At(scene) }));
        Assert.Equal("done", ended.GetProperty("state").GetString());
        return App.SceneId(Path.GetFileName(scene));
    }

    public void Dispose()
    {
        App.Dispose();
        Outside.Dispose();
        Demo.Dispose();
    }
}

[CollectionDefinition(Name)]
public sealed class ApplicationCollection : ICollectionFixture<ApplicationFixture>
{
    public const string Name = "application";
}
