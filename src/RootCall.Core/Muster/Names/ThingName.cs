namespace RootCall.Core.Muster;

/// <summary>What a material is named after, as the files of the same thing would be called.</summary>
public static class ThingName
{
    /// <summary>Words that say that something is a material or a texture (common practice).</summary>
    private static readonly HashSet<string> Marks = new(StringComparer.OrdinalIgnoreCase)
    {
        "m",
        "mi",
        "mat",
        "mtl",
        "material",
        "shader",
        "look",
        "t",
        "tx",
        "tex",
        "texture",
    };

    /// <summary>
    /// The name of its base colour: <c>M_copper_pot</c> is called like <c>copper_pot_basecolor</c>. Null when nothing is left that names
    /// a thing: three letters at least.
    /// </summary>
    public static FileName? Of(string material, NameDictionary names)
    {
        var words = material.Split(['_', ' ', '-', '.', '/', ':'], StringSplitOptions.RemoveEmptyEntries).AsSpan();
        while (words.Length > 0 && Marks.Contains(words[0]))
            words = words[1..];
        while (words.Length > 0 && Marks.Contains(words[^1]))
            words = words[..^1];
        var name = FileName.Of($"{string.Join('_', words)}_basecolor.png", names);
        return name.Body.Count(char.IsLetter) >= 3 ? name : null;
    }

    /// <summary>What files of the thing may be called: some say first that they are textures.</summary>
    public static FileName[] Spellings(FileName thing) => [thing, As(thing, "t"), As(thing, "tex")];

    /// <summary>A file is named after the thing.</summary>
    public static bool IsSame(FileName thing, FileName file) => Array.Exists(Spellings(thing), s => s.IsOfSet(file));

    private static FileName As(FileName thing, string mark) => thing with { Body = mark + thing.Body, Thing = mark + thing.Thing };
}
