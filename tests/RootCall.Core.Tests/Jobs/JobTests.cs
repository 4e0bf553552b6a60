using RootCall.Core.Audit;
using RootCall.Core.Crossing;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Jobs;

/// <summary>What a job does, without a queue or a database.</summary>
public sealed class JobTests : IDisposable
{
    private readonly Place place = new();
    private readonly MemoryHost host;

    public JobTests() => host = new(place.Folder);

    public void Dispose() => place.Dispose();

    private async Task<Guid> Opened(string path)
    {
        await host.Arrive.Run(new Attempt(), new(path, null, "here"), default);
        return host.Arrivals[^1].Head.SceneId;
    }

    private static IEnumerable<string> Left(string folder) => Directory.Exists(folder) ? Directory.EnumerateFileSystemEntries(folder) : [];

    private MusterReport Report(Guid scene) => host.Report(host.Arrivals.FindLast(a => a.Head.SceneId == scene).Head.Id);

    [Fact]
    public async Task Of_a_delivery_every_scene_that_can_be_used_arrives_and_an_attempt_that_is_repeated_adds_nothing()
    {
        var incoming = Guid.NewGuid();
        var received = Path.GetRelativePath(place.Folder, host.Incoming(incoming));
        place.Put($"{received}/a.gltf", Look.Gltf("tex/here.png", "tex/gone.png"));
        place.Put($"{received}/b.gltf", "{ this is none");
        place.Put($"{received}/c.gltf", Look.Gltf("tex/here.png"));
        place.PutPng($"{received}/tex/here.png");
        var job = Guid.NewGuid();
        var request = new Arrive(null, incoming, "crate");

        // The first attempt is lost before its tree is in place: it leaves nothing but what was received.
        await Assert.ThrowsAsync<OperationCanceledException>(() => host.Arrive.Run(new Attempt(job) { IsLost = true }, request, default));
        Assert.False(Directory.Exists(host.Arrival(incoming)));
        Assert.True(Directory.Exists(host.Incoming(incoming)));

        var attempt = new Attempt(job);
        var told = await Assert.ThrowsAsync<CannotUseException>(() => host.Arrive.Run(attempt, request, default));
        Assert.Contains("2 other scenes arrived", told.Message, StringComparison.Ordinal);
        Assert.Contains("b.gltf", told.Message, StringComparison.Ordinal);
        Assert.Equal(["a.gltf", "c.gltf"], host.Arrivals.Select(a => Path.GetFileName(a.Head.Path)).Order());
        Assert.False(Directory.Exists(host.Incoming(incoming)));
        Assert.Empty(Left(host.Work(attempt.Token)));
        Assert.Superset(new HashSet<string> { "keeping", "reading" }, attempt.Phases);
        Assert.Equal(2, host.Queue.OfType<Remember>().Count());

        await Assert.ThrowsAsync<CannotUseException>(() => host.Arrive.Run(new Attempt(job), request, default));
        Assert.Equal(2, host.Arrivals.Count);
    }

    [Fact]
    public async Task A_search_that_was_overtaken_is_made_again()
    {
        var scene = await Opened(place.Put("s/a.gltf", Look.Gltf("wood.png")));
        Assert.Equal(ReferenceState.Missing, Report(scene).References[0].State);
        place.PutPng("lib/wood.png");
        host.Roots.Add(place.At("lib"));
        var times = 0;
        host.BeforeRemuster = () =>
        {
            if (times++ == 0)
                host.Arrivals[0] = (host.Arrivals[0].Scene, host.Arrivals[0].Head with { MusterRevision = 7 });
        };
        var attempt = new Attempt();
        await host.Search.Run(attempt, new(scene), default);
        Assert.Equal((2, 8), (times, host.Arrivals[0].Head.MusterRevision));
        Assert.Equal(place.At("lib/wood.png"), Assert.Single(Report(scene).References[0].Candidates).Path);
    }

    [Fact]
    public async Task What_is_remembered_is_looked_at_once_and_a_broken_image_has_the_scene_mustered_again()
    {
        place.PutPng("s/wood.png");
        var broken = Pictures.Png(64, 64, 9);
        broken[^20] ^= 0xFF;
        place.Put("s/cut.png", broken);
        var scene = await Opened(place.Put("s/a.gltf", Look.Gltf("wood.png", "cut.png")));
        Assert.IsType<Remember>(Assert.Single(host.Queue));
        var first = new Attempt();
        await host.Remember.Run(first, new(scene), default);
        Assert.Contains("remembering", first.Phases);
        Assert.IsType<Search>(host.Queue[^1]);
        await host.Search.Run(new Attempt(), new(scene), default);
        Assert.Equal([ReferenceState.Present, ReferenceState.Damaged], Report(scene).References.Select(r => r.State));
        var second = new Attempt();
        await host.Remember.Run(second, new(scene), default);
        Assert.DoesNotContain("remembering", second.Phases);
    }

