using System.Diagnostics;
using System.Globalization;

namespace RootCall.Testing;

/// <summary>The processes that decode images for others.</summary>
public static class Decoders
{
    /// <summary>Those of one process; others on the machine belong to somebody else.</summary>
    public static IReadOnlyList<Process> Of(int parent) =>
        [.. Process.GetProcessesByName("rootcall-images").Where(p => ParentOf(p) == parent)];

    /// <summary>The fourth field of <c>/proc/PID/stat</c> (proc(5)); the name before it holds no space.</summary>
    private static int ParentOf(Process process)
    {
        try
        {
            return int.Parse(File.ReadAllText($"/proc/{process.Id}/stat").Split(' ')[3], CultureInfo.InvariantCulture);
        }
        catch (IOException)
        {
            return 0; // It has just ended.
        }
    }
}
