using RootCall.Core.Audit;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Demo.Examples;
using RootCall.Testing;

namespace RootCall.Core.Tests.Audit;

/// <summary>Recipes: what was fixed once is found by its matcher and fixed in the next scene.</summary>
public sealed class RecipeTests(DemoPlace demo) : IClassFixture<DemoPlace>
{
    [Theory]
    [InlineData("seed_tin_*_roughness.png", "seed_tin_01_roughness.png", "seed_tin_12_roughness.png")]
    [InlineData("only.png", "only.png", "only.png")]
    [InlineData("*", "brass", "tin")]
    [InlineData("ti*", "tin", "tinplate", "tip")]
    [InlineData("*_rough", "a_rough", "b_rough")]
    public void A_matcher_is_what_names_have_in_common(string pattern, params string[] names) =>
        Assert.Equal(pattern, Recipe.Common(names));

    [Fact]
    public void A_recipe_recorded_in_one_scene_fixes_the_family_in_another()
    {
        using var place = new Place();
        var tins = Audits.Open(demo.At("arrived/seed_tins/seed_tins.mtlx"));
        var entry = FixPlan.Make(tins.Of("wiring.role-mismatch")).Entry("fix", "rule wiring.role-mismatch", DateTimeOffset.UnixEpoch);
        var recipe = Recipe.Read(Recipe.Record("Rough tins", [entry]).Write(), "test");
        var step = Assert.Single(recipe.Steps);
        Assert.Equal(
            (
                "wiring.role-mismatch",
                "wiring.role-mismatch/roughness in subsurface",
                "seed_tin_*",
                "subsurface",
                "seed_tin_*_roughness.png"
            ),
            (step.Rule, step.Cause, step.Match.Name, step.Match.Part, step.Match.Image)
        );

        var run = recipe.Run(tins.Scene, tins.Report);
        Assert.Equal((24, 12), (run.Plan.Edits.Length, run.Plan.Fixed.Length));
        Directory.CreateDirectory(place.At("fixed"));
        Assert.Empty(tins.With(place.At("fixed"), run.Plan.Edits).Of("wiring.role-mismatch"));

        // Elsewhere nothing matches, and that is said.
        var drawer = Audits.OpenRelinked(demo.At("arrived/seed_drawer/seed_drawer.mtlx"), demo.Library);
        var elsewhere = recipe.Run(drawer.Scene, drawer.Report);
        Assert.Empty(elsewhere.Plan.Edits);
        Assert.Equal("wiring.role-mismatch: nothing matches.", Assert.Single(elsewhere.Unmatched));
        // A matcher can be widened by hand.
        var wide = recipe with { Steps = [step with { Cause = null, Match = new() }] };
        Assert.NotEmpty(wide.Run(drawer.Scene, drawer.Report).Plan.Edits);
    }

    [Fact]
    public void A_value_set_by_hand_is_recorded_too()
    {
        using var place = new Place();
        var entry = new LedgerEntry(
            Guid.NewGuid(),
            "Set",
            [
                new SetValue("brass_a", "roughness", null, ShaderValue.Of(0.2)),
                new SetValue("brass_b", "roughness", null, ShaderValue.Of(0.2)),
            ],
            EntryState.Applied,
            "by hand",
            default
        );
        var recipe = Recipe.Record("Polish", [entry]);
        Assert.Equal("brass_*", Assert.Single(recipe.Steps).Match.Name);
        var audited = Audits.Open(
            ExampleScene.Write(
                place.At("scene"),
                Example.Gltf(
                    """
                    { "name": "brass_lid", "pbrMetallicRoughness": { "roughnessFactor": 0.5 } },
                    { "name": "tin", "pbrMetallicRoughness": { "roughnessFactor": 0.5 } }
                    """
                )
            )
        );
        Assert.Equal("Set brass_lid.roughness to 0.2", Assert.Single(recipe.Run(audited.Scene, audited.Report).Plan.Edits).Describe());
        Assert.Throws<CannotUseException>(() => Recipe.Record("x", [entry with { Edits = [new RelinkReference(default, null, "/a")] }]));
    }

    [Theory]
    [InlineData("""{ "name": "x", "version": 2, "steps": [{ "rule": "values.invisible" }] }""", "version 2")]
    [InlineData("""{ "name": "x", "steps": [] }""", "no steps")]
    [InlineData("""{ "name": "x", "steps": [{ "rule": "values.no-such" }] }""", "there is none")]
    [InlineData("""{ "name": "x", "steps": [{ }] }""", "neither a rule nor a value")]
    [InlineData("[", "line 1")]
    public void A_recipe_that_cannot_be_used_is_refused_in_one_sentence(string json, string says) =>
        Assert.Contains(says, Assert.Throws<CannotUseException>(() => Recipe.Read(json, "recipe.json")).Message, StringComparison.Ordinal);

    [Fact]
    public void The_schema_in_the_documentation_names_every_field()
    {
        var schema = File.ReadAllText(Path.Combine(Tool.Home, "docs", "recipe.schema.json"));
        foreach (
            var field in new[]
            {
                "name",
                "version",
                "description",
                "source",
                "steps",
                "rule",
                "cause",
                "set",
                "match",
                "part",
                "image",
                "input",
                "numbers",
                "text",
            }
        )
            Assert.Contains($"\"{field}\"", schema, StringComparison.Ordinal);
    }
}
