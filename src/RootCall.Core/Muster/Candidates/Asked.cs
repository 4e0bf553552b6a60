using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Muster;

/// <summary>A reference with its path taken apart once for all that ask, and its name when somebody does.</summary>
internal sealed class Asked(Reference reference, NameDictionary names)
{
    private FileName? name;

    public Reference Reference => reference;

    public int Number => reference.Number;

    public WrittenPath Path { get; } = WrittenPath.Parse(reference.Written);

    public FileName Name => name ??= FileName.Of(Path.FileName, names);
}
