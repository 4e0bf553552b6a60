using System.Collections.Immutable;
using System.Globalization;
using RootCall.Core.Crossing.Baking;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.Gltf;

/// <summary>
/// A look in glTF's fixed fields: a factor, and an image of which the input reads the channels that are its own (glTF 2.0, 3.9).
/// </summary>
internal sealed class GltfMaker : ILookMaker
{
    public ImmutableArray<string> Models { get; } = [GltfInputs.MetallicRoughness];

    public MadeLook Make(SceneDraft draft, Material source, string name, ShaderGraph look)
    {
        var unsaid = ImmutableArray.CreateBuilder<UnsaidInput>();
        var surface = look.SurfaceNode!;
        var said = new Dictionary<string, FixedInput>(StringComparer.Ordinal);
        foreach (var field in GltfInputs.Of(GltfInputs.MetallicRoughness))
            if (surface.Input(field.Name) is { } input)
                said[field.Name] = Fixed(look, field, input, unsaid);
        foreach (var texture in Textures())
            Share([.. texture], said, unsaid);
        var inputs = new List<FixedInput>();
        foreach (var field in GltfInputs.Of(GltfInputs.MetallicRoughness))
            if (!field.IsExtension || GltfInputs.Extensions.Any(e => e.Holder == field.Holder && said.ContainsKey(e.Name)))
                inputs.Add(said.GetValueOrDefault(field.Name) ?? new(field.Name, field.Type, null, null, Standard(field)));
        Whole(inputs);
        foreach (var word in surface.Inputs.Where(i => i.Value?.Text is not null && i.Name is "alphaMode" or "doubleSided" or "unlit"))
            inputs.Add(new(word.Name, word.Type, word.Value, null, null));
        var place = draft.Materials.Count.ToString(CultureInfo.InvariantCulture);
        return new(
            new(name) { Id = $"/materials/{place}", Graph = FixedGraph.Build(GltfInputs.MetallicRoughness, inputs) },
            unsaid.ToImmutable()
        );
    }

    public ImmutableArray<WantedImage> Images(ShaderGraph look, IReadOnlyCollection<string> unsaid) =>
        [.. Textures().Where(t => t.Any(f => unsaid.Contains(f.Name))).Select(t => Packed([.. t], look.SurfaceNode!))];

    /// <summary>One texture with all that it feeds: what varies, and the numbers of the others.</summary>
    private static WantedImage Packed(ImmutableArray<GltfInput> fields, ShaderNode surface)
    {
        var isOpaque = surface.Input("alphaMode")?.Value?.Text is null or "OPAQUE";
        var fed = fields.Where(f => f.Name != "alpha" || !isOpaque).ToList();
        BakedPart Part(GltfInput field, int number)
        {
            var input = surface.Input(field.Name);
            var standing = (input?.Value?.Numbers is { Length: > 0 } said ? said : field.Default) is { Length: > 0 } n
                ? n[Math.Min(number, n.Length - 1)]
                : 1;
            return new(input?.From is null ? null : input, number, standing);
        }

        BakedPart Channel(int place) =>
            fed.Find(f => f.Type == InputType.Float && f.Channels.Place() == place) is { } one ? Part(one, 0)
            : place < 3 && fed.Find(f => f.Type != InputType.Float) is { } three ? Part(three, place)
            : new(null, 0, 1);
        var count = fed.Exists(f => f.Channels == Channels.A) ? 4 : 3;
        var token = string.Join('_', fed.Where(f => f.Name != "alpha").Select(f => WantedImage.TokenOf(f.Name)));
        return new(
            new(token, [.. Enumerable.Range(0, count).Select(Channel)], fields[0].Colour),
            [.. fed.Select(f => (f.Name, f.Type == InputType.Float ? f.Channels : Channels.Rgb))]
        );
    }

    private static IEnumerable<IGrouping<(string, string?), GltfInput>> Textures() =>
        GltfInputs.Of(GltfInputs.MetallicRoughness).Where(f => f.Texture is not null).GroupBy(f => (f.Holder, f.Texture));

    private static ShaderValue? Standard(GltfInput field) => field.Default.IsEmpty ? null : new(field.Default);

