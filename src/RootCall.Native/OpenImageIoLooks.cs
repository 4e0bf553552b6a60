using System.Runtime.InteropServices;
using RootCall.Core.Files;
using RootCall.Core.Imaging;

namespace RootCall.Native;

/// <summary>
/// Looks and values of pictures through Debian's OpenImageIO. A crash in native code ends the process, so only workers
/// call it.
/// </summary>
public sealed partial class OpenImageIoLooks(Bounds bounds) : IPictureReader
{
    private const int ErrorCapacity = 1024;

    public ulong? Look(string path)
    {
        var error = new byte[ErrorCapacity];
        return Look(path, out var look, bounds.ImagePixels, error, error.Length) == 0 ? look : null;
    }

    public PixelSample? Sample(string path, int side)
    {
        var error = new byte[ErrorCapacity];
        var values = new float[side * side * 4];
        return Sample(path, side, values, out var width, out var height, out var channels, bounds.ImagePixels, error, error.Length) == 0
            ? new(width, height, channels, values[..(width * height * channels)])
            : null;
    }

    [LibraryImport("rootcall_images", EntryPoint = "rootcall_sample", StringMarshalling = StringMarshalling.Utf8)]
    private static partial int Sample(
        string path,
        int side,
        [Out] float[] values,
        out int width,
        out int height,
        out int channels,
        long mostPixels,
        [Out] byte[] error,
        int capacity
    );

    [LibraryImport("rootcall_images", EntryPoint = "rootcall_look", StringMarshalling = StringMarshalling.Utf8)]
    private static partial int Look(string path, out ulong look, long mostPixels, [Out] byte[] error, int capacity);
}
