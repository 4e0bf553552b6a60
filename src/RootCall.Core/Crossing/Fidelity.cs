using System.Numerics;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Scenes;

namespace RootCall.Core.Crossing;

/// <summary>How far a look moved: two spheres under the same light, pixel by pixel.</summary>
/// <param name="Side">Pixels of each picture's side.</param>
/// <param name="Samples">
/// Places looked at in each pixel; both pictures look at the same ones, so that what is the same differs by 0.
/// </param>
public sealed record Fidelity(EnvironmentMap Light, int Side, int Samples)
{
    /// <summary>Below this nobody looks twice; what lies farther apart is measured again, with more places in each pixel.</summary>
    public const double LeastAsked = 1;

    /// <summary>As many times as many places.</summary>
    public const int Again = 4;

    /// <summary>Null where one of them has no surface that is evaluated.</summary>
    public LookDifference? Between(ShaderGraph before, ShaderGraph after, ITextureSource textures, CancellationToken stop) =>
        Picture(before, textures, stop) is { } first && Picture(after, textures, stop) is { } second ? Between(first, second) : null;

    /// <summary>Of two pictures of this side.</summary>
    public LookDifference Between(ReadOnlySpan<Vector3> before, ReadOnlySpan<Vector3> after) =>
        LookDifference.Of(before, after, i => SphereSwatch.Shows(Side, i));

    /// <summary>Linear light, rows from the top; null for a look without a surface that is evaluated.</summary>
    public Vector3[]? Picture(ShaderGraph look, ITextureSource textures, CancellationToken stop)
    {
        if (MaterialProgram.Of(look, textures) is not { } program)
            return null;
        var sphere = new SphereSwatch(Side, Light, program);
        sphere.Advance(Samples, Environment.ProcessorCount, stop);
        return sphere.Picture();
    }
}
