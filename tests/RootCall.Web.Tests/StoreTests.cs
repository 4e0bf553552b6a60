using System.Collections.Immutable;
using Microsoft.Extensions.Configuration;
using Microsoft.Extensions.DependencyInjection;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Jobs;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Data;
using RootCall.Data.Stores;
using RootCall.Data.Work;
using RootCall.Native;
using RootCall.Testing;

namespace RootCall.Web.Tests;

/// <summary>What goes into PostgreSQL comes out as it was.</summary>
[Collection(ApplicationCollection.Name)]
public sealed class StoreTests : IDisposable
{
    private readonly Place place = new();
    private readonly ServiceProvider services;

    public StoreTests(ApplicationFixture fixture)
    {
        var settings = new Dictionary<string, string?>
        {
            ["RootCall:Database"] = fixture.App.Database,
            ["RootCall:Data"] = place.Folder,
            ["RootCall:Folders"] = $"here={place.Folder}",
        };
        var collection = new ServiceCollection();
        collection.AddRootCallData(new ConfigurationBuilder().AddInMemoryCollection(settings).Build());
        services = collection.BuildServiceProvider();
    }

    [Fact]
    public async Task Several_tasks_may_remember_the_same_files_at_once()
    {
        place.PutPng("s/here.png");
        var report = Look.Muster(place.Put("s/two.gltf", Look.Gltf("here.png", "gone.png")));
        var scene = await services
            .GetRequiredService<SceneStore>()
            .Arrive(new(Guid.NewGuid(), new(report, 1, []), null, "here", Uploaded: true, DateTimeOffset.UtcNow), default);
        var seen = services.GetRequiredService<SeenStore>();
        var files = report.References.ToDictionary(
            r => r.Reference.Key,
            r => new LastSeen(place.At("s/here.png"), new(1, DateTime.UnixEpoch), 4, 4, "hash")
        );
        await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => seen.Put(scene, files, default)));
        Assert.Equal(2, (await seen.Read(scene, default)).Count);
    }

    [Fact]
    public async Task Statistics_of_an_image_are_known_to_other_processes_until_the_file_changes()
    {
        var path = place.PutPng("s/measured.png", 51);
        var stamp = FileFacts.Stamp(path)!.Value;
        using var decoder = new ImageDecoder(Bounds.Default);
        var learned = new FileFacts(decoder);
        var stats = learned.Pixels(path, stamp)!;
        var store = services.GetRequiredService<KnownFileStore>();
        await store.Save(learned, default);
        var known = Assert.Single(await store.Settled([new(path, stamp)], default)).Pixels!;
        Assert.Equal(
            (stats.Channels[0].Mean, stats.Channels[0].Histogram.Sum()),
            (known.Channels[0].Mean, known.Channels[0].Histogram.Sum())
        );
        Assert.Equal(0.2, known.Channels[0].Mean, 3);
        Assert.Empty(await store.Settled([new(path, stamp with { Bytes = stamp.Bytes + 1 })], default));

        // So is what decoding found broken: its header alone says nothing.
        var png = Pictures.Png(64, 64, 9);
        png[^20] ^= 0xFF;
        var broken = place.Put("s/broken.png", png);
        stamp = FileFacts.Stamp(broken)!.Value;
        Assert.Null(learned.Probe(broken, stamp).Damage);
        Assert.Null(learned.Pixels(broken, stamp));
        await store.Save(learned, default);
        var other = new FileFacts();
        Assert.Null(other.Probe(broken, stamp).Damage);
        await store.Load(other, [broken], default, again: true);
        Assert.NotNull(other.Probe(broken, stamp).Damage);
    }

    [Fact]
    public async Task A_muster_of_every_state_and_odd_name_is_read_back_the_same()
    {
        place.PutPng("s/here.png");
        place.PutPng("lib/two.png", 1);
        place.PutPng("lib/x/two.png", 2);
        place.Put("s/cut.png", Pictures.Png(9, 9, 1)[..40]);
        var scene = place.Put(
            "s/odd.gltf",
            Look.Gltf(
                "here.png",
                "two.png",
                "cut.png",
                "gone \\\"quoted\\\".png",
                "nul\\u0000.png",
                "木/ünï.png",
                "data:image/png;base64,AAAA",
                "/mnt/x.png"
            )
        );
        var report = Look.Muster(scene, place.At("lib"));
        var store = services.GetRequiredService<SceneStore>();
        var id = Guid.NewGuid();
        await store.Arrive(new(id, new(report, 3, []), null, "here", Uploaded: true, DateTimeOffset.UtcNow), default);
        // A task taken up again.
        await store.Arrive(new(id, new(report, 3, []), null, "here", Uploaded: true, DateTimeOffset.UtcNow), default);

        var sceneId = await SceneOf(id);
        var arrival = (await store.Arrival(sceneId, default))!;
        Assert.Equal(("odd.gltf", 1, 8, 3), (Path.GetFileName(arrival.Path), arrival.Version, arrival.Materials, arrival.FilesIndexed));
        var back = await store.Report(arrival.Id, CancellationToken.None);
        Assert.Equal(report.References.Select(Flat), back.References.Select(Flat));
        static string Text(object value) =>
            System.Text.Json.JsonSerializer.Serialize(value).Replace("\\u0000", "\\uFFFD", StringComparison.Ordinal);
        Assert.Equal(Text(report.Scene.Materials), Text(back.Scene.Materials));
        Assert.Equal(report.Scene.Files, back.Scene.Files.AsEnumerable());
        Assert.Equal(report.Scene.Counts, back.Scene.Counts);

        var found = new Mustered(report with { References = [report.References[0]] }, 9, [new(Guid.Empty, "x", "y")]) { Included = [id] };
        var started = (await store.Newest(sceneId, default))!;
        Assert.True(await store.Remuster(started, found, DateTimeOffset.UtcNow, default));
        // Work that began before that stores nothing over it.
        Assert.False(await store.Remuster(started, found with { Indexed = 4 }, DateTimeOffset.UtcNow, default));
        var later = (await store.Arrival(sceneId, default))!;
        Assert.Equal((2, 9, id), (later.MusterRevision, later.FilesIndexed, Assert.Single(later.Included)));
        Assert.Equal(new RefusedEdit(Guid.Empty, "x", "y"), Assert.Single((await store.Kept(later.Id, default)).Refused));
        Assert.Single((await store.Report(later.Id, CancellationToken.None)).References);
    }

    [Fact]
    public async Task Two_hands_on_one_ledger_lose_no_entry()
    {
        var report = Look.Muster(place.Put("s/l.gltf", Look.Gltf("a.png")));
        var arrival = Guid.NewGuid();
        await services
            .GetRequiredService<SceneStore>()
            .Arrive(new(arrival, new(report, 0, []), null, "here", Uploaded: true, DateTimeOffset.UtcNow), default);
        var scene = await SceneOf(arrival);
        var ledgers = services.GetRequiredService<LedgerStore>();
        var refused = 0;
        await Parallel.ForEachAsync(Enumerable.Range(0, 12), async (n, stop) =>
        {
            try
            {
                await ledgers.Change(scene, l => l.Put(Entry($"entry {n}")), stop);
            }
            catch (CannotUseException e)
            {
                Assert.Contains("another window", e.Message, StringComparison.Ordinal);
                Interlocked.Increment(ref refused);
            }
        });
        var entries = (await ledgers.Read(scene, default)).Entries;
        Assert.Equal(12, entries.Length + refused);
        Assert.Equal(entries.Length, entries.Select(e => e.Sentence).Distinct().Count());
        Assert.All(entries, e => Assert.Equal("/x/a.png", Assert.IsType<RelinkReference>(Assert.Single(e.Edits)).To));
    }

    /// <summary>Ledgers outlive the program that wrote them: the words of channels stay as files and earlier versions write them.</summary>
    [Fact]
    public async Task Channels_are_kept_by_their_words_and_read_where_none_was_written()
    {
        var arrival = Guid.NewGuid();
        await services
            .GetRequiredService<SceneStore>()
            .Arrive(
                new(
                    arrival,
                    new(Look.Muster(place.Put("s/c.gltf", Look.Gltf("a.png"))), 0, []),
                    null,
                    "here",
                    Uploaded: true,
                    DateTimeOffset.UtcNow
                ),
                default
            );
        var scene = await SceneOf(arrival);
        var ledgers = services.GetRequiredService<LedgerStore>();
        var use = new ImageUse(new(ReferenceKind.Image, "c.gltf", "a.png")) { Channels = Channels.Luminance };
        var entry = Entry("channels") with { Edits = [new SetImage("m0", "roughness", null, use)] };
        await ledgers.Change(scene, l => l.Put(entry), default);
        Assert.Equal(Channels.Luminance, Kept(await ledgers.Read(scene, default)));
        await using (
            var db = await services.GetRequiredService<Microsoft.EntityFrameworkCore.IDbContextFactory<RootCallDb>>().CreateDbContextAsync()
        )
        {
            var row = db.LedgerEntries.Single(e => e.Id == entry.Id);
            var text = row.Edits.RootElement.GetRawText();
            Assert.Contains("\"channels\": \"l\"", text, StringComparison.Ordinal);
            row.Edits = System.Text.Json.JsonDocument.Parse(text.Replace("\"l\"", "\"\"", StringComparison.Ordinal));
            await db.SaveChangesAsync();
        }

        Assert.Equal(Channels.Rgb, Kept(await ledgers.Read(scene, default)));

        static Channels Kept(Ledger ledger) => Assert.IsType<SetImage>(Assert.Single(Assert.Single(ledger.Entries).Edits)).To!.Channels;
    }

    [Fact]
    public async Task A_task_that_has_ended_is_not_changed_any_more()
    {
        var work = services.GetRequiredService<WorkStore>();
        var row = await work.Add(new Search(Guid.NewGuid()), "Search", null, default);
        Assert.True(await work.Update(row.Id, w => w.State = WorkStates.Cancelled));
        Assert.False(await work.Update(row.Id, w => w.State = WorkStates.Done));
        var ended = (await work.Find(row.Id, default))!;
        Assert.Equal(WorkStates.Cancelled, ended.State);
        Assert.NotNull(ended.EndedAt);
        Assert.Equal(WorkStore.Request<Search>(row), WorkStore.Request<Search>(ended));
    }

    [Fact]
    public async Task A_task_that_runs_is_in_the_list_however_many_newer_ones_there_are()
    {
        var work = services.GetRequiredService<WorkStore>();
        var running = await work.Add(new Search(Guid.NewGuid()), "Search", null, default);
        Assert.NotNull(await work.Claim(running.Id, default));
        for (var i = 0; i < 50; i++)
            await work.Update((await work.Add(new Search(Guid.NewGuid()), "Search", null, default)).Id, w => w.State = WorkStates.Done);
        Assert.Contains(await work.Recent(default), w => w.Id == running.Id);
        await work.Update(running.Id, w => w.State = WorkStates.Done);
        Assert.DoesNotContain(await work.Recent(default), w => w.Id == running.Id);
    }

    [Fact]
    public async Task Roots_lie_in_the_server_folders_and_are_kept_once()
    {
        var roots = services.GetRequiredService<RootStore>();
        Directory.CreateDirectory(place.At("a root"));
        var first = await roots.Add(place.At("a root"), DateTimeOffset.UtcNow, default);
        Assert.Equal(first.Id, (await roots.Add(place.At("a root/../a root"), DateTimeOffset.UtcNow, default)).Id);
        await Assert.ThrowsAsync<CannotUseException>(() => roots.Add("/etc", DateTimeOffset.UtcNow, default));
        await Assert.ThrowsAsync<CannotUseException>(() => roots.Add(place.At("none"), DateTimeOffset.UtcNow, default));
        await roots.Remove(first.Id, default);
        Assert.DoesNotContain(await roots.All(default), r => r.Id == first.Id);
    }

    public void Dispose()
    {
        services.Dispose();
        place.Dispose();
    }

    private async Task<Guid> SceneOf(Guid arrival)
    {
        await using var db = await services
            .GetRequiredService<Microsoft.EntityFrameworkCore.IDbContextFactory<RootCallDb>>()
            .CreateDbContextAsync();
        return db.Arrivals.Single(a => a.Id == arrival).SceneId;
    }

    private static LedgerEntry Entry(string sentence) =>
        new(
            Guid.NewGuid(),
            sentence,
            ImmutableArray.Create<Edit>(new RelinkReference(new(ReferenceKind.Image, "l.gltf", "a.png"), null, "/x/a.png")),
            EntryState.Pending,
            "by hand",
            DateTimeOffset.UtcNow
        );

    // PostgreSQL holds no zero character, so a path with one comes back with the sign for what cannot be shown.
    private static string Flat(MusteredReference r) =>
        System.Text.Json.JsonSerializer.Serialize(
            new
            {
                r.Number,
                r.Reference.Key.File,
                Written = r.Reference.Written.Replace('\0', '\uFFFD'),
                r.Reference.Kind,
                r.State,
                r.Flags,
                r.Resolved,
                r.Stamp,
                r.Facts,
                r.Damage,
                Candidates = r.Candidates.Select(c => new
                {
                    c.Path,
                    c.Score,
                    Reasons = string.Join('|', c.Reasons),
                }),
                Uses = r.Reference.UsedBy.Select(u => u.ToString()),
                Sites = r.Reference.Sites.Select(s => s.ToString()),
            }
        );
}
