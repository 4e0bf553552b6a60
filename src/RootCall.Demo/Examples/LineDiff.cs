using System.Text;

namespace RootCall.Demo.Examples;

/// <summary>The lines that went and came between two short texts, in the notation of unified diffs without their numbers.</summary>
internal static class LineDiff
{
    public static string Of(string before, string after)
    {
        var (a, b) = (before.Split('\n'), after.Split('\n'));
        // Longest common subsequence from behind.
        var length = new int[a.Length + 1, b.Length + 1];
        for (var i = a.Length - 1; i >= 0; i--)
        for (var j = b.Length - 1; j >= 0; j--)
            length[i, j] = a[i] == b[j] ? length[i + 1, j + 1] + 1 : Math.Max(length[i + 1, j], length[i, j + 1]);
        var text = new StringBuilder();
        var (x, y) = (0, 0);
        while (x < a.Length || y < b.Length)
        {
            if (x < a.Length && y < b.Length && a[x] == b[y])
                (x, y) = (x + 1, y + 1);
            else if (y >= b.Length || (x < a.Length && length[x + 1, y] >= length[x, y + 1]))
                text.Append('-').Append(a[x++].TrimEnd('\r')).Append('\n');
            else
                text.Append('+').Append(b[y++].TrimEnd('\r')).Append('\n');
        }

        return text.ToString();
    }
}
