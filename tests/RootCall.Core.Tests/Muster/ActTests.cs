using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Imaging;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Muster;

/// <summary>Decisions over many references at once, each one entry.</summary>
public sealed class ActTests : IDisposable
{
    private static readonly DateTimeOffset Now = new(2026, 11, 25, 12, 0, 0, TimeSpan.Zero);
    private readonly Place place = new();

    [Fact]
    public void Find_and_replace_shows_what_resolves_and_takes_only_that()
    {
        place.PutPng("s/tex/oak.png");
        var report = Muster("D:/jobs/tex/oak.png", @"D:\jobs\tex\elm.png", "tex/oak.png");
        var pattern = new ReplacePattern("d:/JOBS/", string.Empty);
        var rows = Preview(report, pattern);
        Assert.Equal(
            [("D:/jobs/tex/oak.png", "tex/oak.png", null), ("D:/jobs/tex/elm.png", "tex/elm.png", "no file is there")],
            rows.Select(r => (r.Before, r.After, r.WhyNot))
        );
        var entry = Decisions.Replace(report, pattern, rows, Now);
        var edit = Assert.IsType<RelinkReference>(Assert.Single(entry.Edits));
        Assert.Equal(place.At("s/tex/oak.png"), edit.To);
        Assert.Equal("Replace “d:/JOBS/” by “” in 1 path", entry.Sentence);
        Assert.Empty(Preview(report, pattern with { MatchCase = true }));
        Assert.Single(Preview(report, pattern, new HashSet<int> { 2 }));
    }

    [Theory]
    [InlineData("tex", "maps", false, true, "maps/tex_oak.png")]
    [InlineData("tex", "maps", false, false, "maps/maps_oak.png")]
    [InlineData(@"tex/(\w+)_oak", "$1/oak", true, false, "tex/oak.png")]
    [InlineData("tex/", "a$1/", false, false, "a$1/tex_oak.png")]
    [InlineData("tex", "https://h.example", false, true, "https://h.example/tex_oak.png")]
    public void Options_say_how_it_is_found(string find, string with, bool regex, bool whole, string after) =>
        Assert.Equal(after, Preview(Muster("tex/tex_oak.png"), new(find, with, WholeName: whole, Regex: regex)).Single().After);

    [Theory]
    [InlineData("(a", "at character")]
    [InlineData("", "nothing to find")]
    [InlineData("^(a+)+$", "takes too long")]
    public void A_bad_or_runaway_pattern_says_so_and_changes_nothing(string find, string says)
    {
        var report = Muster(new string('a', 40) + "!.png");
        Assert.Contains(
            says,
            Assert.Throws<CannotUseException>(() => Preview(report, new(find, "x", Regex: true))).Message,
            StringComparison.Ordinal
        );
    }

    /// <summary>What a relink calls is what is shown, found and replaced; the path that arrived is gone.</summary>
    [Theory]
    [InlineData(PathStyle.Relative, "../lib/v1/oak.png")]
    [InlineData(PathStyle.Absolute, "{0}/lib/v1/oak.png")]
    [InlineData(PathStyle.RootRelative, "v1/oak.png")]
    public void A_replacement_looks_at_what_is_called_now(PathStyle style, string called)
    {
        place.PutPng("lib/v1/oak.png", 1);
        place.PutPng("lib/v2/oak.png", 2);
        var report = Muster("D:/old/oak.png");
        var session = TestSession.Of(report, Look.Context(report.Scene.Path, place.At("lib")), place.At("w"));
        var key = report.References[0].Reference.Key;
        var now = session
            .And(
                TestSession.Entry(
                    new RelinkReference(key, null, place.At("lib/v1/oak.png")),
                    new SetPathStyle(key, PathStyle.Relative, style, place.At("lib"))
                )
            )
            .Report;
        Assert.Equal(string.Format(null, called, place.Folder), CalledNow.Of(now.References[0], now.Scene));
        Assert.Empty(PathReplace.Preview(now, null, new("D:/old", "E:/new"), session.Context.Scope));
        var row = Assert.Single(PathReplace.Preview(now, null, new("v1", "v2", WholeName: true), session.Context.Scope));
        Assert.Equal((place.At("lib/v2/oak.png"), null), (row.To, row.WhyNot));
    }

