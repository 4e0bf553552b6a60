using System.Collections.Immutable;
using System.Globalization;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Gltf;

/// <summary>
/// How a glTF material takes values and images: inputs share factors (base colour and alpha) and textures (metalness and
/// roughness), and the inputs of an extension come and go together.
/// </summary>
internal sealed class GltfShape : FixedShape
{
    private static readonly ImmutableArray<string> AlphaModes = ["OPAQUE", "MASK", "BLEND"];

    protected override string NoSurface(string material) => $"{material} has no surface.";

    protected override string? Value(string model, List<FixedInput> inputs, string name, ShaderValue? value)
    {
        if (name is "alphaMode" or "doubleSided")
        {
            if (value is not null && !(name == "alphaMode" ? AlphaModes : ["true", "false"]).Contains(value.Text ?? string.Empty))
                return $"{name} is {(name == "alphaMode" ? "OPAQUE, MASK or BLEND" : "true or false")}.";
            Set(inputs, inputs.FindIndex(i => i.Name == name), inputs.Find(i => i.Name == name)! with { Value = value });
            return null;
        }

        if (Find(model, name, out var input) is { } why)
            return why;
        if (input.Factor is null)
            return $"glTF has no value for {name}, only a texture.";
        if (value is not null && WhyNot(name, input.Type, value) is { } not)
            return not;
        Open(model, inputs, input);
        var sharing = GltfInputs.Of(model).Where(i => i.Holder == input.Holder && i.Factor == input.Factor).ToList();
        var wasSaid = sharing.Exists(s => At(inputs, s).Value is not null);
        foreach (var one in sharing)
        {
            // The factor is written as a whole: what was not said of it is said now.
            var now =
                one.Name == name
                    ? value ?? (sharing.Count > 1 && wasSaid ? new(input.Default) : null)
                    : At(inputs, one).Value ?? (value is null ? null : new(one.Default));
            Set(inputs, Place(inputs, one), At(inputs, one) with { Value = now });
        }

        if (value is null && sharing.TrueForAll(s => At(inputs, s).Value is not { } v || v.Equals(new(s.Default))))
            foreach (var one in sharing)
                Set(inputs, Place(inputs, one), At(inputs, one) with { Value = null });
        Close(inputs, input);
        return null;
    }

    protected override string? Disconnect(string model, List<FixedInput> inputs, string name)
    {
        if (Find(model, name, out var input) is { } why)
            return why;
        foreach (var one in Sharing(model, input).Where(s => Place(inputs, s) >= 0))
            Set(inputs, Place(inputs, one), At(inputs, one) with { Image = null });
        Close(inputs, input);
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
        if (Find(model, name, out var input) is { } why)
            return why;
        if (input.Texture is null)
            return $"glTF has no texture for {name}.";
        if (to.Bias.Length > 0 || (from is not null && to.Channels != from.Channels))
            return "glTF fixes which channels an input reads, and reads them as they are.";
        if (to.DeclaredSpace.Length > 0)
            return "glTF fixes the colour space of each input.";
        Open(model, inputs, input);
        var key = draft
            .Before.References.FirstOrDefault(r =>
                r.Key == to.Reference || (r.Kind == ReferenceKind.Image && r.Written == to.Reference.Written)
            )
            ?.Key
            ?? new(ReferenceKind.Image, Path.GetFileName(draft.Before.Path), GltfUri.Decode(GltfUri.Encode(to.Reference.Written)));
        if (
            Sharing(model, input).Skip(1).Any()
            && !draft.Claim($"{draft.Materials[material].Id} {input.Holder} {input.Texture}", key.Written)
        )
            return $"{name} shares the texture {input.Texture} with another input; they cannot read different images.";
        var set =
            to.UvSet.StartsWith("TEXCOORD_", StringComparison.Ordinal)
            && int.TryParse(to.UvSet.AsSpan(9), CultureInfo.InvariantCulture, out var n)
                ? n
                : 0;
        foreach (var one in Sharing(model, input))
        {
            Set(
                inputs,
                Place(inputs, one),
                At(inputs, one) with
                {
                    Image = new(key)
                    {
                        Slot = one.Texture!,
                        UvSet = $"TEXCOORD_{set.ToString(CultureInfo.InvariantCulture)}",
                        Transform = to.Transform with { Order = UvTransform.Identity.Order },
                        WrapU = Wrap(to.WrapU),
                        WrapV = Wrap(to.WrapV),
                        EffectiveSpace = one.Colour ? ColourSpace.Srgb : ColourSpace.Data,
                        Channels = one.Channels,
                        Scale = one.Strength is null ? [] : [.. to.Scale.Take(1)],
                        Default = [1, 1, 1, 1],
                    },
                }
            );
        }

        return null;
    }

    private static WrapMode Wrap(WrapMode mode) =>
        mode switch
        {
            WrapMode.Black => WrapMode.Clamp,
            WrapMode.FromFile => WrapMode.Repeat,
            _ => mode,
        };

    private static string? Find(string model, string name, out GltfInput input)
    {
        input = GltfInputs.Of(model).FirstOrDefault(i => i.Name == name)!;
        return input is null ? $"glTF has no input {name}." : null;
    }

    private static IEnumerable<GltfInput> Sharing(string model, GltfInput input) =>
        GltfInputs.Of(model).Where(i => i.Holder == input.Holder && i.Texture is not null && i.Texture == input.Texture);

    private static int Place(List<FixedInput> inputs, GltfInput input) => inputs.FindIndex(i => i.Name == input.Name);

    private static FixedInput At(List<FixedInput> inputs, GltfInput input) => inputs[Place(inputs, input)];

    /// <summary>An extension that is not there yet brings all its inputs along.</summary>
    private static void Open(string model, List<FixedInput> inputs, GltfInput input)
    {
        if (Place(inputs, input) >= 0)
            return;
        var order = GltfInputs.Of(model).ToList();
        foreach (var one in order.Where(i => i.Holder == input.Holder))
        {
            var before = order.IndexOf(one) is var at
                ? inputs.FindLastIndex(i => order.FindIndex(o => o.Name == i.Name) is >= 0 and var o && o < at)
                : -1;
            inputs.Insert(before + 1, new(one.Name, one.Type, null, null, one.Default.IsEmpty ? null : new(one.Default)));
        }
    }

    /// <summary>An extension that says nothing any more is as if it were not there.</summary>
    private static void Close(List<FixedInput> inputs, GltfInput input)
    {
        if (!input.IsExtension || input.Holder == GltfInputs.SpecularGlossinessExtension)
            return;
        var all = GltfInputs.Extensions.Where(i => i.Holder == input.Holder).Select(i => i.Name).ToHashSet();
        if (!inputs.Exists(i => all.Contains(i.Name) && i.IsSaid))
            inputs.RemoveAll(i => all.Contains(i.Name) && !IsOfAnother(i, input.Holder));
    }

    // "specular" is an input of the archived model and of an extension.
    private static bool IsOfAnother(FixedInput input, string holder) =>
        holder == "KHR_materials_specular" && input.Type == InputType.Color3 && input.Name == "specular";
}
