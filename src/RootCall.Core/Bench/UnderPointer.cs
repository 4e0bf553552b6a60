using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Audit;
using RootCall.Core.Rendering.Graphs;
using RootCall.Core.Rendering.Graphs.Nodes;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;
using RootCall.Core.Viewing;

namespace RootCall.Core.Bench;

/// <summary>What a pixel of an image comes to at an input.</summary>
/// <param name="Numbers">
/// What arrives there by the program that draws: decoded, picked, and through all nodes between. A direction is told in tangent space.
/// </param>
/// <param name="IsWhole">It depends on that pixel alone, and no node between is unknown.</param>
public sealed record ArrivingValue(string Input, ImmutableArray<double> Numbers, bool IsWhole);

/// <summary>A pixel under the pointer: as it is stored, as linear light or number, and at each input that reads it.</summary>
public sealed record UnderPointer(ImmutableArray<double> Stored, ImmutableArray<double> Linear, ImmutableArray<ArrivingValue> Inputs)
{
    /// <summary>Two places: what differs between them does not come from the pixel.</summary>
    private static readonly ShadingPoint[] Places =
    [
        new(Vector3.Zero, Vector3.UnitZ, Vector3.UnitX, Vector3.UnitY, Vector2.Zero, 0, Vector3.UnitZ),
        new(new(3.7f, 1.3f, 2.9f), Vector3.UnitZ, Vector3.UnitX, Vector3.UnitY, new(0.37f, 0.71f), 0, Vector3.UnitZ),
    ];

    /// <param name="stored">One number for each channel: grey; grey and alpha; red, green, blue; with alpha.</param>
    /// <param name="image">A map of the material that reads the image.</param>
    public static UnderPointer Of(MaterialView material, MapView image, ReadOnlySpan<float> stored)
    {
        var linear = Texture.Linear(stored, SpaceOf(image));
        var pixel = stored.ToArray();
        var inputs = material.Maps.Where(m => m.Use.SameFile(image.Use)).Select(m => Arriving(m, Texture.Linear(pixel, SpaceOf(m))));
        return new(
            [.. pixel.Select(v => (double)v)],
            stored.Length switch
            {
                1 => [linear.X],
                2 => [linear.X, linear.W],
                3 => [linear.X, linear.Y, linear.Z],
                _ => [linear.X, linear.Y, linear.Z, linear.W],
            },
            [.. inputs]
        );
    }

    /// <summary>The mean of what an image stores, as linear light or number; null where it was not looked at.</summary>
    public static ImmutableArray<double>? MeanOf(MapView map) =>
        map.Pixels is { } pixels && Texture.Linear([.. pixels.Channels.Select(c => (float)c.Mean)], SpaceOf(map)) is var mean
            ? [mean.X, mean.Y, mean.Z]
            : null;

    private static ColourSpace SpaceOf(MapView map) =>
        map.Use.EffectiveSpace is not (ColourSpace.Auto or ColourSpace.Unsaid) ? map.Use.EffectiveSpace
        : OrderedImage.IsEncoded(map.Facts) ? ColourSpace.Srgb
        : ColourSpace.Linear;

    private static ArrivingValue Arriving(MapView map, Vector4 linear)
    {
        var told = new SortedSet<string>(StringComparer.Ordinal);
        var pixel = new OnePixel(map.Use, linear);
        var program = GraphCompiler.Compile(map.Material.Material.Graph, pixel, [(map.Input.Input, Vector4.Zero)], told);
        var values = new Vector4[Places.Length];
        program.Run(Places, values);
        // A slope needs the pixels around it.
        var isLocal = !map.Through.Any(t => NodeKinds.NameOf(t) is "bump" or "heighttonormal");
        return new(
            map.Input.Name,
            [.. Enumerable.Range(0, Math.Clamp(map.Input.Type.Numbers, 1, 4)).Select(i => (double)values[0][i])],
            told.Count == 0 && map.Input.Maps.Length == 1 && isLocal && values[0] == values[1]
        );
    }

    /// <summary>An image that is one pixel everywhere; no other comes.</summary>
    private sealed record OnePixel(ImageUse Use, Vector4 Value) : ITextureSource, ITexture
    {
        public ITexture? Find(ImageUse use) => use.SameFile(Use) ? this : null;

        public Vector4 Sample(Vector2 uv, float footprint) => Value;
    }
}
