using System.Collections.Immutable;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Wavefront;

/// <summary>How a material of a library takes values and images: a statement each, multiplied where both are there.</summary>
internal sealed class MtlShape : FixedShape
{
    protected override string NoSurface(string material) =>
        $"No library that was read defines the material {material}; make or relink its library first.";

    protected override string ModelOf(string model, IReadOnlyList<FixedInput> inputs) => MtlMaterials.ModelOf(inputs.Select(i => i.Name));

    protected override string? Value(string model, List<FixedInput> inputs, string name, ShaderValue? value)
    {
        if (!MtlMaterials.Values.TryGetValue(name, out var known))
            return $"MTL has no statement for the value of {name}.";
        name = known.Name;
        if (value is not null && WhyNot(name, known.Type, value) is { } why)
            return why;
        var at = inputs.FindIndex(i => i.Name == name);
        if (at < 0 && value is not null)
            inputs.Add(new(name, known.Type, value, null, MtlMaterials.Default(name)));
        else if (at >= 0)
            Put(inputs, at, inputs[at] with { Value = value });
        return null;
    }

    protected override string? Disconnect(string model, List<FixedInput> inputs, string name)
    {
        var at = inputs.FindIndex(i => i.Name == name);
        if (at >= 0)
            Put(inputs, at, inputs[at] with { Image = null });
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
        var statements = MtlMaterials.StatementsOf(name);
        if (statements.Count == 0)
            return $"MTL has no map for {name}.";
        var at = inputs.FindIndex(i => i.Name == name);
        var meaning = MtlMaterials.MapOf(statements[0]);
        if (WhyNot(to) is { } not)
            return not;
        var key = KeyOf(draft, draft.Materials[material].File, to.Reference);
        if (Range(name, meaning.Type, to, out var scale, out var bias) is { } why)
            return why;
        var use = new ImageUse(key)
        {
            Slot = (at >= 0 ? inputs[at].Image?.Slot : null) ?? Usual(draft, name) ?? statements[0],
            Transform = to.Transform with { Order = "scale offset", Rotation = 0 },
            WrapU = to.WrapU,
            WrapV = to.WrapV,
            EffectiveSpace = meaning.IsColour ? ColourSpace.Srgb : ColourSpace.Data,
            Channels =
                meaning.Type != InputType.Float ? Channels.Rgb
                : to.Channels is Channels.R or Channels.G or Channels.B or Channels.A or Channels.Depth ? to.Channels
                : Channels.Luminance,
            Scale = scale,
            Bias = bias,
        };
        if (at < 0)
            inputs.Insert(
                inputs.FindLastIndex(i => i.Image is not null) + 1,
                new(name, meaning.Type, null, use, MtlMaterials.Default(name))
            );
        else
            Put(inputs, at, inputs[at] with { Image = use });
        return null;
    }

    /// <summary>Null when a map statement can read an image so.</summary>
    internal static string? WhyNot(ImageUse image) =>
        image.WrapU != image.WrapV ? "MTL repeats an image in both directions or clamps it in both."
        : image.Transform.Rotation != 0 ? "MTL has no rotation of UV coordinates."
        : WavefrontFormat.Safe(image.Reference.Written) is var path && MapStatement.NameIn(path) != path
            ? $"MTL cannot write the path “{image.Reference.Written}”."
        : null;

    /// <summary>The reference as an own file writes it.</summary>
    internal static ReferenceKey KeyOf(SceneDraft draft, int file, ReferenceKey key)
    {
        var there = ReferencePaths.In(draft.Before, key, Path.GetRelativePath(draft.Before.Folder, draft.Files[file].Path));
        return there with { Written = WavefrontFormat.Safe(there.Written) };
    }

    /// <summary>A bump is multiplied (<c>-bm</c>), anything else but a normal has a base and a gain (<c>-mm</c>).</summary>
    private static string? Range(
        string name,
        InputType type,
        ImageUse to,
        out ImmutableArray<double> scale,
        out ImmutableArray<double> bias
    )
    {
        (scale, bias) = ([], []);
        if (type == InputType.Vector3)
            return null;
        if (to.Scale.Take(3).Distinct().Count() > 1 || to.Bias.Take(3).Distinct().Count() > 1)
            return "MTL scales all channels of an image alike.";
        var (gain, low) = (to.Scale is [var g, ..] ? g : 1, to.Bias is [var b, ..] ? b : 0);
        if (low != 0 || (gain != 1 && name != "bump"))
            (scale, bias) = ([gain], [low]);
        else if (gain != 1)
            scale = [gain];
        return null;
    }

    /// <summary>The statement that other materials of the scene use for the input.</summary>
    private static string? Usual(SceneDraft draft, string name) => draft.Index.UsualSlot($"{name} image");

    private static void Put(List<FixedInput> inputs, int at, FixedInput input)
    {
        if (input.IsSaid)
            Set(inputs, at, input);
        else
            inputs.RemoveAt(at);
    }
}
