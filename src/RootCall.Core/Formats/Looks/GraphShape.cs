using System.Collections.Immutable;
using RootCall.Core.Rendering.Graphs.Nodes;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Looks;

/// <summary>
/// Materials of nodes: a value stands in an input of the surface shader, an image in nodes before it. A node that feeds other
/// inputs too is left as it is, and the input gets nodes of its own.
/// </summary>
internal abstract class GraphShape : INodeShape
{
    public string? SetValue(SceneDraft draft, int material, string input, ShaderValue? value)
    {
        if (Closed(draft, material, out var edit, out var surface) is { } closed)
            return closed;
        edit.Then(() => draft.Ripples |= Reaches(draft, edit.Material, surface, value is null));
        if (value is not null)
        {
            var type = TypeOf(draft, surface, input, value);
            value = Spelled(type, value);
            if (WhyNot(input, NumbersOf(type), value) is { } why)
                return why;
            edit.Put(Typed(GraphEdit.With(surface, input, type, value), input));
        }
        else if (surface.Input(input) is not null)
            edit.Put(GraphEdit.Without(surface, input));
        edit.Apply();
        return null;
    }

    public string? SetImage(SceneDraft draft, int material, string input, ImageUse? from, ImageUse? to)
    {
        if (Closed(draft, material, out var edit, out var surface) is { } closed)
            return closed;
        edit.Then(() => draft.Ripples |= Reaches(draft, edit.Material, surface, to is null));
        var there = surface.Input(input);
        if (to is null)
        {
            if (there is null)
                return null;
            edit.Put(there.Value is null ? GraphEdit.Without(surface, input) : GraphEdit.With(surface, input, there.Type, there.Value));
            edit.Apply();
            return null;
        }

        var image =
            from is null || there is null
                ? null
                : edit.Graph.Nodes.FirstOrDefault(n =>
                    n.Image is { } i && i.Reference == from.Reference && edit.Graph.ImagesOf(there).Contains(i)
                );
        var why = image is null ? New(draft, edit, surface, there, input, to) : Change(draft, edit, surface, there!, image, from!, to);
        if (why is null)
            edit.Apply();
        return why;
    }

    public string? LayNode(SceneDraft draft, int material, string input, LaidNode node, ImmutableArray<NodeValue> values) =>
        OnWay(draft, material, input, (edit, surface, there) =>
        {
            var type = TypeOf(draft, surface, input, null);
            if (LaidNodes.WhyNot(node, input, type) is { } why)
                return why;
            var name = LaidNodes.NameOf(node);
            if (node == LaidNode.NormalMap && NodeWay.Of(edit.Graph, there).Any(n => NodeKinds.NameOf(n.Type) == name))
                return $"A normal-map node lies before {input} already.";
            var made = LaidNodes.Make(node, edit.Free(Stem(surface, $"{input}_{name}")), type, there.From!);
            var parts = LaidNodes.Parts(made);
            foreach (var (part, value) in values)
            {
                if (parts.FirstOrDefault(p => p.Name == part) is not { } known)
                    return $"{name} has no value {part} that is set here.";
                // A number in place of as many as the node gives.
                var numbers = value.Numbers.Length == 1 ? [.. Enumerable.Repeat(value.Numbers[0], known.Type.Numbers)] : value.Numbers;
                if (WhyNot(part, known.Type.Numbers, value with { Numbers = numbers }) is { } not)
                    return not;
                made = GraphEdit.With(made, part, known.Type, new(numbers));
            }

            var laid = edit.Add(Standard(made));
            edit.Put(GraphEdit.With(surface, input, type, null, new(laid.Name, "out")));
            return null;
        });

    public string? TakeNode(SceneDraft draft, int material, string input, string node) =>
        OnWay(draft, material, input, (edit, surface, there) =>
        {
            var way = NodeWay.Of(edit.Graph, there);
            if (way.FirstOrDefault(n => n.Name == node) is not { } taken)
                return $"{node} does not lie before {input}.";
            if (NodeWay.Through(taken) is not { } through)
                return $"What {node} reads is no {taken.Output.Word} that could stand in its place.";
            var at = way.IndexOf(taken);
            var reader = at == 0 ? surface : way[at - 1];
            if (at > 0 && !edit.IsOnlyFor(reader.Name, input))
                return $"{reader.Name} feeds other inputs too; it was left as it is.";
            if (!MayJoin(reader, through.From!))
                return $"{node} is what its graph gives; it is taken out where the graph is made.";
            var end = reader.Inputs.First(i => i.From?.Node == node);
            edit.Put(GraphEdit.With(reader, end.Name, end.Type, null, through.From));
            edit.Drop(node);
            return null;
        });

