using System.Text.Json;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Edits;

public sealed class LedgerTests : IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void Pending_entries_become_part_of_the_scene_only_when_applied_and_undo_takes_the_last_off()
    {
        var ledger = Ledger.Empty.Put(Entry("a", "/x/a")).Put(Entry("b", "/x/b"));
        Assert.Empty(ledger.Relinks());
        Assert.Equal(2, ledger.Relinks(withPending: true).Count);

        ledger = ledger.ApplyPending().Put(Entry("a", "/y/a"));
        Assert.Equal("/x/a", ledger.Relinks()[Key("a")]);
        Assert.Equal("/y/a", ledger.ApplyPending().Relinks()[Key("a")]);
        Assert.Equal("/x/a", ledger.Undo().ApplyPending().Relinks()[Key("a")]);
        Assert.Empty(ledger.Undo().Undo().Undo().Undo().Entries);
    }

    [Fact]
    public void An_entry_that_others_stand_on_is_not_taken_back()
    {
        var (first, other, second) = (Entry("a", "/x/a"), Entry("b", "/x/b"), Entry("a", "/y/a"));
        var ledger = Ledger.Empty.Put(first).Put(other).Put(second);
        Assert.Same(ledger, ledger.TakeBack(first.Id, out var standing));
        Assert.Equal(second.Id, Assert.Single(standing).Id);
        Assert.Equal([first.Id, second.Id], ledger.TakeBack(other.Id, out standing).Entries.Select(e => e.Id));
        Assert.Empty(standing);
        Assert.Equal([first.Id], ledger.UndoTo(first.Id).Entries.Select(e => e.Id));
    }

    [Fact]
    public void An_edit_and_its_inverse_leave_nothing_and_survive_storing()
    {
        Edit edit = new RelinkReference(Key("a"), null, "/x/a");
        var scene = Look.Read(place.Put("s.gltf", Look.Gltf("a")));
        var back = edit.Invert(scene);
        var entry = Entry("a", "/x/a") with { Edits = [edit, back] };
        Assert.Empty(Ledger.Empty.Put(entry).ApplyPending().Relinks());
        Assert.Equal(edit, back.Invert(edit.Apply(scene).Scene));
        var stored = JsonSerializer.Serialize(edit);
        Assert.Contains("\"type\":\"relink\"", stored, StringComparison.Ordinal);
        Assert.Equal(edit, JsonSerializer.Deserialize<Edit>(stored));
        Assert.Equal(("Relink a to /x/a", "Call a as it arrived"), (edit.Describe(), back.Describe()));
    }

    [Fact]
    public void Decisions_say_what_they_do_and_settle_it_in_one_entry()
    {
        place.PutPng("lib/one/a.png", 1);
        place.PutPng("lib/one/b.png", 2);
        place.PutPng("lib/x/two.png", 3);
        place.PutPng("lib/y/two.png", 4);
        place.PutPng("lib/hand.png", 5);
        var path = place.Put("s/s.gltf", Look.Gltf("D:/t/a.png", "D:/t/b.png", "two.png", "gone.png"));
        var context = Look.Context(path, place.At("lib"));
        var report = CurrentScene.Muster(path, context, Bounds.Default);
        string Name(string folder) => Path.GetFileName(folder);

        var rule = Decisions.ApproveRule(report, "D:/t", place.At("lib/one"), Name, DateTimeOffset.Now);
        Assert.Equal(("Relink 2 references, D:/t to one", 2), (rule.Sentence, rule.Edits.Length));
        var choice = Decisions.TakeFrom(report, [1, 3], place.At("lib/y"), Name, DateTimeOffset.Now);
        Assert.Equal("Relink two.png to y", choice.Sentence);
        var hand = Decisions.ByHand(report, 4, place.At("lib/hand.png"), context.Scope, DateTimeOffset.Now);
        Assert.Equal("Relink gone.png to hand.png", hand.Sentence);

        var relinks = Ledger.Empty.Put(rule).Put(choice).Put(hand).ApplyPending().Relinks();
        var current = Mustering.Relink(report, relinks, context.Scope, context.Facts);
        Assert.All(current.References, r =>
            Assert.Equal((ReferenceState.Present, ReferenceFlags.None), (r.State, r.Flags & ReferenceFlags.Absolute))
        );
        Assert.Equal(place.At("lib/y/two.png"), current.Named("two.png").Resolved);
    }

    [Fact]
    public void Decisions_that_mean_nothing_are_refused()
    {
        place.PutPng("lib/a.png");
        place.PutPng("elsewhere/a.png");
        var path = place.Put("s/s.gltf", Look.Gltf("a.png", "data:image/png;base64,AAAA"));
        var context = Look.Context(path, place.At("lib"));
        var report = CurrentScene.Muster(path, context, Bounds.Default);
        void Refused(Action act) => Assert.Throws<CannotUseException>(act);
        Refused(() => Decisions.ApproveRule(report, "nowhere", "/lib", f => f, default));
        Refused(() => Decisions.TakeFrom(report, [1], "/nowhere", f => f, default));
        Refused(() => Decisions.ByHand(report, 1, place.At("elsewhere/a.png"), context.Scope, default));
        Refused(() => Decisions.ByHand(report, 1, place.At("lib"), context.Scope, default));
        Refused(() => Decisions.ByHand(report, 2, place.At("lib/a.png"), context.Scope, default));
        Refused(() => Decisions.ByHand(report, 99, place.At("lib/a.png"), context.Scope, default));
    }

    [Fact]
    public void A_ledger_is_replayed_on_a_later_version_of_the_scene_by_the_paths_it_names()
    {
        place.PutPng("lib/a.png");
        var relinks = new Dictionary<ReferenceKey, string> { [new(ReferenceKind.Image, "s.gltf", "D:/t/a.png")] = place.At("lib/a.png") };
        var later = place.Put("s/s.gltf", Look.Gltf("new.png", "D:/t/a.png"));
        var context = Look.Context(later, place.At("lib")) with { Relinked = relinks };
        var report = CurrentScene.Muster(later, context, Bounds.Default);
        Assert.Equal([ReferenceState.Missing, ReferenceState.Present], report.References.Select(r => r.State));
    }

    public void Dispose() => place.Dispose();

    private static ReferenceKey Key(string written) => new(ReferenceKind.Image, "s.gltf", written);

    private static LedgerEntry Entry(string written, string to) =>
        new(
            Guid.NewGuid(),
            $"Relink {written}",
            [new RelinkReference(Key(written), null, to)],
            EntryState.Pending,
            "by hand",
            DateTimeOffset.Now
        );
}
