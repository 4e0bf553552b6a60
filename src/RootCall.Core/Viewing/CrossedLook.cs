using System.Globalization;
using System.IO.Hashing;
using RootCall.Core.Crossing;
using RootCall.Core.Edits;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Scenes;

namespace RootCall.Core.Viewing;

/// <summary>A material and what it becomes in another shading model, both ready to be drawn.</summary>
/// <param name="Before">Lit by the studio.</param>
public sealed record CrossedLook(Material Material, CrossedMaterial Crossed, CrossingRoute Route, SwatchOrder Before)
{
    /// <summary>Another way to measure makes other measures.</summary>
    private const int Version = 2;

    /// <summary>Null for a material that has no surface whose model can be carried, or is of that model already.</summary>
    public static CrossedLook? Of(
        Material material,
        ReferencesByKey references,
        string model,
        CrossingRoute route,
        IReadOnlyList<SetInput> set
    ) =>
        material.Graph.SurfaceNode is not null && Crossings.Of(material.Graph, model, route) is { } crossed && crossed.From != model
            ? new(material, crossed.With(set), route, SwatchOrder.Of(material, references, SwatchLight.Studio, 0))
            : null;

    /// <summary>The look before, or the crossed one held beside it.</summary>
    public SwatchOrder Order(SwatchLight light, int side, WornLook which)
    {
        var before = Before with { Light = light, Side = side };
        return which == WornLook.Arrived ? before : before with { Graph = Crossed.Graph, Before = before };
    }

    /// <summary>The same as if the material did not say an input; null where it cannot be carried so.</summary>
    public CrossedLook? Without(string input)
    {
        var graph = Material.Graph;
        var surface = graph.SurfaceNode!;
        var less = graph with
        {
            Nodes = graph.Nodes.Replace(surface, surface with { Inputs = surface.Inputs.RemoveAll(i => i.Name == input) }),
        };
        return Crossings.Of(less, Crossed.To, Route) is { } crossed
            ? this with
            {
                Crossed = crossed,
                Before = Before with { Graph = less },
            }
            : null;
    }

    /// <summary>A hash of all that a measure of the two is made of.</summary>
    public string Print
    {
        get
        {
            var hash = new XxHash128();
            hash.Append([Version]);
            // Its number shows only where an image did not come.
            var before = Before with { Images = [.. Before.Images.Select(i => i.File is null ? i : i with { Number = 0 })] };
            hash.Append(before.Write());
            hash.Append((before with { Graph = Crossed.Graph }).Write());
            return hash.GetCurrentHashAsUInt128().ToString("x32", CultureInfo.InvariantCulture);
        }
    }
}
