using System.Runtime.InteropServices;

namespace RootCall.Native;

/// <summary>A second name for a file's contents, so that a delivery's tree and the store share one copy.</summary>
public static partial class HardLink
{
    /// <summary>Links, or copies where the file system will not link.</summary>
    public static void Create(string existing, string name)
    {
        if (Link(existing, name) != 0)
            File.Copy(existing, name);
    }

    [LibraryImport("libc", EntryPoint = "link", StringMarshalling = StringMarshalling.Utf8)]
    private static partial int Link(string existing, string name);
}