    private static FixedInput Fixed(ShaderGraph look, GltfInput field, ShaderInput input, ImmutableArray<UnsaidInput>.Builder unsaid)
    {
        var plain = new FixedInput(field.Name, field.Type, input.Value, null, Standard(field));
        if (input.From is null)
            return plain;
        if (WhyNot(field, ImageFold.Of(look, input), out var image, out var factor) is { } why)
        {
            unsaid.Add(new(field.Name, why));
            return plain;
        }

        return plain with
        {
            Value = factor,
            Image = image,
        };
    }

    private static string? WhyNot(GltfInput field, ImageFold? fold, out ImageUse? image, out ShaderValue? factor)
    {
        (image, factor) = (null, null);
        if (fold is null)
            return $"glTF has no nodes; {field.Name} is made by some.";
        if (field.Texture is null)
            return $"glTF has no texture for {field.Name}.";
        if (fold.Base.Any(b => b != 0))
            return $"glTF adds nothing to what {field.Name} reads.";
        ImmutableArray<Channels> own = field.Type == InputType.Float ? [field.Channels] : [Channels.R, Channels.G, Channels.B];
        if (!fold.Picks.SequenceEqual(own))
            return $"{field.Name} reads {field.Channels.Word()} of its image in glTF, and no other channel.";
        // An alpha is the same in every space.
        if (field.Channels != Channels.A && (fold.Use.EffectiveSpace is ColourSpace.Srgb or ColourSpace.Auto) != field.Colour)
            return $"glTF reads the image of {field.Name} as {(field.Colour ? "sRGB" : "linear")}.";
        if (fold.Gain.Any(g => g is < 0 or > 1) || (field.Factor is null && fold.Gain.Any(g => g != 1)))
            return $"glTF multiplies what {field.Name} reads by 0 to 1.";
        if (fold.Gain.Any(g => g != 1))
            factor = new(fold.Gain);
        var set = GltfWriter.SetOf(fold.Use).ToString(CultureInfo.InvariantCulture);
        image = fold.Use with
        {
            Slot = field.Texture,
            UvSet = $"TEXCOORD_{set}",
            DeclaredSpace = string.Empty,
            EffectiveSpace = field.Colour ? ColourSpace.Srgb : ColourSpace.Data,
            Channels = field.Channels,
            Scale = field.Strength is not null && fold.Strength is { } strength and not 1 ? [strength] : [],
            Bias = [],
            Default = [1, 1, 1, 1],
        };
        return null;
    }

    /// <summary>Inputs of one texture read the same image, also those that say nothing of it: their factor has to undo that.</summary>
    private static void Share(
        IReadOnlyList<GltfInput> fields,
        Dictionary<string, FixedInput> said,
        ImmutableArray<UnsaidInput>.Builder unsaid
    )
    {
        if (fields.Select(f => said.GetValueOrDefault(f.Name)?.Image).FirstOrDefault(i => i is not null) is not { } first)
            return;
        foreach (var field in fields)
        {
            var input = said.GetValueOrDefault(field.Name) ?? new(field.Name, field.Type, null, null, Standard(field));
            if (input.Image is { } own && (own.Reference != first.Reference || !own.SameReading(first)))
                unsaid.Add(new(field.Name, $"{field.Name} and another input of {field.Texture} read one image in glTF."));
            else if (input.Image is null && field.Name != "alpha" && (input.Value ?? input.Default)?.Numbers.Any(n => n != 0) == true)
                unsaid.Add(new(field.Name, $"{field.Name} would read {field.Channels.Word()} of the image of another input in glTF."));
            else
                said[field.Name] = input with { Image = first with { Channels = field.Channels } };
        }
    }

    /// <summary>A factor that several inputs share is written as a whole.</summary>
    private static void Whole(List<FixedInput> inputs)
    {
        foreach (var shared in GltfInputs.Core.GroupBy(f => (f.Holder, f.Factor)).Where(g => g.Count() > 1))
        {
            var places = shared.Select(f => inputs.FindIndex(i => i.Name == f.Name)).ToList();
            if (places.TrueForAll(p => inputs[p].Value is null))
                continue;
            foreach (var at in places)
                inputs[at] = inputs[at] with { Value = inputs[at].Value ?? inputs[at].Default };
        }
    }
}
