using RootCall.Core.Rendering.Swatches;

namespace RootCall.Core.Viewing;

/// <summary>What a frame is lit by.</summary>
public enum FrameLighting
{
    Studio,
    Dusk,

    /// <summary>The lights of the scene.</summary>
    Scene,
}

public static class FrameLightings
{
    /// <summary>What swatches are lit by beside it; the studio where the scene has lights of its own.</summary>
    public static SwatchLight OfSwatches(this FrameLighting lighting) =>
        lighting == FrameLighting.Dusk ? SwatchLight.Dusk : SwatchLight.Studio;
}
