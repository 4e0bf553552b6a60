using System.Collections.Immutable;
using System.Numerics;
using RootCall.Core.Audit;
using RootCall.Core.Rendering.Textures;
using RootCall.Core.Shading;
using RootCall.Core.Viewing;

namespace RootCall.Core.Bench;

/// <summary>What a pixel of an image comes to at an input.</summary>
/// <param name="Numbers">What arrives there: decoded, one channel or three, scaled and multiplied as the graph says.</param>
/// <param name="IsWhole">Nothing lies between that is not reckoned with here.</param>
public sealed record ArrivingValue(string Input, ImmutableArray<double> Numbers, bool IsWhole);

/// <summary>A pixel under the pointer: as it is stored, as linear light or number, and at each input that reads it.</summary>
public sealed record UnderPointer(ImmutableArray<double> Stored, ImmutableArray<double> Linear, ImmutableArray<ArrivingValue> Inputs)
{
    /// <summary>Nodes that are reckoned with; a normal map stays as it is read, since it turns with the surface.</summary>
    private static readonly ImmutableArray<string> Known = ["multiply", NodeWord.Channel, "normal map", "image", "convert"];

    /// <param name="stored">One number for each channel: grey; grey and alpha; red, green, blue; with alpha.</param>
    /// <param name="image">A map of the material that reads the image.</param>
    public static UnderPointer Of(MaterialView material, MapView image, ReadOnlySpan<float> stored)
    {
        var linear = Texture.Linear(stored, SpaceOf(image));
        var pixel = stored.ToArray();
        var inputs = material
            .Maps.Where(m => m.Use.SameFile(image.Use))
            .Select(m => new ArrivingValue(
                m.Input.Name,
                Arriving(m, Texture.Linear(pixel, SpaceOf(m))),
                m.Times == 1 && m.Through.All(t => Known.Contains(NodeWord.Of(t)))
            ));
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

    private static ImmutableArray<double> Arriving(MapView map, Vector4 linear)
    {
        double At(int channel) => (linear[channel] * map.Use.ScaleOf(channel)) + map.Use.BiasOf(channel);
        ImmutableArray<double> read = map.Channel switch
        {
            Channels.R => [At(0)],
            Channels.G => [At(1)],
            Channels.B => [At(2)],
            Channels.A => [At(3)],
            Channels.Rg => [At(0), At(1)],
            Channels.Rgba => [At(0), At(1), At(2), At(3)],
            // The weights of Rec. 709, by which readers of images make one number of three.
            Channels.Luminance => [(0.2126 * At(0)) + (0.7152 * At(1)) + (0.0722 * At(2))],
            _ => [At(0), At(1), At(2)],
        };
        var factor = map.Input.Factor?.Numbers ?? [];
        return [.. read.Select((v, i) => v * (factor.Length == 0 ? 1 : factor[Math.Min(i, factor.Length - 1)]))];
    }
}
