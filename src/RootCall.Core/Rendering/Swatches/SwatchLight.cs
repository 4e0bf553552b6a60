using RootCall.Core.Rendering.Lights;

namespace RootCall.Core.Rendering.Swatches;

/// <summary>What swatches are lit by.</summary>
public enum SwatchLight
{
    Studio,
    Dusk,
}

public static class SwatchLights
{
    private static readonly Lazy<EnvironmentMap> Soft = new(Studio.Light),
        Evening = new(Dusk.Light);

    public static EnvironmentMap Map(this SwatchLight light) => light == SwatchLight.Dusk ? Evening.Value : Soft.Value;
}
