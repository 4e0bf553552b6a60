using System.Collections.Immutable;
using RootCall.Core.Destinations;
using RootCall.Core.Edits;

namespace RootCall.Core.Audit.Rules;

public sealed class FeatureNotThere : InputRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.feature", "A feature that the destination does not have", Severity.Warning)
        {
            Expects = "The destination can show what a material uses: subsurface, transmission, coat, sheen, displacement.",
            Why = "It is left out without a word: wax becomes chalk, lacquer becomes paint.",
            Source = "The destination.",
            Evidence =
                "The input is connected, or its value is above zero. Silent about inputs left to their default and about "
                + "the plain destination.",
            Fix = "Sets the feature to what it is when nobody uses it.",
            Example = Example.Gltf("""{ "name": "lacquer", "extensions": { "KHR_materials_clearcoat": { "clearcoatFactor": 1 } } }""") with
            {
                For = "lantern-headset",
            },
        };

    public override IEnumerable<Finding> Inspect(InputView input, AuditScene scene)
    {
        if (Used(input, scene) is not { } feature || Has(scene.Destination, feature))
            yield break;
        var off = input.Spec?.Default is { Length: > 0 } standard ? standard : [0];
        var finding = Found(
                input,
                $"{input.Material.Name} uses {feature}, which {scene.Destination.Name} does not have.",
                $"material uses {feature}, which the destination does not have",
                $"materials use {feature}, which the destination does not have",
                feature
            )
            .With(new ValueEvidence(input.Name, input.IsConnected ? "a map" : string.Join(' ', input.Numbers), string.Join(' ', off)));
        yield return input.IsConnected
            ? finding
                .Fix($"Disconnect {input.Name}", 0.5, input.Maps.Select(m => (Edit)m.Disconnect()).ToImmutableArray())
                .Decide("Or choose a destination that has it.")
            : finding
                .Fix(
                    $"Set {input.Name} to {string.Join(' ', off)}",
                    0.6,
                    new SetValue(input.Material.Name, input.Name, input.Input.Value, new(off))
                )
                .Decide("Or choose a destination that has it.");
    }

    internal static string? Used(InputView input, AuditScene scene) =>
        input.Role is { } role
        && DestinationFeatures.ByRole.TryGetValue(role, out var feature)
        && (scene.Destination.Features.Length > 0 || scene.Destination.Id != Destinations.Destination.Plain.Id)
        && (input.IsConnected || input.Input.Value?.Numbers is { Length: > 0 } n && n.Max() > 0)
        && input.Name is not "sheen_color"
            ? feature
            : null;

    /// <summary>A destination that names no features has none; the plain one has all.</summary>
    private static bool Has(Destinations.Destination destination, string feature) =>
        destination.Id == Destinations.Destination.Plain.Id || destination.Features.Contains(feature);
}
