using RootCall.Core.Audit;
using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit;

/// <summary>What a person decides where no rule can: it is offered, it can be written, and it is so afterwards.</summary>
public sealed class ByHandTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private readonly Place place = new();

    /// <summary>
    /// Every finding of the demo without a fix, and every kind of decision that is offered for it. What <see cref="Audited.With"/>
    /// makes is written and read back; a decision that cannot be written is told with its reason instead.
    /// </summary>
    [Fact]
    public void Whatever_is_offered_can_be_written_and_is_so_or_says_why_not()
    {
        var (made, refused) = (new List<HandKind>(), new List<string>());
        foreach (var answer in demo.Answers())
        {
            var before = Audits.OpenRelinked(answer.Arrived, demo.Library);
            foreach (var finding in before.Report.Findings.Where(f => f.Fixes.IsEmpty).DistinctBy(f => f.Rule))
            {
                var places = HandPlaces.Of(before.Scene, [finding]);
                var choices = HandChoices.Of(before.Scene, places);
                foreach (var decision in choices.Kinds.SelectMany(k => Decisions(k, choices)))
                {
                    var plan = HandPlan.Make(before.Scene, decision, places);
                    Assert.Distinct(plan.Fixed.Select(f => f.Key));
                    refused.AddRange(plan.Left.Select(l => l.Reason));
                    Assert.True(
                        plan.Edits.Length + plan.Left.Length > 0,
                        $"{finding.Key}: {decision.Title} does nothing, and says nothing"
                    );
                    if (plan.Edits.IsEmpty)
                        continue;
                    var after = before.With(place.At(Guid.NewGuid().ToString("N")), plan.Edits);
                    Assert.True(IsSo(decision, plan, after.Scene), $"{finding.Key}: {decision.Title} is not so afterwards");
                    made.Add(Kind(decision));
                }
            }
        }

        Assert.Equal(Enum.GetValues<HandKind>().Except([HandKind.UvSet]), made.Distinct().Order());
        Assert.All(refused, r => Assert.EndsWith(".", r, StringComparison.Ordinal));
    }

    [Fact]
    public void One_value_goes_to_many_materials_and_is_recorded_for_the_next_scene()
    {
        var scene = Open("""{ "name": "leaf" }, { "name": "bark" }, { "name": "pot" }""");
        var places = HandPlaces.Of(scene.Scene, ["leaf", "bark", "nobody"]);
        var plan = HandPlan.Make(scene.Scene, new HandValue("roughness", ShaderValue.Of(0.4)), places);
        var entry = plan.Entry(new HandValue("roughness", ShaderValue.Of(0.4)), DateTimeOffset.UnixEpoch);
        Assert.Equal(("Set roughness to 0.4: 2 places", 2), (entry.Sentence, entry.Edits.Length));
        var after = scene.With(place.At("after"), entry.Edits).Scene;
        double? Rough(string material) => after.Called(material)!.Number(Role.Roughness);
        Assert.Equal((0.4, 0.4, 1), (Rough("leaf"), Rough("bark"), Rough("pot")));

        var recipe = Recipe.Record("matt", [entry]);
        var next = Open("""{ "name": "stem" }, { "name": "tin" }""");
        Assert.Equal(["stem", "tin"], recipe.Run(next.Scene, next.Report).Plan.Edits.OfType<SetValue>().Select(e => e.Material));
    }

    [Fact]
    public void What_cannot_be_said_is_refused_in_a_sentence()
    {
        var scene = Open("""{ "name": "leaf" }""").Scene;
        string Why(HandDecision decision, Target at) => Assert.Single(HandPlan.Make(scene, decision, [new(at, null)]).Left).Reason;
        var leaf = new Target("material", "leaf");
        Assert.Equal("leaf has no input shine.", Why(new HandValue("shine", ShaderValue.Of(1)), leaf));
        Assert.Equal("roughness of leaf takes 1 numbers; 3 were given.", Why(new HandValue("roughness", ShaderValue.Of(1, 1, 1)), leaf));
        Assert.Equal("A value has to be a number.", Why(new HandValue("roughness", ShaderValue.Of(double.NaN)), leaf));
        Assert.Equal("No image feeds roughness of leaf.", Why(new HandMap("roughness", null), leaf));
        Assert.Equal("Nothing of leaf reads another UV set than TEXCOORD_0.", Why(new HandUvSet("TEXCOORD_0"), leaf));
        Assert.Equal("Nothing wears leaf.", Why(new HandMaterial("leaf"), leaf));
        Assert.Equal("The scene has no mesh lid any more.", Why(new HandName("cover"), new("mesh", "lid")));
    }

    private static IEnumerable<HandDecision> Decisions(HandKind kind, HandChoices choices) =>
        kind switch
        {
            HandKind.Material => choices.Materials.Take(1).Select(m => new HandMaterial(m)),
            HandKind.Map => from input in choices.Inputs.Where(i => i.Type.TakesImage).Take(2)
            from image in choices.Images.Take(1)
            select new HandMap(input.Name, image.Path),
            HandKind.Value => choices
                .Inputs.Take(2)
                .Select(i => new HandValue(i.Name, new ShaderValue([.. Enumerable.Repeat(0.25, i.Type.Numbers)]))),
            HandKind.UvSet => choices.UvSets.Take(1).Select(s => new HandUvSet(s)),
            _ => [new HandName("by_hand")],
        };

    private static HandKind Kind(HandDecision decision) =>
        decision switch
        {
            HandMaterial => HandKind.Material,
            HandMap => HandKind.Map,
            HandUvSet => HandKind.UvSet,
            HandName => HandKind.Name,
            _ => HandKind.Value,
        };

    /// <summary>Asked of the scene that was read back, not of the edits.</summary>
    private static bool IsSo(HandDecision decision, FixPlan plan, AuditScene after) =>
        decision switch
        {
            HandMaterial m => plan
                .Edits.OfType<AssignMaterial>()
                .All(e => after.Scene.Meshes.First(x => x.Id == e.Mesh).Parts.Any(p => p.Name == e.Part && p.Material == m.To)),
            HandMap m => plan
                .Edits.OfType<SetImage>()
                .All(e =>
                    after
                        .Called(e.Material)!
                        .Input(e.Input)!
                        .Maps.Any(x => Path.GetFileName(x.Answer?.Resolved) == Path.GetFileName(m.Path))
                ),
            HandValue v => plan
                .Edits.OfType<SetValue>()
                .All(e =>
                    after.Called(e.Material)!.Input(v.Input)!.Numbers.Zip(v.Value!.Numbers).All(n => Math.Abs(n.First - n.Second) < 1e-6)
                ),
            HandUvSet u => plan
                .Edits.OfType<SetImage>()
                .All(e => after.Called(e.Material)!.Input(e.Input)!.Maps.All(m => m.Use.UvSet == u.Set)),
            HandName n => after.Scene.Materials.Any(m => m.Name == n.To)
                || after.Scene.Meshes.Any(m => m.Name == n.To)
                || after.Scene.Nodes.Any(x => x.Name == n.To),
            _ => false,
        };

    private Audited Open(string materials)
    {
        var path = place.At($"{Guid.NewGuid():N}.gltf");
        File.WriteAllText(path, $$"""{ "asset": { "version": "2.0" }, "materials": [ {{materials}} ] }""");
        return Audits.Open(path);
    }

    public void Dispose() => place.Dispose();
}
