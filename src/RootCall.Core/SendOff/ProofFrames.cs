using RootCall.Core.Files;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Viewing;

namespace RootCall.Core.SendOff;

/// <summary>A scene as it was drawn before it was packed, and from the package alone.</summary>
/// <param name="WhyNot">Why there is no pair of frames, in one sentence; null when there is one.</param>
public sealed record ProofFrames(TestFrame? Before, TestFrame? After, string? WhyNot)
{
    /// <summary>Null without a pair.</summary>
    public LookDifference? Difference => Before is { } before && After is { } after ? after.Difference(before) : null;
}

/// <summary>Draws the frames of a proof: small, and the same samples in both, so that what differs is the scene.</summary>
public sealed class ProofPainter(FrameTools tools, TimeSpan most)
{
    private const int Width = 384,
        Height = 216,
        Samples = 16;

    private readonly FrameView view = new(Width, Height, SwatchLight.Studio.Map(), Samples, Environment.ProcessorCount, most);

    /// <summary>The scene as it stands, before anything of it is packed.</summary>
    public ProofFrames Before(DrawnScene scene, CancellationToken stop)
    {
        try
        {
            return new(TestFrame.Of(scene, view, tools, stop), null, null);
        }
        catch (CannotUseException e)
        {
            return new(null, null, e.Message);
        }
    }

    /// <summary>The scene that was found in a package, beside the one from before.</summary>
    public ProofFrames After(ProofFrames before, DrawnScene scene, CancellationToken stop)
    {
        if (before.Before is null)
            return before;
        try
        {
            return before with { After = TestFrame.Of(scene, view, tools, stop) };
        }
        catch (CannotUseException e)
        {
            return before with { WhyNot = $"From the package it is not drawn. {e.Message}" };
        }
    }
}
