using RootCall.Core.Audit;
using RootCall.Core.Bench;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Muster;
using RootCall.Core.Shading;
using RootCall.Web.Features.Audit;

namespace RootCall.Web.Features.Bench;

/// <summary>The material in hand as the stage shows it.</summary>
internal static class HeldViews
{
    /// <summary>Objects that are named.</summary>
    private const int WearersShown = 200;

    public static HeldView Of(Guid id, AuditState state, MaterialView material)
    {
        var held = HeldMaterial.Of(state.Scene, material);
        var can = SceneFormats.Of(state.Scene.Scene.Path).Capabilities;
        return new(
            material.Name,
            material.Material.Name,
            material.Model?.Name ?? material.Type,
            held.Inputs,
            material.Maps.DistinctBy(m => HeldMaterial.ImageOf(material, m).Node.Name).Select(m => Image(id, state, m)),
            held.Wearers.Take(WearersShown),
            held.Wearers.Length,
            state
                .Report.Findings.Where(f =>
                    f.Target.Material is { } of && state.Scene.Called(of) == material && !state.Waivers.ContainsKey(f.Cause.Key)
                )
                .OrderByDescending(f => f.Severity)
                .Select(f => new HeldFinding(f.Key, f.Cause.Key, f.Severity.Word(), f.Message, f.Target.Part)),
            can.WhyNot(SceneAct.SetValue),
            can.WhyNot(SceneAct.SetImage),
            can.WhyNot(SceneAct.Assign),
            can.WhyNot(SceneAct.MakeOwn)
        );
    }

    private static HeldImage Image(Guid id, AuditState state, MapView map)
    {
        var stats = map.Pixels?.Channels ?? [];
        var letters = stats.Length switch
        {
            1 => ["l"],
            2 => ["l", "a"],
            _ => new[] { "r", "g", "b", "a" },
        };
        return new(
            map.Node.Name,
            map.Answer?.Number,
            map.FileText,
            AuditShapes.Url(id, state, map.Use.Reference),
            map.Facts?.Width,
            map.Facts?.Height,
            map.Facts is null ? string.Empty : AuditShapes.Words(map.Facts),
            map.Use.DeclaredSpace.Length > 0 ? map.Use.DeclaredSpace : map.Use.EffectiveSpace.Word(),
            map.Use.UvSet,
            !map.HasCome,
            map.Answer?.State == ReferenceState.Elsewhere,
            UnderPointer.MeanOf(map),
            stats.Select((c, i) => new HeldChannel(letters[i], c.Min, c.Mean, c.Max, c.Histogram))
        );
    }
}
