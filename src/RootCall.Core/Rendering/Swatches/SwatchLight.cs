using RootCall.Core.Rendering.Lights;

namespace RootCall.Core.Rendering.Swatches;

/// <summary>What swatches are lit by.</summary>
public enum SwatchLight
{
    Studio,
    Dusk,
    Lamp,
}

public static class SwatchLights
{
    private static readonly Lazy<EnvironmentMap> Soft = new(Studio.Light),
        Evening = new(Dusk.Light),
        Small = new(SmallLamp.Light);

    public static EnvironmentMap Map(this SwatchLight light) =>
        light switch
        {
            SwatchLight.Dusk => Evening.Value,
            SwatchLight.Lamp => Small.Value,
            _ => Soft.Value,
        };
}
