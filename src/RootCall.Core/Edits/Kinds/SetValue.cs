using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Gives an input of the surface shader another value.</summary>
/// <param name="Material">Name of the material, or its id where several share the name.</param>
/// <param name="From">What was written; null when the default held.</param>
/// <param name="To">What is written from now on; null to let the default hold.</param>
public sealed record SetValue(string Material, string Input, ShaderValue? From, ShaderValue? To) : Edit
{
    public override string Target => $"{Material}.{Input}";

    public override EditText Text => new("value", $"{Material}, {Input}", From?.ToString() ?? "default", To?.ToString() ?? "default");

    public override string Word => "set value";

    public override string Describe() => To is null ? $"Leave {Material}.{Input} to its default" : $"Set {Material}.{Input} to {To}";

    internal override string? Change(SceneDraft draft)
    {
        var can = Capabilities(draft);
        if (WhyNot(draft, SceneAct.SetValue) is { } why)
            return why;
        return draft.Find(Material) is var at and >= 0 ? can.Shape!.SetValue(draft, at, Input, To) : NoMaterial(Material);
    }

    protected override Edit? Reverse() => this with { From = To, To = From };
}
