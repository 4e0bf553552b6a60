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
        RunningApplication.Until(() => App.Get("/api/roots").GetArrayLength() == 1, "the first root was not made");
    }

    public DemoPlace Demo { get; }

    /// <summary>A folder that no request may reach.</summary>
    public Place Outside { get; }

    public RunningApplication App { get; }

    /// <summary>Opens a scene of the demo, with an empty ledger, and gives its id.</summary>
    public string Open(string scene)
    {
        var ended = App.Ended(App.Post("/api/arrivals/open", new { path = Demo.At(scene) }));
        Assert.Equal("done", ended.GetProperty("state").GetString());
        // The last that arrived stands first, and what is opened again arrives again.
        var id = App.Get("/api/scenes")[0].GetProperty("id").GetString()!;
        Assert.Equal(Demo.At(scene), App.Get("/api/scenes/" + id).GetProperty("path").GetString());
        while (App.Get($"/api/scenes/{id}/ledger").GetProperty("entries").GetArrayLength() > 0)
            App.Post($"/api/scenes/{id}/ledger/undo");
        return id;
    }

    public void Dispose()
    {
        App.Dispose();
        Outside.Dispose();
    }
}

[CollectionDefinition(Name)]
public sealed class ApplicationCollection : ICollectionFixture<ApplicationFixture>
{
    public const string Name = "application";
}
