using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Says where the file that answers a reference lies in a package: another folder, another name.</summary>
/// <param name="From">Place before, relative to the scene with slashes; null where Root Call chooses.</param>
public sealed record PlaceFile(ReferenceKey Reference, string? From, string? To) : Edit
{
    public override string Target => $"place {Reference.Kind} {Reference.File} {Reference.Written}";

    public override EditText Text => new("place", Reference.Written, From ?? "as it is", To ?? "as it is");

    public override string Word => "place";

    public override bool ChangesFiles => false;

    public override ReferenceKey? About => Reference;

    public override string Describe() => $"Put {Reference.Written} at {To ?? "its own place"}";

    internal override Answer Answered(Answer before) => before with { Place = To };

    internal override string? Change(SceneDraft draft)
    {
        draft.SetAnswer(Reference, Answered);
        return null;
    }

    protected override Edit? Reverse() => this with { From = To, To = From };
}
