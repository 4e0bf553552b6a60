using System.IO.Enumeration;

namespace RootCall.Core.Files;

/// <summary>Patterns in which <c>*</c> stands for any run of characters and nothing else is special; case does not count.</summary>
public static class Wildcard
{
    /// <summary>What takes the place of a question mark, which the library's expressions know and have no escape for.</summary>
    private const char QuestionMark = '\uE000';

    public static bool Fits(string pattern, string text) =>
        // The library's expressions never fit an empty text, and know \ too; names of materials may hold it.
        text.Length == 0
            ? pattern.All(c => c == '*')
            : FileSystemName.MatchesSimpleExpression(
                pattern.Replace("\\", "\\\\", StringComparison.Ordinal).Replace('?', QuestionMark),
                text.Replace('?', QuestionMark),
                ignoreCase: true
            );
}
