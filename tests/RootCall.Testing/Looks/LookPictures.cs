using System.Collections.Concurrent;
using System.Numerics;

namespace RootCall.Testing.Looks;

/// <summary>Pictures for made looks: what each kind of map is like, with the colours that are easily taken for something else.</summary>
public static class LookPictures
{
    private const int Size = 48;
    private static readonly ConcurrentDictionary<(Held, int), byte[]> Painted = new();

    public static byte[] Of(Held held, int look) => Painted.GetOrAdd((held, look % 12), k => Paint(k.Item1, k.Item2));

    private static byte[] Paint(Held held, int variant)
    {
        // Gloss and roughness of one thing are one picture.
        var random = new Random((variant * 31) + (int)(held == Held.Gloss ? Held.Roughness : held));
        float a = 5 + (random.NextSingle() * 20),
            b = 5 + (random.NextSingle() * 20);
        float Noise(float u, float v) =>
            Math.Clamp(0.5f + (0.25f * MathF.Sin(u * a) * MathF.Cos(v * b)) + (0.25f * MathF.Sin((u + v) * (a + b))), 0, 1);
        Vector3 Value(float u, float v) =>
            held switch
            {
                Held.Leaf => InLeaf(u, v) ? Coloured(variant, Noise(u, v)) : new(0.5f),
                Held.Opacity => new(InLeaf(u, v) ? 1 : 0),
                Held.OpacityAround => new(InLeaf(u, v) ? 0 : 1),
                Held.Gloss => new(1 - Grey(Noise(u, v))),
                Held.Colour => Coloured(variant, Noise(u, v)),
                Held.Normal => Bent(0.3f * MathF.Cos(u * a), 0.3f * MathF.Sin(v * b)),
                Held.Metalness => new(Noise(u, v) > 0.5f ? 1 : 0),
                Held.Packed => new(1 - (0.3f * Noise(v, u)), Noise(u, v), Noise(v, 1 - u) > 0.5f ? 1 : 0),
                _ => new(Grey(Noise(u, v))),
            };
        var channels = held is Held.Colour or Held.Leaf or Held.Normal or Held.Packed || variant % 2 == 1 ? 3 : 1;
        return Pictures.Png(Size, Size, channels, (x, y, pixel) =>
        {
            var value = Value((float)x / Size, (float)y / Size);
            for (var c = 0; c < pixel.Length; c++)
                pixel[c] = (byte)Math.Clamp(MathF.Round(value[c] * 255), 0, 255);
        });
    }

    private static float Grey(float noise) => 0.15f + (0.7f * noise);

    private static bool InLeaf(float u, float v) => MathF.Abs(u - 0.5f) < 0.28f && MathF.Abs(v - 0.5f) < 0.28f;

    /// <summary>A unit vector, as it is stored.</summary>
    private static Vector3 Bent(float x, float y) => (Vector3.Normalize(new(x, y, 1)) * 0.5f) + new Vector3(0.5f);

    private static Vector3 Coloured(int variant, float n) =>
        variant switch
        {
            // Grey plaster, a blue sky, a lilac that is nearly a flat normal, black and white.
            0 => new(0.3f + (0.4f * n)),
            1 => new(0.35f + (0.2f * n), 0.6f + (0.15f * n), 0.95f),
            2 => new(0.5f + (0.1f * n), 0.4f + (0.1f * n), 0.9f),
            3 => new(n > 0.5f ? 0.95f : 0.05f),
            4 => new(0.9f * n, 0.1f, 0.1f),
            5 => new(0.2f * n, 0.7f * n, 0.3f * n),
            _ => new(0.2f + (0.7f * n), 0.15f + (0.4f * n), 0.05f + (0.01f * variant) + (0.2f * n)),
        };
}
