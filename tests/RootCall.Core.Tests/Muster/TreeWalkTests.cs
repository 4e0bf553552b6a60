using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Testing;

namespace RootCall.Core.Tests.Muster;

/// <summary>An index is brought up to date from what it was.</summary>
public sealed class TreeWalkTests : IDisposable
{
    private readonly Place place = new();
    private readonly RootScope scope;

    public TreeWalkTests()
    {
        for (var i = 0; i < 5; i++)
            place.PutPng($"lib/set_{i}/oak_{i}.png", (byte)i);
        scope = new([place.At("lib")]);
    }

    [Fact]
    public void Nothing_changed_keeps_every_listing_as_it_is()
    {
        var known = Make(null).Index;
        var (index, changed) = Make(known);
        Assert.Empty(changed);
        Assert.Equal(6, index.Listings.Length);
        Assert.All(index.Listings, l => Assert.Same(known.Listing(l.Path), l));
        Assert.True(index.At >= known.At);
    }

    [Fact]
    public void Files_that_come_go_or_are_renamed_show_in_the_times_of_their_folders()
    {
        var known = Make(null).Index;
        Later(() =>
        {
            place.PutPng("lib/set_0/new.png", 9);
            File.Delete(place.At("lib/set_1/oak_1.png"));
            File.Move(place.At("lib/set_2/oak_2.png"), place.At("lib/set_2/elm.png"));
            place.PutPng("lib/set_9/deep/down.png", 8);
            Directory.Delete(place.At("lib/set_4"), recursive: true);
        });
        var (index, changed) = Make(known, Refresh.Folders);
        Assert.Equal(["deep", "lib", "set_0", "set_1", "set_2", "set_9"], changed.Select(c => Path.GetFileName(c.Path)).Order());
        Assert.Equal(5, index.Count);
        Assert.Single(index.Named("ELM.png"));
        Assert.Single(index.Named("down.png"));
        foreach (var gone in new[] { "oak_1.png", "oak_2.png", "oak_4.png" })
            Assert.Empty(index.Named(gone));
        Assert.Null(index.Listing(place.At("lib/set_4")));
    }

    [Fact]
    public void A_file_written_over_in_place_shows_only_in_its_own_time_and_size()
    {
        var known = Make(null).Index;
        using (var file = File.OpenWrite(place.At("lib/set_3/oak_3.png")))
            file.SetLength(5);
        Assert.Empty(Make(known, Refresh.Folders).Changed);
        var (index, changed) = Make(known);
        Assert.Equal("set_3", Path.GetFileName(Assert.Single(changed).Path));
        Assert.Equal(5, index.Named("oak_3.png").Single().Stamp.Bytes);
        Assert.Equal("oak_3.png", index.OfSize(5).Single().Name);
    }

    [Fact]
    public void What_cannot_be_listed_is_noted_and_the_rest_is_there()
    {
        Directory.CreateSymbolicLink(place.At("lib/loop"), place.At("lib"));
        var secret = place.PutPng("secret/s.png");
        File.CreateSymbolicLink(place.At("lib/out.png"), secret);
        File.CreateSymbolicLink(place.At("lib/in.png"), place.At("lib/set_0/oak_0.png"));
        // A name in Latin-1: the shell writes the byte that .NET cannot.
        Assert.Equal(0, Tool.Run("sh", ["-c", $"touch \"{place.At("lib/set_1")}/$(printf 'caf\\351.png')\""]).Status);
        var index = Make(null).Index;
        Assert.Equal(6, index.Count);
        Assert.Single(index.Named("in.png"));
        Assert.Equal(3, index.Notes.Length);
        Assert.Contains(index.Notes, n => n.Contains("link to a folder", StringComparison.Ordinal));
        Assert.Contains(index.Notes, n => n.Contains("leads out of the roots", StringComparison.Ordinal));
        Assert.Contains(index.Notes, n => n.Contains("not UTF-8", StringComparison.Ordinal));
        Tool.Run("rm", ["-rf", place.At("lib/set_1")]); // .NET cannot even delete it.
    }

    [Fact]
    public void Files_that_vanish_while_it_lists_are_never_fatal()
    {
        for (var i = 0; i < 400; i++)
            place.Put($"lib/busy/f{i}.txt", "x");
        using var stop = new CancellationTokenSource();
        var busy = Task.Run(() =>
        {
            for (var i = 0; !stop.IsCancellationRequested; i = (i + 1) % 400)
            {
                File.Delete(place.At($"lib/busy/f{i}.txt"));
                File.WriteAllText(place.At($"lib/busy/f{i}.txt"), "y");
            }
        });
        for (var n = 0; n < 40; n++)
            Assert.InRange(Make(null).Index.Count, 395, 405);
        stop.Cancel();
        busy.Wait();
    }

    [Theory]
    [InlineData("oak_basecolor_2k.png", "oak_albedo.png", true)]
    [InlineData("oak_basecolor_2k.png", "OAK-BaseColor.tif", true)]
    [InlineData("oak_basecolor.1001.png", "oak_basecolor.1002.png", false)]
    [InlineData("oak_normal.png", "oak_rough.png", false)]
    public void Likeness_in_the_index_is_likeness_of_names(string lies, string asked, bool alike)
    {
        place.PutPng("lib/x/" + lies);
        Assert.Equal(alike, Make(null).Index.Alike(FileName.Of(asked), NameDictionary.Standard).Any(f => f.Name == lies));
    }

    public void Dispose() => place.Dispose();

    private (TreeIndex Index, System.Collections.Immutable.ImmutableArray<FolderListing> Changed) Make(
        TreeIndex? known,
        Refresh refresh = Refresh.Files
    ) => TreeWalk.Make(place.At("lib"), scope, known, refresh);

    /// <summary>Folder times have a grain: a change within the same tick as the listing cannot be told.</summary>
    private static void Later(Action act)
    {
        Thread.Sleep(30);
        act();
    }
}
