namespace RootCall.Core.Shading;

/// <summary>The transfer curve of IEC 61966-2-1 (1999), between encoded values and linear light; both 0 to 1, and on beyond.</summary>
public static class SrgbCurve
{
    private const double EncodedBreak = 0.04045,
        LinearBreak = 0.0031308,
        Slope = 12.92,
        Offset = 0.055,
        Exponent = 2.4;

    public static double ToLinear(double encoded) =>
        encoded <= EncodedBreak ? encoded / Slope : Math.Pow((encoded + Offset) / (1 + Offset), Exponent);

    /// <summary>For many at once: within 2e-7.</summary>
    public static float ToEncodedFloat(float linear) =>
        linear <= (float)LinearBreak
            ? linear * (float)Slope
            : ((float)(1 + Offset) * MathF.Pow(linear, (float)(1 / Exponent))) - (float)Offset;

    public static double ToEncoded(double linear) =>
        linear <= LinearBreak ? linear * Slope : ((1 + Offset) * Math.Pow(linear, 1 / Exponent)) - Offset;
}
