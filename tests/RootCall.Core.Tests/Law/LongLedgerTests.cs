using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Law;

/// <summary>A ledger as long as a week's work, in every format that is written.</summary>
public sealed class LongLedgerTests : IDisposable
{
    private const int Entries = 500;
    private readonly Place place = new();

    public void Dispose() => place.Dispose();

    [Fact]
    public void Five_hundred_entries_give_the_same_at_once_and_one_by_one_and_can_be_taken_off()
    {
        var picture = place.PutPng("picture.png", 9);
        foreach (var source in OwnScenes.All(place).DistinctBy(Path.GetExtension))
        {
            var reading = new ReadContext(new([Path.GetDirectoryName(source)!, place.Folder]), Bounds.Default);
            var maker = new EditMaker(new Random(Entries), picture);
            var arrived = EditedScene.Of(SceneFormats.Read(source, reading), reading, Folder);
            if (SceneFormats.Of(source).Capabilities.ReadOnlyBecause is not null)
                continue;
            var format = arrived.Current.Format;
            var (scene, half) = (arrived, arrived);
            for (var n = 1; n <= Entries && maker.Next(scene.Current) is { } edit; n++)
            {
                scene = scene.And(TestSession.Entry(edit));
                if (n == Entries / 2)
                    half = scene;
            }

            var entries = scene.Entries.ToList();
            Assert.Equal(Entries, entries.Count);
            var atOnce = arrived.With(entries);
            Same(scene, atOnce, $"{format.Id} at once");
            Same(half, atOnce.With(entries.Take(Entries / 2)), $"{format.Id} taken off");
            Same(scene, half.With(entries), $"{format.Id} put on again");
            var written = SceneFormats.Read(source, atOnce.Reading with { Edited = atOnce.Write(Folder()) });
            Assert.True(!SceneComparison.Differences(atOnce.Current, written).Any(), $"{format.Id} written");
        }
    }

    private string Folder() => Directory.CreateDirectory(place.At($"copies/{Guid.NewGuid():N}")).FullName;

    private static void Same(EditedScene expected, EditedScene found, string what) =>
        Assert.True(
            SceneComparison.Differences(expected.Current, found.Current).FirstOrDefault() is null
                && expected.Refused.Length == found.Refused.Length,
            $"{what}: {SceneComparison.Differences(expected.Current, found.Current).FirstOrDefault()}"
        );
}