    public string? SetNode(SceneDraft draft, int material, string input, string node, string part, ShaderValue? value) =>
        OnWay(draft, material, input, (edit, _, there) =>
        {
            if (NodeWay.Of(edit.Graph, there).FirstOrDefault(n => n.Name == node) is not { } set)
                return $"{node} does not lie before {input}.";
            if (LaidNodes.Parts(set).FirstOrDefault(p => p.Name == part) is not { } known)
                return $"{node} has no value {part} that is set here.";
            if (!edit.IsOnlyFor(node, input))
                return $"{node} feeds other inputs too; it was left as it is.";
            if (value is not null && WhyNot(part, known.Type.Numbers, value) is { } why)
                return why;
            edit.Put(value is null ? GraphEdit.Without(set, part) : GraphEdit.With(set, part, known.Type, value));
            return null;
        });

    /// <summary>Why nothing of it can be changed; null when something can.</summary>
    private string? Closed(SceneDraft draft, int material, out GraphEdit edit, out ShaderNode surface)
    {
        edit = Edit(draft, material);
        surface = edit.Graph.SurfaceNode!;
        return surface is null ? NoSurface(edit.Material.Name) : Instance.WhyNot(draft.Instances, edit.Material.Id, edit.Material.Name);
    }

    /// <summary>A change of what lies before an input that something feeds.</summary>
    private string? OnWay(SceneDraft draft, int material, string input, Func<GraphEdit, ShaderNode, ShaderInput, string?> change)
    {
        if (Closed(draft, material, out var edit, out var surface) is { } closed)
            return closed;
        if (surface.Input(input) is not { From: not null } there)
            return $"Nothing feeds {input} of {edit.Material.Name}.";
        edit.Then(() => draft.Ripples |= Reaches(draft, edit.Material, surface, takesOut: false));
        var why = change(edit, surface, there);
        if (why is null)
            edit.Apply();
        return why;
    }

    public abstract string? WhyNoNodes(ShaderNode surface);

    protected abstract GraphEdit Edit(SceneDraft draft, int material);

    /// <summary>A node can read another straight.</summary>
    protected virtual bool MayJoin(ShaderNode reader, Connection from) => true;

    /// <summary>A node of the standard library as the format calls it.</summary>
    protected abstract ShaderNode Standard(ShaderNode node);

    /// <summary>The beginning of a name for what is made for a surface.</summary>
    protected abstract string Stem(ShaderNode surface, string wanted);

    protected abstract string NoSurface(string material);

    /// <summary>A change of the shader shows elsewhere too, or what it takes out uncovers something.</summary>
    protected abstract bool Reaches(SceneDraft draft, Material material, ShaderNode surface, bool takesOut);

    /// <summary>The type of an input, there or not.</summary>
    /// <param name="value">What it is to have; null for an image.</param>
    protected abstract InputType TypeOf(SceneDraft draft, ShaderNode surface, string input, ShaderValue? value);

    /// <summary>The value as the format writes that type.</summary>
    protected virtual ShaderValue Spelled(InputType type, ShaderValue value) => value;

    /// <summary>What the format knows of an input that was given.</summary>
    protected virtual ShaderNode Typed(ShaderNode surface, string input) => surface;

    /// <summary>An image where none was, or another in nodes of its own.</summary>
    protected abstract string? New(SceneDraft draft, GraphEdit edit, ShaderNode surface, ShaderInput? there, string name, ImageUse to);

    /// <summary>Another image, or the same one read otherwise, where <paramref name="image"/> reads it.</summary>
    protected abstract string? Change(
        SceneDraft draft,
        GraphEdit edit,
        ShaderNode surface,
        ShaderInput there,
        ShaderNode image,
        ImageUse from,
        ImageUse to
    );

    /// <summary>How many numbers a type takes; 0 for a word.</summary>
    protected virtual int NumbersOf(InputType type) => type.Numbers;

    private static string? WhyNot(string input, int wanted, ShaderValue value) =>
        wanted == 0
            ? value.Text is null
                ? $"{input} takes a word."
                : null
            : value.Text is null && value.Numbers.Length == wanted && value.Numbers.All(double.IsFinite)
                ? null
                : $"{input} takes {(wanted == 1 ? "a number" : $"{wanted} numbers")}.";
}
