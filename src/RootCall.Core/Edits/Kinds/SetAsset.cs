using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Edits;

/// <summary>Gives an attribute of a composed scene another asset path, in the strongest layer that is written.</summary>
/// <param name="Property">Path of the attribute: <c>/Looks/Tin/Map.inputs:file</c>.</param>
public sealed record SetAsset(string Property, string From, string To) : Edit
{
    public override string Target => Property;

    public override EditText Text => new("path", Property, From, To);

    public override string Word => "path";

    public override string Describe() => $"Call {To} from {Property}";

    internal override string? Change(SceneDraft draft)
    {
        var can = Capabilities(draft);
        if (WhyNot(draft, SceneAct.SetAsset) is { } why)
            return why;
        if (draft.Before.References.FirstOrDefault(r => r.Properties.Contains(Property)) is not { } reference)
            return $"Nothing in the scene is called from {Property}.";
        var key = new ReferenceKey(ReferenceKind.Image, Path.GetFileName(draft.Before.Path), can.Written(To));
        if (key == reference.Key)
            return null;
        draft.Give(reference.Key, Property, gives: false);
        draft.Give(key, Property, gives: true);
        for (var i = 0; i < draft.Materials.Count; i++)
        {
            var material = draft.Materials[i];
            if (!Property.StartsWith(material.Id + "/", StringComparison.Ordinal))
                continue;
            var node = material.Graph.Nodes.FirstOrDefault(n =>
                n.Image is not null
                && n.Inputs.Any(input =>
                    input.Type == InputType.FileName
                    && Property == $"{(n.Name.StartsWith('/') ? n.Name : $"{material.Id}/{n.Name}")}.inputs:{input.Name}"
                )
            );
            if (node is null)
                continue;
            var file = node.Inputs.First(input => input.Type == InputType.FileName);
            var changed = node with
            {
                Image = node.Image! with { Reference = key },
                Inputs = node.Inputs.Replace(file, file with { Value = ShaderValue.OfText(key.Written) }),
            };
            draft.Put(i, material with { Graph = material.Graph with { Nodes = material.Graph.Nodes.Replace(node, changed) } });
            return null;
        }

        // The texture of a light, or a path that is passed on to several nodes.
        draft.Put(draft.New(key));
        draft.Ripples = true;
        return null;
    }

    protected override Edit? Reverse() => this with { From = To, To = From };
}
