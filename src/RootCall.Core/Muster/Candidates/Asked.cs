using RootCall.Core.Scenes;

namespace RootCall.Core.Muster;

/// <summary>A reference with its path and name taken apart, once for all that ask.</summary>
internal sealed record Asked(Reference Reference, WrittenPath Path, FileName Name)
{
    public int Number => Reference.Number;

    /// <summary>The written folder without case.</summary>
    public string Folder { get; } = FileName.Fold(Path.Folder);

    public static Asked Of(Reference reference, NameDictionary names)
    {
        var path = WrittenPath.Parse(reference.Written);
        return new(reference, path, FileName.Of(path.FileName, names));
    }
}
