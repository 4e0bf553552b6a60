using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Lets a file beside the scene answer for an image that was carried inside, and takes the carried bytes out.</summary>
/// <param name="File">Absolute path of the extracted file.</param>
/// <param name="Written">Path to write, relative to the scene's folder.</param>
public sealed record ExtractImage(ReferenceKey Image, string File, string Written) : Edit
{
    public override string Target => $"image {Image.Written}";

    public override EditText Text => new("image", Image.Written, "carried inside", Written);

    public override string Word => "extract";

    public override string Describe() => $"Extract {Image.Written} to {Written}";

    internal override string? Change(SceneDraft draft)
    {
        var can = Capabilities(draft);
        if (WhyNot(draft, SceneAct.Extract) is { } why)
            return why;
        if (draft.Before.References.FirstOrDefault(r => r.Key == Image) is not { } reference)
            return $"The scene has no image {Image.Written}.";
        if (reference.Carried is null)
            return $"{Image.Written} is not carried inside the scene.";
        if (can.References == ReferenceLife.Written && (reference.Properties.IsEmpty || reference.UsedBy.IsEmpty))
            return $"Nothing in the scene reads {Image.Written}.";
        var key = KeyIn(draft.Before, Written);
        draft.Replace(
            Image,
            draft.New(key) with
            {
                Properties = reference.Properties,
                CarriedName = reference.Carried.File.Length == 0 ? reference.CarriedName : CarriedNameOf(reference),
            }
        );
        return null;
    }

    /// <summary>The reference that a path would be when the scene's first file writes it.</summary>
    public static ReferenceKey KeyIn(Scene scene, string written) =>
        new(ReferenceKind.Image, Path.GetFileName(scene.Path), Capabilities(scene).Written(written));

    // Two that shared a name were told apart by a number, which is not theirs.
    private static string CarriedNameOf(Reference reference) => reference.CarriedName ?? reference.Key.Written;

    protected override Edit? Reverse() => new CarryImage(new(ReferenceKind.Image, Image.File, Written), File);
}
