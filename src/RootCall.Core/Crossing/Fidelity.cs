using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Scenes;

namespace RootCall.Core.Crossing;

/// <summary>How far a look moved: two spheres under the same light, pixel by pixel.</summary>
/// <param name="Side">Pixels of each picture's side.</param>
/// <param name="Samples">Places looked at in each pixel; both pictures look at the same ones, so that what is the same differs by 0.</param>
public sealed record Fidelity(EnvironmentMap Light, int Side, int Samples)
{
    /// <summary>Null where one of them has no surface that is evaluated.</summary>
    public LookDifference? Between(ShaderGraph before, ShaderGraph after, ITextureSource textures, CancellationToken stop)
    {
        if (MaterialProgram.Of(before, textures) is not { } first || MaterialProgram.Of(after, textures) is not { } second)
            return null;
        var (a, b) = (new SphereSwatch(Side, Light, first), new SphereSwatch(Side, Light, second));
        a.Advance(Samples, Environment.ProcessorCount, stop);
        b.Advance(Samples, Environment.ProcessorCount, stop);
        return LookDifference.Of(a.Picture(), b.Picture(), i => SphereSwatch.Shows(Side, i));
    }
}
