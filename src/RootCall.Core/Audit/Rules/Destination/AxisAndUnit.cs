using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class AxisAndUnit : Rule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.axis-and-unit", "Another axis is up, or another unit", Severity.Warning)
        {
            Expects = "The scene's up axis and unit are those of the destination.",
            Why = "It arrives lying on its side, or a hundred times too large; displacement and subsurface scale with it.",
            Source = "The destination; glTF 2.0, 3.4 (metres, Y up); USD, “upAxis” and “metersPerUnit”.",
            Evidence = "What the file says of axis and unit. Silent where the file or the destination says nothing.",
            Example = Example.Usda(
                """
                def Shader "surface" {
                    uniform token info:id = "UsdPreviewSurface"
                    token outputs:surface
                }
                """
            ) with
            {
                For = "lantern-headset",
            },
        };

    public override IEnumerable<Finding> Inspect(AuditScene scene)
    {
        var name = Path.GetFileName(scene.Scene.Path);
        if (scene.Destination.UpAxis is { } up && scene.Scene.UpAxis is { } now && up != now)
            yield return Found(
                    new Target("scene", name),
                    $"{now} is up in {name}; at {scene.Destination.Name} it is {up}.",
                    "scene has another axis up than the destination",
                    "scenes have another axis up than the destination",
                    "axis"
                )
                .With(new ValueEvidence("up axis", now, up))
                .Decide("Turn the scene where it is assembled, or let the destination turn it on arrival.");
        if (scene.Destination.MetresPerUnit is { } unit && scene.Scene.MetresPerUnit is { } metres && Math.Abs(unit - metres) > unit * 1e-6)
            yield return Found(
                    new Target("scene", name),
                    Invariant($"One unit of {name} is {metres:0.#####} m; at {scene.Destination.Name} it is {unit:0.#####} m."),
                    "scene has another unit than the destination",
                    "scenes have another unit than the destination",
                    "unit"
                )
                .With(new NumberEvidence("metres in a unit", metres, "m", unit, unit))
                .Decide("Scale the scene where it is assembled.");
    }
}
