using System.Runtime.InteropServices;
using RootCall.Core.Jobs;

namespace RootCall.Native;

/// <summary>A second name for a file's contents, so that a delivery's tree and the store share one copy.</summary>
public sealed partial class HardLink : IFileLinks
{
    public void Create(string existing, string name)
    {
        if (Link(existing, name) != 0)
            File.Copy(existing, name);
    }

    [LibraryImport("libc", EntryPoint = "link", StringMarshalling = StringMarshalling.Utf8)]
    private static partial int Link(string existing, string name);
}
