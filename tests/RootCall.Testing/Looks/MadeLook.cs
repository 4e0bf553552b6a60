namespace RootCall.Testing.Looks;

/// <summary>What is wrong with a made look.</summary>
public enum LookBreak
{
    None,
    RoughnessAndMetalnessSwapped,
    ColourAndNormalSwapped,
    ColourAndRoughnessSwapped,
    RoughnessInMetalness,
    NormalInColour,
    NormalInRoughness,
    HeightInNormal,
    GlossInRoughness,
    ColourInRoughness,
}

public enum LookFormat
{
    Gltf,
    Mtl,
    Usda,
    MaterialX,
}

/// <summary>A material with a set of maps, of which some may feed the wrong input.</summary>
public sealed record MadeLook(int Number, LookFormat Format, Naming Naming, LookBreak Break)
{
    public string Name => $"look_{Number}";

    /// <summary>The picture tells, whatever the names say.</summary>
    public static bool PixelsTell(LookBreak kind) =>
        kind
            is LookBreak.ColourAndNormalSwapped
                or LookBreak.ColourAndRoughnessSwapped
                or LookBreak.NormalInColour
                or LookBreak.NormalInRoughness
                or LookBreak.HeightInNormal
                or LookBreak.ColourInRoughness;

    /// <summary>glTF has one texture for roughness and metalness: they cannot be swapped there.</summary>
    public static bool CanBe(LookFormat format, LookBreak kind) =>
        format != LookFormat.Gltf
        || kind
            is LookBreak.None
                or LookBreak.ColourAndNormalSwapped
                or LookBreak.NormalInColour
                or LookBreak.NormalInRoughness
                or LookBreak.HeightInNormal
                or LookBreak.ColourInRoughness;

    /// <summary>What each input is fed; null for nothing.</summary>
    public (Held? Colour, Held? Normal, Held? Roughness, Held? Metalness) Wires
    {
        get
        {
            var rough = Format == LookFormat.Gltf ? Held.Packed : Held.Roughness;
            Held? metal = Format == LookFormat.Gltf ? Held.Packed : Held.Metalness;
            return Break switch
            {
                LookBreak.RoughnessAndMetalnessSwapped => (Held.Colour, Held.Normal, metal, rough),
                LookBreak.ColourAndNormalSwapped => (Held.Normal, Held.Colour, rough, metal),
                LookBreak.ColourAndRoughnessSwapped => (rough, Held.Normal, Held.Colour, metal),
                LookBreak.RoughnessInMetalness => (Held.Colour, Held.Normal, null, rough),
                LookBreak.NormalInColour => (Held.Normal, null, rough, metal),
                LookBreak.NormalInRoughness => (Held.Colour, null, Held.Normal, Format == LookFormat.Gltf ? Held.Normal : metal),
                LookBreak.HeightInNormal => (Held.Colour, Held.Height, rough, metal),
                LookBreak.GlossInRoughness => (Held.Colour, Held.Normal, Held.Gloss, metal),
                LookBreak.ColourInRoughness => (Held.Colour, Held.Normal, Held.Colour, Format == LookFormat.Gltf ? Held.Colour : metal),
                _ => (Held.Colour, Held.Normal, rough, metal),
            };
        }
    }

    public string File(Held held) => $"textures/{Number}/{LookNames.Of(Naming, Number, held)}.png";

    /// <summary>Every file of its set lies in the folder, read or not.</summary>
    public void WriteFiles(string folder)
    {
        var (colour, normal, roughness, metalness) = Wires;
        foreach (var held in new[] { Held.Colour, Held.Normal, colour, normal, roughness, metalness }.OfType<Held>().Distinct())
        {
            var path = Path.Combine(folder, File(held));
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            System.IO.File.WriteAllBytes(path, LookPictures.Of(held, Number));
        }
    }
}
