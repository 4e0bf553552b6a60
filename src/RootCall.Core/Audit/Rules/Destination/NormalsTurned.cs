using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class NormalsTurned : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.normal-convention", "A normal map made for the other direction of green", Severity.Note)
        {
            Expects = "Normal maps point the way that the destination reads them: green up or green down.",
            Why = "Bumps become dents under light from the side; from the front nobody sees it.",
            Source = "The destination; glTF 2.0, 3.9.3: green is +Y. Endings of names: common practice.",
            Evidence =
                "The name says for which direction of green it was made: a name alone, so it is a note. Silent where the "
                + "name says nothing, and where green is turned as it is read.",
            Fix = "Relinks to the map of the set that is made for it, where one lies beside it.",
            Example = Example.Gltf("""{ "name": "pot", "normalTexture": { "index": "textures/pot_normaldx.png" } }""") with
            {
                For = "gltf-viewer",
                Beside = ["textures/pot_normalgl.png"],
            },
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (
            !map.Input.Role.IsNormal()
            || scene.Destination.NormalConvention is not { } wanted
            || map.Name.Convention is not { } said
            || said == wanted
            || map.Use.Scale is [_, < 0, ..] // It is turned where it is read.
        )
            yield break;
        var finding = Found(
                map.Input,
                $"{map.FileText} is named as made for {said.Word()}; {scene.Destination.Name} reads {wanted.Word()}.",
                "normal map is named for the other direction of green",
                "normal maps are named for the other direction of green"
            )
            .With(new ValueEvidence("green", said.Word(), wanted.Word()), new PictureEvidence(map.Use.Reference, Channels.G));
        var other = scene.Sets.Beside(map.Name).FirstOrDefault(f => f.Name.Role == Role.Normal && f.Name.Convention == wanted);
        yield return other is not null && map.Answer?.Resolved is { } now
            ? finding.Fix($"Read {other.Name.Text} instead", 0.85, new Edits.RelinkReference(map.Use.Reference, now, other.Beside.Path))
            : finding.Decide("Look at it under light from the side; if it is turned, write the image anew with its green inverted.");
    }
}
