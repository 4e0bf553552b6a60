using System.Runtime.InteropServices;
using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Imaging;

namespace RootCall.Native;

/// <summary>Thumbnails through Debian's OpenImageIO. A crash in native code ends the process, so only workers call it.</summary>
public sealed partial class OpenImageIoThumbnails(Bounds bounds) : IThumbnailMaker
{
    private const int ErrorCapacity = 1024;

    public void Make(string path, string output, int side)
    {
        var error = new byte[ErrorCapacity];
        if (Thumbnail(path, output, side, bounds.ImagePixels, error, error.Length) != 0)
            throw new CannotUseException(Encoding.UTF8.GetString(error).TrimEnd('\0', '\n', ' '));
    }

    [LibraryImport("rootcall_images", EntryPoint = "rootcall_thumbnail", StringMarshalling = StringMarshalling.Utf8)]
    private static partial int Thumbnail(string path, string output, int side, long mostPixels, [Out] byte[] error, int capacity);
}
