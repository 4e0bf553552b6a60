using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Muster;

public sealed class IndexTests : IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void A_tree_is_listed_once_even_when_a_root_lies_in_another()
    {
        place.PutPng("lib/a/x.png");
        place.PutPng("lib/b/x.png");
        Assert.Equal(2, RootIndex.Build(new([place.At("lib"), place.At("lib/a"), place.At("lib/b")])).Count);
        Assert.Equal(1, RootIndex.Build(new([place.At("lib/a")])).Count);
    }

    [Fact]
    public void It_answers_from_memory_by_name_without_case_and_by_likeness()
    {
        place.PutPng("lib/Oak_Color_2k.PNG");
        place.PutPng("lib/oak_basecolor_v002.tif");
        var index = RootIndex.Build(new([place.At("lib")]));
        Directory.Delete(place.At("lib"), recursive: true);
        Assert.Single(index.Named("OAK_COLOR_2K.png"));
        Assert.Equal(2, index.Alike(FileName.Of("oak_albedo.exr"), NameDictionary.Standard).Count());
        Assert.Empty(index.Named("elm_color_2k.png"));
    }

    [Fact]
    public void Composed_and_decomposed_names_are_the_same_name()
    {
        place.PutPng("lib/cafe\u0301.png");
        Assert.Single(RootIndex.Build(new([place.At("lib")])).Named("caf\u00e9.png"));
    }

    [Fact]
    public void It_tells_progress_and_stops_when_asked()
    {
        for (var i = 0; i < 30; i++)
            place.Put($"lib/{i}/f.txt", "x");
        using var stop = new CancellationTokenSource();
        var told = 0;
        RootIndex.Build(new([place.At("lib")]), (_, _) => told++);
        Assert.True(told > 0);
        stop.Cancel();
        Assert.Throws<OperationCanceledException>(() => RootIndex.Build(new([place.At("lib")]), stop: stop.Token));
    }

    [Fact]
    public void A_folder_that_is_gone_is_a_note() =>
        Assert.Contains("could not be listed", Assert.Single(RootIndex.Build(new([place.At("gone")])).Notes), StringComparison.Ordinal);

    [Fact]
    public void Facts_are_read_again_only_when_a_file_changed()
    {
        var facts = new FileFacts();
        var path = place.PutPng("a.png", 1);
        var stamp = FileFacts.Stamp(path)!.Value;
        var (probe, hash) = (facts.Probe(path, stamp), facts.Hash(path, stamp));
        File.WriteAllBytes(path, Pictures.Png(9, 9, 2));
        Assert.Equal((probe, hash), (facts.Probe(path, stamp), facts.Hash(path, stamp)));
        var later = new FileStamp(stamp.Bytes + 1, stamp.ModifiedUtc);
        Assert.Equal(9, facts.Probe(path, later).Facts!.Width);
        Assert.NotEqual(hash, facts.Hash(path, later));
        Assert.Null(FileFacts.Stamp(place.At("none.png")));
    }

    [Theory]
    [InlineData("oak_rough.png", "base colour", Role.BaseColour)]
    [InlineData("a.png", "metallic roughness", Role.Metalness, Role.Roughness)]
    [InlineData("a.png", "packed", Role.Occlusion, Role.Roughness, Role.Metalness)]
    [InlineData("a.png", "base colour", Role.BaseColour, Role.Opacity)]
    [InlineData("sky.hdr", "environment", Role.Reflection)]
    [InlineData("oak_nrm.png", "normal")]
    [InlineData("oak.png", "image")]
    public void A_role_is_told_from_the_inputs_and_then_from_the_name(string written, string role, params Role[] inputs)
    {
        var uses = inputs.Select(i => new ReferenceUse("m", i.Word()) { Role = i });
        var reference = new Reference(1, new(ReferenceKind.Image, "s", written), written, "/", [], [.. uses]);
        Assert.Equal(role, MapRole.Word(reference));
    }

    public void Dispose() => place.Dispose();
}
