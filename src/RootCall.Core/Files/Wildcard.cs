using System.IO.Enumeration;

namespace RootCall.Core.Files;

/// <summary>Patterns in which <c>*</c> stands for any run of characters and nothing else is special; case does not count.</summary>
public static class Wildcard
{
    public static bool Fits(string pattern, string text) =>
        // The library's expressions never fit an empty text, and know ? and \ too; names of materials may hold both.
        text.Length == 0
            ? pattern.All(c => c == '*')
            : FileSystemName.MatchesSimpleExpression(
                pattern.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("?", "\\?", StringComparison.Ordinal),
                text,
                ignoreCase: true
            );
}
