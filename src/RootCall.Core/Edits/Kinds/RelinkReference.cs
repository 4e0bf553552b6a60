using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Lets another file answer a reference.</summary>
/// <param name="Reference">Which reference; its written path is the one that arrived.</param>
/// <param name="From">Absolute path of the file that answered before, or null when it was called as it arrived.</param>
/// <param name="To">Absolute path of the file that answers from now on, or null to call it as it arrived.</param>
public sealed record RelinkReference(ReferenceKey Reference, string? From, string? To) : Edit
{
    public override string Target => $"{Reference.Kind} {Reference.File} {Reference.Written}";

    public override EditText Text => new("relink", string.Empty, Reference.Written, To ?? "as it arrived");

    public override string Word => "relink";

    public override bool ChangesFiles => false;

    public override ReferenceKey? About => Reference;

    public override string Describe() => To is null ? $"Call {Reference.Written} as it arrived" : $"Relink {Reference.Written} to {To}";

    internal override Answer Answered(Answer before) => before with { File = To };

    internal override string? Change(SceneDraft draft)
    {
        draft.SetAnswer(Reference, Answered);
        // Another own file brings materials and references of its own.
        draft.Ripples |= Reference.Kind.IsOwnFile();
        return null;
    }

    protected override Edit? Reverse() => this with { From = To, To = From };
}
