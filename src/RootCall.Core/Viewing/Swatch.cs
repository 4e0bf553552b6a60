using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Files;
using RootCall.Core.Imaging.Colours;
using RootCall.Core.Rendering.Colour;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Lights;
using RootCall.Core.Rendering.Swatches;
using RootCall.Core.Rendering.Textures;

namespace RootCall.Core.Viewing;

/// <summary>A picture of a material.</summary>
/// <param name="Pixels">Linear light, rows from the top.</param>
/// <param name="Told">What it does not show, in sentences.</param>
public sealed record Swatch(int Side, ImmutableArray<Vector3> Pixels, ImmutableArray<string> Told)
{
    /// <summary>Places looked at in each pixel of a picture that is good enough to know a material by.</summary>
    public const int Samples = 6;

    /// <summary>After how many the clock is looked at.</summary>
    private const int Step = 2;

    /// <summary>What one of many may take.</summary>
    public static readonly TimeSpan MostTime = TimeSpan.FromSeconds(20);

    /// <summary>Null for a material without a surface, or with one whose model is not evaluated here.</summary>
    /// <param name="most">A picture that is not done by then stays as it is then; infinite for one that may take what it takes.</param>
    /// <exception cref="CannotUseException">Not even the first samples were done in time.</exception>
    /// <param name="light">In place of the order's.</param>
    /// <param name="moment">A folder for images that have to be taken out of the scene before they are decoded.</param>
    public static Swatch? Of(
        SwatchOrder order,
        TextureCache cache,
        string moment,
        int samples,
        int threads,
        TimeSpan most,
        CancellationToken stop,
        EnvironmentMap? light = null
    )
    {
        var textures = new OrderedTextures(order.Images, cache, moment, stop);
        if (MaterialProgram.Of(order.Graph, textures) is not { } program)
            return null;
        var sphere = new SphereSwatch(order.Side, light ?? order.Light.Map(), program);
        using var late = CancellationTokenSource.CreateLinkedTokenSource(stop);
        late.CancelAfter(most);
        Vector3[]? picture = null;
        var done = 0;
        try
        {
            for (; done < samples; done = sphere.Samples, picture = sphere.Picture())
                sphere.Advance(Math.Min(Step, samples - done), threads, late.Token);
        }
        catch (OperationCanceledException) when (!stop.IsCancellationRequested)
        {
            // What stands is the last picture of which all pixels had the same.
        }

        if (picture is null)
            throw new CannotUseException($"The material takes longer than {most.TotalSeconds:0} s to be drawn once.");
        return new(order.Side, [.. picture], Tell(program, textures, done, samples));
    }

    /// <summary>What a picture does not show.</summary>
    internal static ImmutableArray<string> Tell(MaterialProgram program, OrderedTextures textures, int done, int samples)
    {
        var told = program.Told.ToList();
        if (textures.Missing.Count > 0)
            told.Add($"References that did not come: {string.Join(", ", textures.Missing)}.");
        if (done < samples)
            told.Add($"It was stopped after {done} of {samples} samples.");
        return [.. told];
    }

    /// <summary>How far it lies from another picture of the same size.</summary>
    public LookDifference Difference(Swatch other) =>
        LookDifference.Of(Pixels.AsSpan(), other.Pixels.AsSpan(), i => SphereSwatch.Shows(Side, i));

    public byte[] Png(HouseColours? house = null) => DisplayPicture.Png(Side, Side, Pixels.AsSpan(), house);
}
