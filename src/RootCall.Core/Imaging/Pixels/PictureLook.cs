namespace RootCall.Core.Imaging.Pixels;

/// <summary>
/// A difference hash: the picture as 9 x 8 greys, a bit for each pixel that is brighter than its right neighbour, row by row
/// from the lowest bit. Pictures that look alike, scaled or encoded anew, differ in few of its 64 bits.
/// </summary>
public static class PictureLook
{
    /// <summary>Less is no difference: sums of the same values in another order, and the last bit of a lossy encoding.</summary>
    private const float Same = 1e-4f;

    public static ulong Of(PixelSample tiny)
    {
        var look = 0UL;
        for (var y = 0; y < ReducedImage.TinyHeight; y++)
        for (var x = 0; x < ReducedImage.TinyWidth - 1; x++)
            if (Grey(tiny, x, y) - Grey(tiny, x + 1, y) > Same)
                look |= 1UL << ((y * (ReducedImage.TinyWidth - 1)) + x);
        return look;
    }

    private static float Grey(PixelSample tiny, int x, int y)
    {
        var pixel = tiny.Values.AsSpan(((y * tiny.Width) + x) * tiny.Channels, tiny.Channels);
        return tiny.Channels < 3 ? pixel[0] * 3 : pixel[0] + pixel[1] + pixel[2];
    }
}