    [Fact]
    public async Task A_package_lacks_nothing_unless_that_is_wanted_and_one_that_may_not_be_published_is_removed()
    {
        place.PutPng("s/wood.png");
        var scene = await Opened(place.Put("s/a.gltf", Look.Gltf("wood.png", "gone.png")));
        var refused = new Attempt();
        var told = await Assert.ThrowsAsync<CannotUseException>(() => host.Pack.Run(refused, new(scene, "a_v1", true, false), default));
        Assert.Contains("1 references stay unanswered", told.Message, StringComparison.Ordinal);

        var lost = new Attempt { IsLost = true };
        await Assert.ThrowsAsync<OperationCanceledException>(() => host.Pack.Run(lost, new(scene, "a_v1", true, true), default));
        foreach (var attempt in new[] { refused, lost })
            Assert.Empty(Left(host.Work(attempt.Token)).Concat(Left(Path.GetDirectoryName(host.Package(attempt.Token, "x"))!)));

        await host.Pack.Run(new Attempt(), new(scene, "a_v1", true, true), default);
        var (built, proof) = Assert.Single(host.Packages);
        Assert.True(File.Exists(built.Written));
        Assert.Equal((1, 1), (proof.Resolved, proof.Unresolved.Length));
    }

    [Fact]
    public async Task Carried_images_are_taken_out_once_and_a_copy_is_written_only_where_copies_belong()
    {
        var png = Convert.ToBase64String(Pictures.Png(4, 4, 9));
        var scene = await Opened(place.Put("s/a.gltf", Look.Gltf($"data:image/png;base64,{png}")));
        var job = Guid.NewGuid();
        await host.Extract.Run(new Attempt(job), new(scene, [Report(scene).References[0].Number]), default);
        await host.Extract.Run(new Attempt(job), new(scene, [Report(scene).References[0].Number]), default);
        var entry = Assert.Single(host.LedgerOf(scene).Entries);
        Assert.Equal((job, EntryState.Pending), (entry.Id, entry.State));
        Assert.Single(place.Files(Path.GetRelativePath(place.Folder, host.Extracted(scene))));

        await host.Change(scene, l => l with { Entries = [.. l.Entries.Select(e => e with { State = EntryState.Applied })] }, default);
        await Assert.ThrowsAsync<CannotUseException>(() => host.Copy.Run(new Attempt(), new(scene, place.At("s")), default));
        Assert.Equal(["a.gltf"], place.Files("s"));
        await host.Copy.Run(new Attempt(), new(scene, place.At("store/out/copy")), default);
        Assert.DoesNotContain("base64", File.ReadAllText(place.At("store/out/copy/a.gltf")), StringComparison.Ordinal);
    }

    /// <summary>What an artist undid stays undone, however often the scene is looked at again.</summary>
    [Fact]
    public async Task A_recipe_for_a_source_acts_once_on_arrival()
    {
        SetValue polish = new("m0", "roughness", null, ShaderValue.Of(0.2));
        var recorded = new LedgerEntry(Guid.NewGuid(), "Set", [polish], EntryState.Applied, "by hand", default);
        host.AllRecipes.Add(Recipe.Record("Polish", [recorded]) with { Source = "*" });
        place.PutPng("s/wood.png");
        var scene = await Opened(place.Put("s/a.gltf", Look.Gltf("wood.png")));
        var arrived = Assert.IsType<Remember>(Assert.Single(host.Queue));
        await host.Remember.Run(new Attempt(), arrived, default);
        Assert.Equal("recipe Polish", Assert.Single(host.LedgerOf(scene).Entries).ProposedBy);
        await host.Change(scene, _ => Ledger.Empty, default);
        await host.Remember.Run(new Attempt(), new(scene), default);
        Assert.Empty(host.LedgerOf(scene).Entries);
    }

    [Fact]
    public async Task A_scene_is_written_and_packed_in_another_format_with_what_stays_behind_told()
    {
        place.PutPng("s/wood.png");
        place.Put("s/a.mtl", "newmtl wood\nKd 1 1 1\nmap_Kd wood.png\nnewmtl gone\nmap_Kd gone.png\nmap_d other.png\n");
        const string quad = "v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\n";
        var scene = await Opened(place.Put("s/a.obj", $"mtllib a.mtl\n{quad}usemtl wood\nf 1/1 2/2 3/3\nusemtl gone\nf 1/1 2/2 3/3\n"));
        CrossInto Into(string form, string model) => new(form, new(model, CrossingRoute.Kept, false));
        var copy = new WriteCopy(scene, place.At("store/out/as-usd"), Into("usda", "open-pbr"));
        await host.Copy.Run(new Attempt(), copy, default);
        var layer = File.ReadAllText(place.At("store/out/as-usd/a.usda"));
        Assert.Contains("../../../s/wood.png", layer, StringComparison.Ordinal);
        await Assert.ThrowsAsync<CannotUseException>(() => host.Copy.Run(new Attempt(), copy, default));
        Assert.Equal(layer, File.ReadAllText(place.At("store/out/as-usd/a.usda")));
        // A principled look is nothing that a USD layer says.
        var unsaid = copy with { Folder = place.At("store/out/b"), Into = Into("usda", "principled") };
        await Assert.ThrowsAsync<CannotUseException>(() => host.Copy.Run(new Attempt(), unsaid, default));
        Assert.False(Directory.Exists(place.At("store/out/b")));

        var glb = Into("glb", "gltf-metallic-roughness");
        await Assert.ThrowsAsync<CannotUseException>(() =>
            host.Pack.Run(new Attempt(), new(scene, "a_v1", false, false, false, glb), default)
        );
        await host.Pack.Run(new Attempt(), new(scene, "a_v1", false, true, false, glb), default);
        var (built, proof) = Assert.Single(host.Packages);
        Assert.Equal(1, proof.Resolved);
        Assert.True(File.Exists(Path.Combine(built.Written, "data", "a.glb")));
        Assert.Contains(
            "gone came without its look",
            File.ReadAllText(Path.Combine(built.Written, "report.json")),
            StringComparison.Ordinal
        );
    }
}
