namespace RootCall.Core.Audit.Rules;

public sealed class FeatureSwitchedOff : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.feature-switch", "A feature that has to be turned on", Severity.Warning)
        {
            Expects = "What a material needs is turned on at the destination.",
            Why = "The material is right and looks wrong, and is mended where nothing is broken.",
            Source = "The destination.",
            Evidence =
                "The material uses a feature whose switch the destination says is off. Silent about switches that are on "
                + "or not listed.",
            Example = Example.Mtlx(
                """
                <standard_surface name="SR_wax" type="surfaceshader"><input name="subsurface" type="float" value="0.6"/></standard_surface>
                <surfacematerial name="wax" type="material">
                  <input name="surfaceshader" type="surfaceshader" nodename="SR_wax"/>
                </surfacematerial>
                """
            ) with
            {
                For = "dusk-tracer",
            },
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        foreach (var off in scene.Destination.Switches.Where(s => !s.On))
        {
            var needed = material
                .Inputs.Select(i => FeatureNotThere.Used(i, scene))
                .OfType<string>()
                .FirstOrDefault(f => off.Features.Contains(f))
                ?? (off.Features.Contains("blend") && material.Text("alphaMode") == "BLEND" ? "blend" : null);
            if (needed is null)
                continue;
            yield return Found(
                    material,
                    $"{material.Name} uses {needed}; at {scene.Destination.Name} the {off.Switch} is off.",
                    $"material needs the {off.Switch}",
                    $"materials need the {off.Switch}",
                    off.Switch
                )
                .With(new ValueEvidence(off.Switch, "off", "on"))
                .Decide(off.Advice.Length > 0 ? off.Advice : $"Turn the {off.Switch} on at the destination.");
        }
    }
}
