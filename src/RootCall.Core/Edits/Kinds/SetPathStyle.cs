using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Says how a reference's path is written when a copy of the scene is written; packages stay relative.</summary>
/// <param name="Root">Absolute folder that <see cref="PathStyle.RootRelative"/> starts from.</param>
public sealed record SetPathStyle(ReferenceKey Reference, PathStyle From, PathStyle To, string? Root = null) : Edit
{
    public override string Target => $"style {Reference.Kind} {Reference.File} {Reference.Written}";

    public override EditText Text => new("path", string.Empty, Words(From), Words(To));

    public override string Word => "path";

    public override bool ChangesFiles => false;

    public override ReferenceKey? About => Reference;

    public override string Describe() => $"Write {Reference.Written} {Words(To)}";

    internal override Answer Answered(Answer before) =>
        before with
        {
            Style = To == PathStyle.Relative ? null : To,
            Root = To == PathStyle.RootRelative ? Root : null,
        };

    internal override string? Change(SceneDraft draft)
    {
        draft.SetAnswer(Reference, Answered);
        return null;
    }

    protected override Edit? Reverse() => this with { From = To, To = From };

    public static string Words(PathStyle style) =>
        style switch
        {
            PathStyle.Relative => "relative to the scene",
            PathStyle.RootRelative => "relative to its root",
            _ => "absolute",
        };
}
