using System.Text;

namespace RootCall.Core.Tests.Formats;

/// <summary>What differs between two files: the parts before and behind it are the same to the byte.</summary>
internal static class ByteDiff
{
    /// <summary>The differing middle of both, as Latin-1 text so that each character is a byte.</summary>
    public static (string Before, string After) Middle(byte[] before, byte[] after)
    {
        var start = before.AsSpan().CommonPrefixLength(after);
        var end = 0;
        while (end < Math.Min(before.Length, after.Length) - start && before[^(end + 1)] == after[^(end + 1)])
            end++;
        return (Encoding.Latin1.GetString(before[start..^end]), Encoding.Latin1.GetString(after[start..^end]));
    }

    /// <summary>The lines that differ, of two texts with as many lines; ends of line belong to the lines.</summary>
    public static IReadOnlyList<(string Before, string After)> Lines(byte[] before, byte[] after)
    {
        var (a, b) = (Split(before), Split(after));
        Assert.Equal(a.Length, b.Length);
        return [.. a.Zip(b).Where(p => p.First != p.Second)];
    }

    private static string[] Split(byte[] bytes) => Encoding.Latin1.GetString(bytes).Split('\n');
}
