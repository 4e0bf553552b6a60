using System.Globalization;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Adds a material that is like another one.</summary>
/// <param name="From">Name of the one that is copied.</param>
/// <param name="To">A name that no material has.</param>
public sealed record CopyMaterial(string From, string To) : Edit
{
    public override string Target => $"material {To}";

    public override EditText Text => new("material", To, "none", $"a copy of {From}");

    public override string Word => "copy material";

    public override string Describe() => $"Copy material {From} as {To}";

    internal override string? Change(SceneDraft draft)
    {
        var can = Capabilities(draft);
        if ((WhyNot(draft, SceneAct.CopyMaterial) ?? can.WhyNotName(To)) is { } why)
            return why;
        if (draft.Find(From) is not (>= 0 and var at))
            return NoMaterial(From);
        if (draft.Find(To) >= 0)
            return $"The scene has a material {To} already.";
        var source = draft.Materials[at];
        draft.Add(
            source with
            {
                Name = To,
                Id = string.Create(CultureInfo.InvariantCulture, $"/materials/{draft.Materials.Count}"),
                CopyOf = source.CopyOf ?? source.Id,
            }
        );
        return null;
    }

    protected override Edit? Reverse() => null;
}
