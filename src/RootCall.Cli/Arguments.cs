using System.CommandLine;
using System.CommandLine.Parsing;

namespace RootCall.Cli;

/// <summary>
/// Reads a call. An option of many values takes all words that follow it, the scene too where that stands behind it; a call that lacks
/// its scene so is read once more with the last of those words as the scene.
/// </summary>
internal static class Arguments
{
    public static ParseResult Parse(Command root, string[] words)
    {
        var call = CommandLineParser.Parse(root, words);
        if (call.Errors.Count == 0 || call.CommandResult.Command.Arguments is not [{ Arity.MinimumNumberOfValues: > 0 } scene, ..])
            return call;
        if (call.GetResult(scene) is { Tokens.Count: > 0 })
            return call;
        foreach (var option in call.CommandResult.Children.OfType<OptionResult>().Where(o => o.Tokens.Count > 1).Reverse())
        {
            var swallowed = Array.LastIndexOf(words, option.Tokens[^1].Value);
            if (swallowed < 1)
                continue;
            string[] moved = [words[0], words[swallowed], .. words[1..swallowed], .. words[(swallowed + 1)..]];
            if (CommandLineParser.Parse(root, moved) is { Errors.Count: 0 } again)
                return again;
        }

        return call;
    }
}
