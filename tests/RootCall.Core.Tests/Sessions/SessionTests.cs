using RootCall.Core.Audit;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;
using RootCall.Core.Imaging.Pixels;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Sessions;
using RootCall.Core.Tests.Law;
using RootCall.Testing;

namespace RootCall.Core.Tests.Sessions;

/// <summary>One session holds a scene: another ledger gives another session that shares what is the same.</summary>
public sealed class SessionTests : IDisposable
{
    private readonly Place place = new();

    public void Dispose() => place.Dispose();

    [Fact]
    public void What_an_entry_does_not_touch_is_the_same_object_afterwards()
    {
        var before = Open(Look.Gltf("a.png", "b.png", "c.png"));
        var after = before.And(Roughness("m1", 0.3));
        Assert.Same(before.Current.Materials[0], after.Current.Materials[0]);
        Assert.NotSame(before.Current.Materials[1], after.Current.Materials[1]);
        Assert.Same(before.Current.Materials[2], after.Current.Materials[2]);
        Assert.Equal(before.Current.References, after.Current.References);
        Assert.Equal(before.Report.References, after.Report.References);
    }

    [Fact]
    public void Taking_the_last_entry_off_gives_back_the_very_scene_that_was_there()
    {
        var arrived = Open(Look.Gltf("a.png"));
        var (first, second) = (Roughness("m0", 0.3), Roughness("m0", 0.7));
        var one = arrived.And(first);
        var two = one.And(second);
        Assert.Same(one.Current, two.With([first]).Current);
        Assert.Same(arrived.Current, two.With([]).Current);
        Assert.Equal(0.7, Value(two, "m0"));
        Assert.Equal(0.7, Value(two.With([second]), "m0"));
    }

    [Fact]
    public void An_entry_that_was_changed_in_the_middle_is_made_again_and_so_is_what_follows()
    {
        var (first, second) = (Roughness("m0", 0.3), Roughness("m1", 0.4));
        var session = Open(Look.Gltf("a.png", "b.png")).With([first, second]);
        var changed = session.With([first with { Edits = Roughness("m0", 0.9).Edits }, second]);
        Assert.Equal((0.9, 0.4), (Value(changed, "m0"), Value(changed, "m1")));
        Assert.Equal((0.3, 0.4), (Value(session, "m0"), Value(session, "m1")));
    }

    [Fact]
    public void A_refusal_stays_with_its_entry_and_the_rest_is_made()
    {
        var bad = TestSession.Entry(
            new SetValue("gone", "roughness", null, ShaderValue.Of(1)),
            new SetValue("m0", "roughness", null, ShaderValue.Of(0.25))
        );
        var session = Open(Look.Gltf("a.png")).With([bad, Roughness("m0", 0.5)]);
        Assert.Equal(bad.Id, Assert.Single(session.Refused).Entry.Id);
        Assert.Equal(0.5, Value(session, "m0"));
        Assert.Empty(session.With([Roughness("m0", 0.5)]).Refused);
    }

    [Fact]
    public void Nothing_is_written_while_entries_come_and_go()
    {
        place.PutPng("a.png");
        var session = Open(Look.Gltf("a.png"));
        var before = place.Files().Select(f => (f, File.GetLastWriteTimeUtc(place.At(f)))).ToList();
        for (var n = 0; n < 50; n++)
            session = session.And(Roughness("m0", n / 50.0));
        Assert.Equal(before, place.Files().Select(f => (f, File.GetLastWriteTimeUtc(place.At(f)))));
        File.Delete(place.At("scene/s.gltf"));
        Assert.Equal(0.125, Value(session.And(Roughness("m0", 0.125)), "m0"));
    }

    [Fact]
    public void Only_references_that_an_entry_touches_are_looked_for_again()
    {
        place.PutPng("scene/a.png", 1);
        place.PutPng("scene/b.png", 2);
        var arrived = Open(Look.Gltf("a.png", "b.png"));
        File.Delete(place.At("scene/b.png"));
        var relinked = arrived.And(
            TestSession.Entry(new RelinkReference(arrived.Report.Named("a.png").Reference.Key, null, place.PutPng("other/a.png", 7)))
        );
        // Nobody asked about b.png, so what was known of it stands; the watcher of files tells when it goes.
        Assert.Same(arrived.Report.Named("b.png"), relinked.Report.Named("b.png"));
        Assert.Equal(place.At("other/a.png"), relinked.Report.Named("a.png").Resolved);
        Assert.Equal(place.At("scene/a.png"), relinked.With([]).Report.Named("a.png").Resolved);
    }

    [Fact]
    public void Clear_candidates_are_taken_libraries_first_until_none_is_left()
    {
        place.Put("lib/tin.mtl", "newmtl tin\nKd 1 1 1\nmap_Kd tin_basecolor.png\n");
        place.PutPng("lib/tin_basecolor.png");
        var scene = place.Put("scene/s.obj", "mtllib D:/gone/tin.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl tin\nf 1 2 3\n");
        var opened = TestSession.Open(scene, Look.Context(scene, place.At("lib")));
        Assert.DoesNotContain(opened.Report.References, r => r.Reference.Kind == ReferenceKind.Image);
        var entries = 0;
        var taken = opened.TakeClear(edits =>
        {
            entries++;
            return TestSession.Entry(edits);
        });
        Assert.Equal(ReferenceState.Present, taken.Report.Named("tin_basecolor.png").State);
        Assert.Equal(1, entries);
        Assert.Equal(taken.Report.References.Length, taken.Report.Answering);
        Assert.Same(taken, taken.TakeClear(TestSession.Entry));
    }

