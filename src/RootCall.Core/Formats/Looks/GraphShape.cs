using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Looks;

/// <summary>
/// Materials of nodes: a value stands in an input of the surface shader, an image in nodes before it. A node that feeds other
/// inputs too is left as it is, and the input gets nodes of its own.
/// </summary>
internal abstract class GraphShape : IMaterialShape
{
    public string? SetValue(SceneDraft draft, int material, string input, ShaderValue? value)
    {
        var edit = Edit(draft, material);
        if (edit.Graph.SurfaceNode is not { } surface)
            return NoSurface(edit.Material.Name);
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
        var edit = Edit(draft, material);
        if (edit.Graph.SurfaceNode is not { } surface)
            return NoSurface(edit.Material.Name);
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

    protected abstract GraphEdit Edit(SceneDraft draft, int material);

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
