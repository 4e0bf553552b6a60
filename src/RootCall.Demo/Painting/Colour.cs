namespace RootCall.Demo.Painting;

/// <summary>A colour or a set of channel values, 0 to 1 unless the picture is HDR.</summary>
internal readonly record struct Colour(float R, float G, float B, float A = 1)
{
    public static Colour Grey(float value) => new(value, value, value);

    public static Colour Hex(uint rgb) => new((rgb >> 16) / 255f, (rgb >> 8 & 255) / 255f, (rgb & 255) / 255f);

    public static Colour Mix(Colour a, Colour b, float t) =>
        new(Noise.Mix(a.R, b.R, t), Noise.Mix(a.G, b.G, t), Noise.Mix(a.B, b.B, t), Noise.Mix(a.A, b.A, t));

    public Colour Times(float k) => new(R * k, G * k, B * k, A);
}
