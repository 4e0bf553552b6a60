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

    /// <summary>Its gloss is read, and its roughness lies beside it.</summary>
    GlossBesideRoughness,

    /// <summary>White around the leaf.</summary>
    OpacityInverted,

    /// <summary>It reads the set of its neighbour, and the neighbour its.</summary>
    SetsSwapped,

    /// <summary>It reads the normal map of its neighbour, and the neighbour its.</summary>
    NormalsExchanged,

    /// <summary>Its whole set lies beside it, and it reads nothing.</summary>
    NothingConnected,
}

public enum LookFormat
{
    Gltf,
    Mtl,
    Usda,
    MaterialX,
}

/// <summary>An input of a made look.</summary>
public enum Slot
{
    Colour,
    Normal,
    Roughness,
    Metalness,
    Opacity,
}

/// <summary>A material with a set of maps, of which some may feed the wrong input.</summary>
public sealed record MadeLook(int Number, LookFormat Format, Naming Naming, LookBreak Break)
{
    /// <summary>Where a material is told by its name, it is called like its thing.</summary>
    public string Name => IsOfSets ? $"m_{LookNames.Pair(Number)}" : $"look_{Number}";

    /// <summary>What is wrong is wrong between sets, and the name of the material matters.</summary>
    private bool IsOfSets => Break >= LookBreak.SetsSwapped;

    /// <summary>Some looks are leaves, cut out of their picture.</summary>
    private bool IsLeaf => Break == LookBreak.OpacityInverted || (Number % 4 == 0 && !IsOfSets && TakesOpacity(Format));

    /// <summary>The format has an input of its own for opacity, and of one channel.</summary>
    private static bool TakesOpacity(LookFormat format) => format is LookFormat.Mtl or LookFormat.Usda;

    /// <summary>The picture tells, whatever the names say.</summary>
    public static bool PixelsTell(LookBreak kind) =>
        kind
            is LookBreak.ColourAndNormalSwapped
                or LookBreak.ColourAndRoughnessSwapped
                or LookBreak.NormalInColour
                or LookBreak.NormalInRoughness
                or LookBreak.HeightInNormal
                or LookBreak.ColourInRoughness
                or LookBreak.OpacityInverted;

    public bool CanBe =>
        Break switch
        {
            LookBreak.OpacityInverted => TakesOpacity(Format),
            // glTF has one texture for roughness and metalness: they cannot be swapped there.
            LookBreak.RoughnessAndMetalnessSwapped
            or LookBreak.ColourAndRoughnessSwapped
            or LookBreak.RoughnessInMetalness
            or LookBreak.GlossInRoughness
            or LookBreak.GlossBesideRoughness => Format != LookFormat.Gltf,
            // Names alone tell what belongs together.
            LookBreak.SetsSwapped or LookBreak.NormalsExchanged or LookBreak.NothingConnected => Naming
                is Naming.Words
                    or Naming.Languages
                    or Naming.Bare,
            _ => true,
        };

    private Held Paint => IsLeaf ? Held.Leaf : Held.Colour;

    private Held Rough => Format == LookFormat.Gltf ? Held.Packed : Held.Roughness;

    private Held Metal => Format == LookFormat.Gltf ? Held.Packed : Held.Metalness;

    /// <summary>What the input is made to read when nothing is wrong; null for nothing.</summary>
    public Held? Meant(Slot slot) =>
        slot switch
        {
            Slot.Colour => Paint,
            Slot.Normal => Held.Normal,
            Slot.Roughness => Rough,
            Slot.Metalness => Metal,
            _ => IsLeaf ? Held.Opacity : null,
        };

    /// <summary>What the input does read; null for nothing.</summary>
    public Held? Read(Slot slot) =>
        (Break, slot) switch
        {
            (LookBreak.RoughnessAndMetalnessSwapped, Slot.Roughness) => Metal,
            (LookBreak.RoughnessAndMetalnessSwapped or LookBreak.RoughnessInMetalness, Slot.Metalness) => Rough,
            (LookBreak.ColourAndNormalSwapped or LookBreak.NormalInColour, Slot.Colour) => Held.Normal,
            (LookBreak.ColourAndNormalSwapped, Slot.Normal) => Paint,
            (LookBreak.ColourAndRoughnessSwapped, Slot.Colour) => Rough,
            (LookBreak.ColourAndRoughnessSwapped or LookBreak.ColourInRoughness, Slot.Roughness) => Paint,
            (LookBreak.ColourInRoughness, Slot.Metalness) when Format == LookFormat.Gltf => Paint,
            (LookBreak.RoughnessInMetalness, Slot.Roughness) or (LookBreak.NormalInColour or LookBreak.NormalInRoughness, Slot.Normal) =>
                null,
            (LookBreak.NormalInRoughness, Slot.Roughness) => Held.Normal,
            (LookBreak.NormalInRoughness, Slot.Metalness) when Format == LookFormat.Gltf => Held.Normal,
            (LookBreak.HeightInNormal, Slot.Normal) => Held.Height,
            (LookBreak.GlossInRoughness or LookBreak.GlossBesideRoughness, Slot.Roughness) => Held.Gloss,
            (LookBreak.OpacityInverted, Slot.Opacity) => Held.OpacityAround,
            (LookBreak.NothingConnected, _) => null,
            _ => Meant(slot),
        };

    /// <summary>The input reads what it is meant to, and of its own set.</summary>
    public bool IsRight(Slot slot) => Read(slot) is { } held && held == Meant(slot) && From(slot) == Number;

    /// <summary>The file that the input calls for; null for none.</summary>
    public string? Called(Slot slot) => Read(slot) is { } held ? File(held, From(slot)) : null;

    /// <summary>The look whose file the input reads.</summary>
    private int From(Slot slot) =>
        Break == LookBreak.SetsSwapped || (Break == LookBreak.NormalsExchanged && slot == Slot.Normal) ? Number ^ 1 : Number;

    private string File(Held held, int look) => $"textures/{look}/{LookNames.Of(Naming, look, held, IsOfSets)}.png";

    /// <summary>Every file of its set lies in the folder, read or not.</summary>
    public void WriteFiles(string folder)
    {
        var slots = Enum.GetValues<Slot>();
        Held[] own = IsOfSets ? [.. slots.Select(Meant).OfType<Held>()] : [Held.Normal, .. slots.Select(Read).OfType<Held>()];
        Held[] beside = Break == LookBreak.GlossBesideRoughness ? [Held.Roughness] : [];
        foreach (var held in own.Append(Paint).Concat(beside).Distinct())
        {
            var path = Path.Combine(folder, File(held, Number));
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            System.IO.File.WriteAllBytes(path, LookPictures.Of(held, Number));
        }
    }
}
