using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Carries an image inside the scene that a file answered for.</summary>
/// <param name="File">Absolute path of the file whose bytes are carried.</param>
public sealed record CarryImage(ReferenceKey Image, string File) : Edit
{
    public override string Target => $"image {Image.Written}";

    public override EditText Text => new("image", Image.Written, "called from outside", "carried inside");

    public override string Word => "carry";

    public override string Describe() => $"Carry {Image.Written} inside the scene";

    internal override string? Change(SceneDraft draft)
    {
        var can = Capabilities(draft);
        if (WhyNot(draft, SceneAct.Carry) is { } why)
            return why;
        if (draft.Before.References.FirstOrDefault(r => r.Key == Image) is not { } reference || reference.Kind != ReferenceKind.Image)
            return $"The scene has no image {Image.Written}.";
        if (reference.Carried is not null)
            return $"{Image.Written} is carried inside already.";
        // Each entry would carry it once more, and be an image of its own.
        if (reference.Sites.Length > 1)
            return $"{Image.Written} is listed {reference.Sites.Length} times in the file; it is carried where it is listed once.";
        if (!System.IO.File.Exists(File))
            return $"There is no file “{File}”.";
        if (can.MayCarry!(File) is { } not)
            return not;
        var stem = reference.CarriedName ?? Path.GetFileNameWithoutExtension(Image.Written);
        var key = new ReferenceKey(ReferenceKind.Image, Path.GetFileName(draft.Before.Path), stem);
        for (var n = 2; draft.Before.References.Any(r => r.Key == key) || !draft.Claim("carried " + key.Written, Image.Written); n++)
            key = key with { Written = $"{stem} ({n})" };
        draft.Replace(Image, draft.New(key) with { Carried = new(File, 0, new FileInfo(File).Length), CarriedName = stem });
        return null;
    }

    protected override Edit? Reverse() => new ExtractImage(Image, File, Image.Written);
}
