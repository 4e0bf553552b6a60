using System.Text;

namespace RootCall.Core.Files;

/// <summary>
/// Text composed as Unicode's form C (UAX 15). The library throws for half a surrogate pair, which files may hold: such text is
/// compared as it stands.
/// </summary>
internal static class Composition
{
    public static string Of(string text) => Ascii.IsValid(text) || !IsWhole(text) ? text : text.Normalize(NormalizationForm.FormC);

    public static bool IsComposed(string text) => Ascii.IsValid(text) || (IsWhole(text) && text.IsNormalized(NormalizationForm.FormC));

    /// <summary>Every surrogate has its other half.</summary>
    public static bool IsWhole(string text)
    {
        for (var i = 0; i < text.Length; i++)
            if (char.IsSurrogatePair(text, i))
                i++;
            else if (char.IsSurrogate(text[i]))
                return false;
        return true;
    }
}
