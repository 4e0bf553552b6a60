using RootCall.Core.Files;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Muster;

/// <summary>What an image is for: told from the inputs that read it, then from its name.</summary>
public static class MapRole
{
    /// <summary>Null for what is no image, and where neither tells.</summary>
    public static Role? Of(Reference reference, NameDictionary? names = null) =>
        reference.Kind != ReferenceKind.Image
            ? null
            : Roles.OfMap(reference.UsedBy.Select(u => u.Role).OfType<Role>())
                ?? FileName.Of(WrittenPath.Parse(reference.Written).FileName, names ?? NameDictionary.Standard).Role;

    /// <summary>What any reference is for, in the words of the interface.</summary>
    public static string Word(Reference reference) =>
        reference.Kind switch
        {
            ReferenceKind.Image => Of(reference)?.Word() ?? "image",
            ReferenceKind.Buffer => "geometry",
            ReferenceKind.MaterialLibrary => "materials",
            var kind => kind.Word(),
        };
}
