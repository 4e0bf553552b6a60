namespace RootCall.Core.Imaging;

/// <summary>Names and file endings of the image formats that are probed.</summary>
public static class ImageNames
{
    public static string Of(ImageFormat format) =>
        format switch
        {
            ImageFormat.Png => "PNG",
            ImageFormat.Jpeg => "JPEG",
            ImageFormat.Tga => "TGA",
            ImageFormat.Tiff => "TIFF",
            ImageFormat.Bmp => "BMP",
            ImageFormat.WebP => "WebP",
            ImageFormat.OpenExr => "OpenEXR",
            ImageFormat.RadianceHdr => "Radiance HDR",
            ImageFormat.Dds => "DDS",
            _ => "KTX2",
        };

    /// <summary>The format a file's ending promises, or null when the ending is none that is probed.</summary>
    public static ImageFormat? Promised(string fileName) =>
        Path.GetExtension(fileName).ToLowerInvariant() switch
        {
            ".png" => ImageFormat.Png,
            ".jpg" or ".jpeg" or ".jpe" or ".jfif" => ImageFormat.Jpeg,
            ".tga" or ".targa" or ".vda" or ".icb" or ".vst" => ImageFormat.Tga,
            ".tif" or ".tiff" or ".tx" => ImageFormat.Tiff,
            ".bmp" or ".dib" => ImageFormat.Bmp,
            ".webp" => ImageFormat.WebP,
            ".exr" => ImageFormat.OpenExr,
            ".hdr" or ".pic" or ".rgbe" => ImageFormat.RadianceHdr,
            ".dds" => ImageFormat.Dds,
            ".ktx2" => ImageFormat.Ktx2,
            _ => null,
        };
}
