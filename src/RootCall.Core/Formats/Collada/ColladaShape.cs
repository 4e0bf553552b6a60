using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Collada;

/// <summary>How a material of the common profile takes values and images: an input holds one or the other.</summary>
internal sealed class ColladaShape : FixedShape
{
    protected override string NoSurface(string material) => $"The effect of {material} has no common profile.";

    protected override string? Value(string model, List<FixedInput> inputs, string name, ShaderValue? value)
    {
        if (!ColladaMaterials.IsInput(name) || name == "bump")
            return $"The common profile of COLLADA has no value {name}.";
        var type = ColladaMaterials.TypeOf(name);
        if (value is not null && WhyNot(name, type, value) is { } why)
            return why;
        var at = inputs.FindIndex(i => i.Name == name);
        if (value is null)
        {
            if (at >= 0)
                inputs.RemoveAt(at);
            // It is an attribute of the input's element.
            if (name == "transparent")
                inputs.RemoveAll(i => i.Name == "opaque");
        }
        else if (at >= 0)
            Set(inputs, at, inputs[at] with { Value = value, Image = null });
        else
            inputs.Add(new(name, type, value, null, null));
        return null;
    }

    /// <summary>What is left where an image was is white.</summary>
    protected override string? Disconnect(string model, List<FixedInput> inputs, string name)
    {
        var at = inputs.FindIndex(i => i.Name == name);
        if (at >= 0 && inputs[at].Image is not null)
            inputs[at] = inputs[at] with { Image = null, Value = ColladaMaterials.White(name) };
        return null;
    }

    protected override string? Image(
        SceneDraft draft,
        int material,
        string model,
        List<FixedInput> inputs,
        string name,
        ImageUse? from,
        ImageUse to
    )
    {
        var at = inputs.FindIndex(i => i.Name == name);
        if (!ColladaMaterials.IsInput(name) || (name == "bump" && at < 0))
            return $"The common profile of COLLADA has no input {name}.";
        var type = ColladaMaterials.TypeOf(name);
        if (from is not null && from.Channels != to.Channels)
            return "The common profile of COLLADA picks no channels.";
        if (to.Bias.Length > 0 || to.Scale.Any(s => s != 1))
            return "The common profile of COLLADA scales no image.";
        var use = new ImageUse(to.Reference)
        {
            UvSet = to.UvSet.Length > 0 ? to.UvSet : draft.Meshes.SelectMany(m => m.UvSets).FirstOrDefault() ?? "TEXCOORD0",
            Transform = to.Transform with { Order = "scale offset" },
            WrapU = to.WrapU,
            WrapV = to.WrapV,
            EffectiveSpace = type == InputType.Color3 ? ColourSpace.Srgb : ColourSpace.Data,
            Channels = type == InputType.Float ? Channels.R : Channels.Rgb,
        };
        if (at < 0)
            inputs.Add(new(name, type, null, use, null));
        else
            Set(inputs, at, inputs[at] with { Value = null, Image = use });
        return null;
    }
}
