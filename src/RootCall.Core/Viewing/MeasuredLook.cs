using System.Collections.Immutable;
using System.Text;
using RootCall.Core.Muster;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Scenes;

namespace RootCall.Core.Viewing;

/// <summary>A material whose look is put into numbers.</summary>
/// <param name="Print">A hash of all that the look is made of.</param>
/// <param name="Now">Of its picture.</param>
public sealed record MeasuredLook(Material Material, string Print, SwatchOrder Now)
{
    /// <summary>All materials of a scene that something can show.</summary>
    public static ImmutableArray<MeasuredLook> Of(MusterReport report)
    {
        var references = new ReferencesByKey(report);
        return
        [
            .. report
                .Scene.Materials.Where(m => m is { IsTemplate: false, Graph.SurfaceNode: not null })
                .Select(m => (Material: m, Order: SwatchOrder.Of(m, references, SwatchLight.Studio, LookFeatures.Side)))
                .Select(m => new MeasuredLook(m.Material, SwatchOrder.PrintOf(m.Order.Write()), m.Order)),
        ];
    }

    /// <summary>Of how far it lies from how that arrival looked.</summary>
    public string MovedFrom(Guid arrival) => SwatchOrder.PrintOf(Encoding.UTF8.GetBytes($"{Print} {arrival:N}"));
}
