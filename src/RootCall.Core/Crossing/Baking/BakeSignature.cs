using System.Globalization;
using System.Text;
using RootCall.Core.Scenes;

namespace RootCall.Core.Crossing.Baking;

/// <summary>
/// What an image is baked from, as a text: two bakes of one text are one image, however it is tiled where it is read.
/// </summary>
public static class BakeSignature
{
    private const int Deepest = 500;

    /// <param name="fileOf">Tells the contents that answer a reference.</param>
    public static string Of(ShaderGraph look, Bake bake, Func<ReferenceKey, string> fileOf)
    {
        var text = new StringBuilder();
        var numbers = new Dictionary<string, int>(StringComparer.Ordinal);
        void Node(string name, int depth)
        {
            // A node that was told already is called by its place.
            if (numbers.TryGetValue(name, out var known) || look.Node(name) is not { } node || depth > Deepest)
            {
                text.Append(CultureInfo.InvariantCulture, $"#{known}");
                return;
            }

            numbers[name] = numbers.Count;
            text.Append(node.Type).Append(' ').Append(node.Output.Word).Append('(');
            if (node.Image is { } use)
            {
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"{fileOf(use.Reference)}|{use.EffectiveSpace}|{use.DeclaredSpace}|{use.Channels}"
                );
            }
            else
                foreach (var input in node.Inputs)
                    Input(input, depth);
            text.Append(')');
        }

        void Input(ShaderInput input, int depth)
        {
            text.Append(input.Name).Append('=');
            if (input.From is { } from)
            {
                Node(from.Node, depth + 1);
                text.Append('.').Append(from.Output);
            }
            else
                text.Append(input.Effective);
            text.Append(';');
        }

        text.Append(bake.IsColour).Append(';');
        foreach (var part in bake.Channels)
        {
            text.Append(CultureInfo.InvariantCulture, $"[{part.Number} {part.Otherwise:R} ");
            if (part.Input is { } fed)
                Input(fed with { Name = string.Empty }, 0);
            text.Append(']');
        }

        return text.ToString();
    }
}