    [Fact]
    public void Variants_are_siblings_that_differ_in_one_token()
    {
        foreach (
            var (name, side) in new[]
            {
                ("oak_col_4k", 64),
                ("oak_col_2k", 32),
                ("oak_col_proxy", 8),
                ("oak_nrm_4k", 64),
                ("oak_nrm_2k", 32),
                ("elm_red_col", 16),
                ("elm_blue_col", 16),
                ("elm_blue_2k_col", 16),
            }
        )
            place.Put($"s/tex/{name}.png", Pictures.Png(side, side, (byte)side));
        var report = Muster("tex/oak_col_4k.png", "tex/oak_nrm_4k.png", "tex/elm_red_col.png");
        var choices = Variants(report, null);
        Assert.Equal(
            [(VariantKind.Resolution, "proxy", 1), (VariantKind.Resolution, "2k", 2), (VariantKind.Colour, "blue", 1)],
            choices.Select(c => (c.Kind, c.Value, c.Numbers.Count))
        );
        var half = choices[1];
        Assert.Equal((2L * (64 * 64 * 4 / 3), 2L * (32 * 32 * 4 / 3)), (half.MemoryBefore, half.MemoryAfter));
        Assert.True(half.BytesAfter < half.BytesBefore);
        var entry = Decisions.Switch(report, half, Now);
        Assert.Equal("Switch 2 references to 2k", entry.Sentence);
        Assert.Equal(
            [place.At("s/tex/oak_col_2k.png"), place.At("s/tex/oak_nrm_2k.png")],
            entry.Edits.Cast<RelinkReference>().Select(e => e.To)
        );
        Assert.Equal([VariantKind.Colour], Variants(report, new HashSet<int> { 3 }).Select(c => c.Kind));
        Assert.Contains(
            "No path",
            Assert
                .Throws<CannotUseException>(() =>
                    Decisions.Style(report, null, PathStyle.Relative, new Dictionary<ReferenceKey, Answer>(), [], Now)
                )
                .Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Order_in_the_house_proposes_names_one_of_each_and_a_tidy_folder()
    {
        place.PutPng("s/a/noise.png", 1);
        place.PutPng("s/b/noise.png", 2);
        place.PutPng("s/one.png", 7);
        place.PutPng("s/other.png", 7);
        place.PutPng("s/lonely.png", 9);
        place.PutPng("s/Downloads/rough_thing.png", 10);
        place.PutPng("lib/shared.png", 11);
        var report = Muster("a/noise.png", "b/noise.png", "one.png", "other.png", "Downloads/rough_thing.png", "../lib/shared.png");
        var index = RootIndex.Build(new([place.At("s")]));
        // The tests' own place lies below a temporary one, and is not to blame for it.
        var roots = new RootScope([place.At("s"), place.At("lib")]);
        HouseOrder Of(GatherBy by, params string[] libraries) =>
            HouseOrder.Of(report, by, libraries, roots, index.Trees.Single().Listings, new());

        var house = Of(GatherBy.Role);
        Assert.Equal(["textures/m0_noise.png", "textures/m1_noise.png"], house.Clashes.Single().Files.Select(f => f.Place));
        Assert.Equal(
            (place.At("s/one.png"), place.At("s/other.png")),
            (house.Duplicates.Single().Keep, house.Duplicates.Single().Others.Single())
        );
        Assert.Equal(["textures/base_colour/rough_thing.png", "textures/base_colour/shared.png"], house.Gather.Select(g => g.Place));
        Assert.Equal(["lies in a place that gets emptied", "lies outside the scene's folder"], house.Gather.Select(g => g.Why));
        Assert.Equal(["textures/m4/rough_thing.png"], Of(GatherBy.Material, place.At("lib")).Gather.Select(g => g.Place));
        Assert.Equal(place.At("s/lonely.png"), Assert.Single(house.Unused).Path);

        var kept = Decisions.KeepOne(report, house.Duplicates, Now);
        Assert.Equal(place.At("s/one.png"), Assert.IsType<RelinkReference>(Assert.Single(kept.Edits)).To);
        var renamed = Decisions.Place(
            report,
            house.Clashes.SelectMany(c => c.Files).Select(f => (f.Path, f.Place)),
            "Give names of their own to",
            new Dictionary<ReferenceKey, Answer>(),
            Now
        );
        var places = new Ledger([renamed with { State = EntryState.Applied }]).Answers();
        var plan = PackagePlan.Make(report, new(), places);
        Assert.Contains("textures/m0_noise.png", plan.Files.Select(f => f.Name));
        Assert.Contains("textures/m1_noise.png", plan.Files.Select(f => f.Name));
        Assert.Empty(plan.Clashes.Where(c => !c.SameContents));
    }

    [Theory]
    [InlineData(PathStyle.Absolute, "obj")]
    [InlineData(PathStyle.RootRelative, "obj")]
    [InlineData(PathStyle.Absolute, "gltf")]
    public void Paths_are_written_in_the_style_that_was_chosen(PathStyle style, string format)
    {
        place.PutPng("lib/woods/oak bark.png");
        place.Put("s/s.mtl", "newmtl m0\nmap_Kd ../lib/woods/oak bark.png\n");
        var scene =
            format == "obj"
                ? place.Put("s/s.obj", "mtllib s.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl m0\nf 1 2 3\n")
                : place.Put("s/s.gltf", Look.Gltf("../lib/woods/oak%20bark.png"));
        var report = Look.Muster(scene, place.At("lib"));
        var entry = Decisions.Style(
            report,
            new HashSet<int> { report.Named("oak bark.png").Number },
            style,
            new Dictionary<ReferenceKey, Answer>(),
            [place.At("lib")],
            Now
        );
        RelinkedCopy.Write(report, place.At("out"), new Ledger([entry with { State = EntryState.Applied }]).Answers());
        var written = File.ReadAllText(place.At(format == "obj" ? "out/s.mtl" : "out/s.gltf"));
        var expected =
            style == PathStyle.RootRelative ? "map_Kd woods/oak bark.png"
            : format == "obj" ? $"map_Kd {place.At("lib/woods/oak bark.png")}"
            : $"\"{place.At("lib/woods/oak%20bark.png")}\"";
        Assert.Contains(expected, written, StringComparison.Ordinal);
        if (style == PathStyle.Absolute)
            Assert.True(
                Look.Muster(Path.Combine(place.At("out"), Path.GetFileName(scene)), place.At("lib"))
                    .Named("oak bark.png")
                    .Flags.HasFlag(ReferenceFlags.Absolute)
            );
    }

    [Fact]
    public void A_path_in_gltf_cannot_start_from_a_root()
    {
        place.PutPng("s/oak.png");
        var refused = Assert.Throws<CannotUseException>(() =>
            Decisions.Style(Muster("oak.png"), null, PathStyle.RootRelative, new Dictionary<ReferenceKey, Answer>(), [place.At("s")], Now)
        );
        Assert.Contains("glTF 2.0", refused.Message, StringComparison.Ordinal);
    }

    [Fact]
    public void A_rule_by_hand_answers_what_lies_under_it_by_the_same_name()
    {
        place.PutPng("lib/new/tex/oak.png");
        place.PutPng("lib/new/tex/sub/elm.png");
        var report = Muster("D:/jobs/tex/oak.png", "D:/jobs/tex/sub/elm.png", "D:/jobs/tex/gone.png", "E:/jobs/tex/oak.png");
        var scope = CurrentScene.Scope(report.Scene.Path, [place.At("lib")]);
        var entry = Decisions.RuleByHand(report, null, new("D:/jobs/tex", place.At("lib/new/tex")), scope, f => f, Now);
        Assert.Equal(
            [place.At("lib/new/tex/oak.png"), place.At("lib/new/tex/sub/elm.png")],
            entry.Edits.Cast<RelinkReference>().Select(e => e.To)
        );
        Assert.Equal(new PathRewrite("D:/jobs/tex", place.At("lib/new/tex")), entry.Rule);
        Assert.Throws<CannotUseException>(() => Decisions.RuleByHand(report, null, new("F:/x", place.At("lib")), scope, f => f, Now));
    }

    [Theory]
    [InlineData(Role.Normal, 128, 128, 255)]
    [InlineData(Role.MetallicRoughness, 255, 128, 0)]
    [InlineData(Role.Opacity, 255, 255, 255)]
    [InlineData(Role.BaseColour, 118, 118, 118)]
    public void A_stand_in_is_neutral_for_its_role_and_says_what_it_is(Role role, byte red, byte green, byte blue)
    {
        Assert.Equal((red, green, blue), StandIns.Neutral(role));
        var path = StandIns.Put(place.At("stand-ins"), role);
        Assert.True(StandIns.Is(path));
        Assert.Equal(new(new(ImageFormat.Png, 64, 64, 3, 8), null), ImageProbe.File(path));
        Assert.Equal(path, StandIns.Put(place.At("stand-ins"), role));
        var said = Tool.Run("oiiotool", ["--stats", path]);
        Assert.Contains($"Stats Avg: {red}.00 {green}.00 {blue}.00", said.Output, StringComparison.Ordinal);
    }

    [Fact]
    public void A_stand_in_is_marked_wherever_it_answers()
    {
        var report = Muster("gone.png", "https://h.example/b.png");
        var entry = Decisions.StandIn(report, [1, 2], place.At("stand-ins"), Now);
        Assert.Equal("Stand in for 2 images that do not answer", entry.Sentence);
        var scope = CurrentScene.Scope(report.Scene.Path, [place.At("stand-ins")]);
        var current = Mustering.Relink(report, new Ledger([entry with { State = EntryState.Applied }]).Relinks(), scope, new());
        Assert.All(current.References, r =>
            Assert.Equal((ReferenceState.Present, ReferenceFlags.StandIn), (r.State, r.Flags & ReferenceFlags.StandIn))
        );
        Assert.True(RelocationMap.Of(current).All(b => b.StandIns));
        Assert.Equal(2, PackagePlan.Make(current, new()).StandIns.Count());
        Assert.Throws<CannotUseException>(() => Decisions.StandIn(current, [1], place.At("stand-ins"), Now));
    }

    public void Dispose() => place.Dispose();

    private MusterReport Muster(params string[] uris)
    {
        Directory.CreateDirectory(place.At("lib"));
        return Look.Muster(
            place.Put("s/s.gltf", Look.Gltf([.. uris.Select(u => u.Replace(@"\", @"\\", StringComparison.Ordinal))])),
            place.At("lib")
        );
    }

    private static IReadOnlyList<ReplacedPath> Preview(MusterReport report, ReplacePattern pattern, IReadOnlySet<int>? numbers = null) =>
        PathReplace.Preview(report, numbers, pattern, CurrentScene.Scope(report.Scene.Path, []));

    private static IReadOnlyList<MapVariant> Variants(MusterReport report, IReadOnlySet<int>? numbers) =>
        MapVariants.Find(
            report,
            numbers,
            RootIndex.Build(CurrentScene.Scope(report.Scene.Path, [])).Listing,
            new(),
            NameDictionary.Standard
        );
}
