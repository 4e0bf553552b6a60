using RootCall.Core.Audit;
using RootCall.Core.Bench;
using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Bench;

/// <summary>What the sheet and the material in hand say, of scenes of the demo.</summary>
public sealed class BenchSheetTests(DemoPlace demo) : IClassFixture<DemoPlace>
{
    private static LedgerEntry Entry(params Edit[] edits) => LedgerEntry.ByHand("a test", [.. edits], DateTimeOffset.UnixEpoch);

    [Fact]
    public void A_row_tells_the_worst_finding_the_last_change_and_who_looks_the_same()
    {
        var audited = Audits.OpenRelinked(demo.At("arrived/brass_gardener/brass_gardener.gltf"), demo.Library);
        var image = audited.Scene.Called("gardener_brass")!.Maps[0].Use.Reference;
        var ledger = new Ledger([
            Entry(new SetValue("brass_ring", "roughness", null, ShaderValue.Of(0.4))),
            Entry(new RelinkReference(image, null, "/nowhere.png")),
        ]);
        var rows = BenchSheet.Of(audited.Scene, audited.Report, ledger, _ => true).ToDictionary(r => r.Title + r.Name);
        BenchRow Row(string name) => rows.Values.First(r => r.Title == name);
        Assert.Equal((Severity.Blocker, "invisible"), (Row("ghost_sash").Worst, Row("ghost_sash").Word));
        Assert.Equal((2, 1, 0), (Row("gardener_brass").Change, Row("brass_ring").Change, Row("ghost_sash").Change));
        Assert.Equal(new Twin("brass_ring", "nothing but the name"), Assert.Single(Row("brass_ring_copy").Twins));
        Assert.Contains(Row("brass_ring").Twins, t => t.Of == "brass_ring_copy");
        // Two share a name: edits tell them apart.
        Assert.Equal(2, rows.Values.Where(r => r.Title == "brass_button").Select(r => r.Name).Distinct().Count());
        var none = BenchSheet.Of(audited.Scene, audited.Report, ledger, _ => false);
        Assert.All(none, r => Assert.Equal((null, 0, string.Empty), (r.Worst, r.Findings, r.Word)));
    }

    /// <summary>In the order of OpenPBR's specification; what a map feeds has no value of its own.</summary>
    [Fact]
    public void Inputs_stand_in_the_models_order_and_say_what_differs()
    {
        var audited = Audits.OpenRelinked(demo.At("arrived/seed_tins/seed_tins.mtlx"), demo.Library);
        var held = HeldMaterial.Of(audited.Scene, audited.Scene.Called("seed_tin_01")!);
        var model = held.Material.Model!;
        Assert.Equal(model.Inputs.Select(i => i.Name), held.Inputs.Take(model.Inputs.Length).Select(i => i.Name));
        HeldInput Of(string name) => held.Inputs.First(i => i.Name == name);
        Assert.True(Of("base_color") is { Differs: true, Now.IsEmpty: true, Maps.Length: 1, IsColour: true });
        Assert.True(Of("specular_IOR") is { Differs: false, Now: [1.5], Min: not null });
        Assert.Equal("coat", Of("coat_roughness").Unseen);
        Assert.All(held.Wearers, w => Assert.True(w.Triangles >= 0 && w.Name.Length > 0));
    }

    /// <summary>IEC 61966-2-1: 0.5 of a display is 0.2140 of linear light; a number is as it is stored.</summary>
    [Fact]
    public void A_pixel_arrives_decoded_and_multiplied()
    {
        var audited = Audits.OpenRelinked(demo.At("arrived/brass_gardener/brass_gardener.gltf"), demo.Library);
        var belt = audited.Scene.Called("verdigris_belt")!;
        var colour = UnderPointer.Of(belt, belt.Input("baseColor")!.Maps[0], [0.5f, 1f, 0f]);
        Assert.Equal([0.5, 1, 0], colour.Stored.AsEnumerable());
        Assert.Equal([0.2140, 1, 0], colour.Linear.Select(v => Math.Round(v, 4)));
        var packed = UnderPointer.Of(belt, belt.Input("roughness")!.Maps[0], [0f, 0.5f, 1f]);
        double At(string input) => packed.Inputs.First(i => i.Input == input).Numbers.Single();
        Assert.Equal((0.5 * 1.7, 1.0), (Math.Round(At("roughness"), 6), At("metallic")));
        Assert.All(packed.Inputs, i => Assert.True(i.IsWhole));
    }
}
