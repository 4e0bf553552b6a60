using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class EmissionZero : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.emission-zero", "An emission map that is multiplied by zero", Severity.Warning)
        {
            Expects = "A material with an emission map has an emission above zero.",
            Why = "The lamp was painted and stays dark.",
            Source =
                "glTF 2.0, 3.9.3: emissiveFactor multiplies the texture and is 0 by default; Standard Surface 1.0.1, emission "
                + "is 0 by default.",
            Evidence =
                "A map feeds the emission and a factor of 0 stands before it. Where nobody wrote the 0 the fix is sure; "
                + "a written one may be a lamp that is off.",
            Fix = "Sets the factor to 1.",
            Example = Example.Gltf("""{ "name": "lamp", "emissiveTexture": { "index": "textures/lamp_emissive.png" } }"""),
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        foreach (var map in material.Maps.Where(m => m.Input.Role == Role.Emission))
        {
            var factor = material.IsGltf ? map.Input.Factor?.Numbers.Max() ?? 0 : map.Input.Factor?.Numbers.Max() ?? 1;
            // Models that have the strength apart: 0 by default.
            var (weight, strength) = (material.NameOf(Role.EmissionStrength), material.Number(Role.EmissionStrength));
            if (factor == 0)
                yield return Tell(map, map.Input.Name, "0")
                    .Fix(
                        $"Set {map.Input.Name} to 1 1 1",
                        map.Input.Factor is null ? 0.93 : 0.75,
                        new SetValue(material.Name, map.Input.Name, material.IsGltf ? map.Input.Factor : null, ShaderValue.Of(1, 1, 1))
                    );
            else if (strength == 0 && weight != map.Input.Name)
                yield return Tell(map, weight!, "0")
                    .Fix(
                        $"Set {weight} to 1",
                        material.Input(weight!)?.Input.Value is null ? 0.9 : 0.75,
                        new SetValue(material.Name, weight!, material.Input(weight!)?.Input.Value, ShaderValue.Of(1))
                    );
        }
    }

    private Finding Tell(MapView map, string where, string now) =>
        Found(
                map.Input,
                $"{map.FileText} is the emission of {map.Material.Name}, and {where} is {now}.",
                "emission map is multiplied by zero",
                "emission maps are multiplied by zero"
            )
            .With(new ValueEvidence(where, now, "1"), new PictureEvidence(map.Use.Reference));
}