    [Fact]
    public void Only_the_references_that_may_be_decided_are_decided()
    {
        place.PutPng("lib/a.png", 1);
        place.PutPng("lib/b.png", 2);
        var scene = place.Put("scene/s.gltf", Look.Gltf("gone/a.png", "gone/b.png"));
        var session = TestSession.Open(scene, Look.Context(scene, place.At("lib")));
        var only = session.Report.Named("b.png").Number;
        var taken = session.TakeClear(TestSession.Entry, new HashSet<int> { only });
        Assert.Equal(
            (ReferenceState.Elsewhere, ReferenceState.Present),
            (taken.Report.Named("a.png").State, taken.Report.Named("b.png").State)
        );
    }

    [Fact]
    public void The_scene_as_it_is_written_musters_like_the_scene_in_memory()
    {
        var picture = place.PutPng("picture.png", 5);
        foreach (var source in OwnScenes.All(place))
        {
            var maker = new EditMaker(new Random(99), picture);
            var session = TestSession.Open(source, Look.Context(source, place.Folder));
            for (var n = 0; n < 40 && maker.Next(session.Current) is { } edit; n++)
                session = session.And(TestSession.Entry(edit));
            var written = session.Written(Directory.CreateDirectory(place.At($"written/{Path.GetExtension(source)}")).FullName);
            Assert.Equal(States(session.Report), States(written));
        }

        static List<string> States(MusterReport report) =>
            [.. report.References.Select(r => $"{r.Reference.Key.Written} {r.State} {r.Resolved}").Order(StringComparer.Ordinal)];
    }

    /// <summary>Laid over an earlier muster, without looking for anything, an edit shows what looking at everything shows.</summary>
    [Fact]
    public void A_muster_laid_over_an_earlier_one_answers_as_that_of_the_edited_scene()
    {
        var picture = place.PutPng("picture.png", 5);
        var (same, other) = (0, 0);
        foreach (var source in OwnScenes.All(place))
        {
            var maker = new EditMaker(new Random(17), picture);
            var arrived = TestSession.Open(source, Look.Context(source, place.Folder));
            var context = arrived.Context with { Index = new RootIndex([]), LooksBeside = false };
            for (var n = 0; n < 30 && maker.Next(arrived.Current) is { } edit; n++)
            {
                var edited = arrived.And(TestSession.Entry(edit));
                var laid = Mustering.Run(edited.Current, context, arrived.Report);
                Assert.Equal(Answers(edited.Report), Answers(laid));
                _ = laid.References == arrived.Report.References ? same++ : other++;
            }
        }

        // Both ways were gone: what touches no reference leaves the very rows.
        Assert.True(same > 20 && other > 20, $"{same} left the rows, {other} did not.");

        static List<string> Answers(MusterReport report) =>
            [
                .. report
                    .References.Where(r => r.State.Answers())
                    .Select(r => $"{r.Reference.Key.Written} {r.State} {r.Resolved} {r.Flags}")
                    .Order(StringComparer.Ordinal),
            ];
    }

    /// <summary>An audit with what it remembers of the one before finds what an audit of everything finds.</summary>
    [Fact]
    public void An_audit_after_an_edit_is_the_audit_of_the_edited_scene()
    {
        var picture = place.PutPng("picture.png", 5);
        var going = DestinationFiles.Open("lantern-headset");
        foreach (var source in OwnScenes.All(place))
        {
            var memory = new AuditMemory();
            AuditScene? kept = null;
            var maker = new EditMaker(new Random(3), picture);
            var session = TestSession.Open(source, Look.Context(source, place.Folder));
            for (var n = 0; n < 60 && maker.Next(session.Current) is { } edit; n++)
            {
                session = session.And(TestSession.Entry(edit));
                var scene = new AuditScene(session.Report, new Dictionary<FileState, PixelStats>(), going, HouseRules.Standard);
                kept = new(session.Report, new Dictionary<FileState, PixelStats>(), going, HouseRules.Standard, before: kept);
                Assert.Equal(Findings(AuditRun.Make(scene)), Findings(AuditRun.Make(kept, memory)));
            }
        }

        static List<string> Findings(AuditReport report) =>
            [.. report.Findings.Select(f => $"{f.Rule} {f.Target} {f.Cause.Key} {f.Message}").Order(StringComparer.Ordinal)];
    }

    [Fact]
    public void Edits_made_in_either_order_meet_when_they_touch_different_things()
    {
        var arrived = Open(Look.Gltf("a.png", "b.png", "c.png"));
        LedgerEntry[] entries = [Roughness("m0", 0.1), Roughness("m1", 0.2), Roughness("m2", 0.3)];
        var forward = arrived.With(entries);
        foreach (var order in new int[][] { [0, 2, 1], [1, 0, 2], [1, 2, 0], [2, 0, 1], [2, 1, 0] })
            Assert.Empty(SceneComparison.Differences(forward.Current, arrived.With(order.Select(i => entries[i])).Current));
    }

    private Session Open(string gltf)
    {
        var scene = place.Put("scene/s.gltf", gltf);
        return TestSession.Open(scene, Look.Context(scene, place.Folder));
    }

    private static LedgerEntry Roughness(string material, double value) =>
        TestSession.Entry(new SetValue(material, "roughness", null, ShaderValue.Of(value)));

    private static double Value(Session session, string material) =>
        session.Current.Materials.Single(m => m.Name == material).Graph.SurfaceNode!.Input("roughness")!.Value!.Numbers[0];
}
