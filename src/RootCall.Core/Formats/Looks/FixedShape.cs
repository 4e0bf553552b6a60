using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Looks;

/// <summary>Materials of fixed fields: an edit changes one field, and those that the format ties to it.</summary>
internal abstract class FixedShape : IMaterialShape
{
    public string? SetValue(SceneDraft draft, int material, string input, ShaderValue? value) =>
        Change(draft, material, (_, model, inputs) => Value(model, inputs, input, value));

    public string? SetImage(SceneDraft draft, int material, string input, ImageUse? from, ImageUse? to) =>
        Change(draft, material, (place, model, inputs) =>
            to is null ? Disconnect(model, inputs, input) : Image(draft, place, model, inputs, input, from, to)
        );

    /// <summary>Why a material that has no surface cannot be changed.</summary>
    protected abstract string NoSurface(string material);

    protected abstract string? Value(string model, List<FixedInput> inputs, string name, ShaderValue? value);

    protected abstract string? Image(
        SceneDraft draft,
        int material,
        string model,
        List<FixedInput> inputs,
        string name,
        ImageUse? from,
        ImageUse to
    );

    protected abstract string? Disconnect(string model, List<FixedInput> inputs, string name);

    /// <summary>The model that a material with those inputs is of.</summary>
    protected virtual string ModelOf(string model, IReadOnlyList<FixedInput> inputs) => model;

    private string? Change(SceneDraft draft, int place, Func<int, string, List<FixedInput>, string?> change)
    {
        if (draft.Materials[place].Look is not { } look)
            return One(draft, place, change);
        // Materials that share a look change together.
        for (var i = 0; i < draft.Materials.Count; i++)
            if (draft.Materials[i].Look == look && One(draft, i, change) is { } why)
                return why;
        return null;
    }

    private string? One(SceneDraft draft, int place, Func<int, string, List<FixedInput>, string?> change)
    {
        var material = draft.Materials[place];
        if (material.Graph.SurfaceNode is not { } surface)
            return NoSurface(material.Name);
        var before = FixedGraph.Read(material.Graph);
        var inputs = before.ToList();
        if (change(place, surface.Type, inputs) is { } why)
            return why;
        if (inputs.SequenceEqual(before))
            return null;
        // What else a field called goes with the image that it had.
        var changed = before
            .Where(b => b.Image is { } old && inputs.Find(i => i.Name == b.Name)?.Image?.Reference != old.Reference)
            .Select(b => b.Image!.Slot)
            .ToHashSet();
        var others =
            changed.Count == 0 || material.Others.IsEmpty ? material.Others : material.Others.RemoveAll(o => changed.Contains(o.Field));
        draft.Put(place, material with { Graph = FixedGraph.Build(ModelOf(surface.Type, inputs), inputs), Others = others });
        return null;
    }

    /// <summary>Null when the value has the numbers that the type takes.</summary>
    protected static string? WhyNot(string input, InputType type, ShaderValue value)
    {
        var wanted = type.Numbers;
        if (wanted == 0)
            return null;
        if (value.Text is not null || value.Numbers.Length != wanted)
            return $"{input} takes {(wanted == 1 ? "a number" : $"{wanted} numbers")}.";
        return value.Numbers.All(double.IsFinite) ? null : $"{input} takes finite numbers.";
    }

    protected static void Set(List<FixedInput> inputs, int at, FixedInput input)
    {
        var known = inputs[at];
        if (!Equals(known.Value, input.Value) || !(known.Image?.SameAs(input.Image) ?? input.Image is null))
            inputs[at] = input;
    }
}
