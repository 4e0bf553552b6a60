namespace RootCall.Testing.Looks;

/// <summary>How the files of a made look are called.</summary>
public enum Naming
{
    /// <summary><c>rough_stone_basecolor</c>.</summary>
    Words,

    /// <summary><c>rough_stone_farbe</c>, in one language a look.</summary>
    Languages,

    /// <summary>The colour is called like the thing alone, the others end in words.</summary>
    Bare,

    /// <summary><c>rough_stone_d</c>.</summary>
    Letters,

    /// <summary>Numbers only: nothing is said.</summary>
    Numbers,

    /// <summary>Each file like another thing, whose name holds a role's word.</summary>
    Misleading,
}

/// <summary>What a file of a look holds.</summary>
public enum Held
{
    Colour,
    Normal,
    Roughness,
    Metalness,
    Height,
    Gloss,
    Packed,

    /// <summary>A colour picture of a leaf in one plain colour.</summary>
    Leaf,

    /// <summary>White where the leaf is.</summary>
    Opacity,

    /// <summary>White where it is not.</summary>
    OpacityAround,
}

public static class LookNames
{
    private const int Opacity = 7;

    /// <summary>Things whose names hold a word for a role, in several languages.</summary>
    private static readonly string[] Things =
    [
        "scrap_metal",
        "robot_arm",
        "wood_rough",
        "normal_day",
        "rough_stone",
        "brushed_metal",
        "sky",
        "night_sky",
        "glow_worm",
        "carnival_mask",
        "alpha_tower",
        "height_marker",
        "gloss_paint",
        "bump_car",
        "mr_gnome",
        "spec_house",
        "red_col",
        "heavy_metal",
        "env_crate",
        "relief",
        "altura_house",
        "gaodu_tower",
        "glanz_lack",
        "touming",
        "iro_box",
        "old_orm",
        "diffuse_lamp",
        "oak",
        "07",
        "occ_panel",
    ];

    private static readonly Dictionary<string, string[]> Words = new()
    {
        // Colour, normal, roughness, metalness, height, gloss, packed, opacity: common practice, and from memory for the other languages.
        ["en"] = ["basecolor", "normal", "roughness", "metallic", "height", "gloss", "orm", "opacity"],
        ["en2"] = ["albedo", "nor_gl", "rough", "metalness", "disp", "glossiness", "arm", "alpha"],
        ["de"] = ["farbe", "normalen", "rauheit", "metallisch", "hoehe", "glanz", "orm", "deckkraft"],
        ["fr"] = ["couleur", "normale", "rugosite", "metallique", "hauteur", "brillance", "orm", "opacite"],
        ["es"] = ["difuso", "normales", "rugosidad", "metalico", "altura", "brillo", "orm", "opacidad"],
        ["it"] = ["colore", "normali", "ruvidita", "metallico", "altezza", "lucentezza", "orm", "opacita"],
        ["pt"] = ["cor", "normais", "rugosidade", "metalico", "altura", "brilho", "orm", "opacidade"],
        ["ja"] = ["iro", "housen", "arasa", "kinzoku", "takasa", "koutaku", "orm", "futoumei"],
        ["zh"] = ["yanse", "faxian", "cucaodu", "jinshudu", "gaodu", "guangze", "orm", "butouming"],
    };

    /// <summary>A thing that no other look of a scene is.</summary>
    public static string Pair(int look) => $"{Things[look % Things.Length]}_{Things[((look / Things.Length) + 11) % Things.Length]}";

    /// <summary>Name without its ending.</summary>
    /// <param name="alone">No other look of the scene is of the same thing.</param>
    public static string Of(Naming naming, int look, Held held, bool alone)
    {
        var thing = alone ? Pair(look) : Things[look % Things.Length];
        var word = held switch
        {
            Held.Leaf => (int)Held.Colour,
            Held.Opacity or Held.OpacityAround => Opacity,
            _ => (int)held,
        };
        var languages = Words.Keys.ToArray();
        return naming switch
        {
            Naming.Words => $"{thing}_{Words[look % 2 == 0 ? "en" : "en2"][word]}",
            Naming.Languages => $"{thing}_{Words[languages[2 + (look % (languages.Length - 2))]][word]}",
            Naming.Bare => word == (int)Held.Colour ? thing : $"{thing}_{Words["en"][word]}",
            Naming.Letters => held == Held.Packed ? $"{thing}_orm" : $"{thing}_{"dnrmhg?a"[word]}",
            Naming.Numbers => $"{(look * 8) + word + 1000}",
            _ => Things[(look + (3 * word)) % Things.Length],
        };
    }
}
