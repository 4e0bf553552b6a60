using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Transfer;

/// <summary>Compares the looks of two materials input by input; under other models' names by the role an input plays.</summary>
internal sealed class LookCheck(Scene sceneA, Scene sceneB, ImagePairs images, TransferTolerance tolerance)
{
    /// <summary>Roles whose numbers mean the same in every model.</summary>
    private static readonly HashSet<Role> Shared =
    [
        Role.BaseColour,
        Role.Metalness,
        Role.Roughness,
        Role.Emission,
        Role.IndexOfRefraction,
        Role.Transmission,
        Role.Coat,
        Role.CoatRoughness,
    ];

    /// <summary>Names that several materials of the second scene share: those are called by their id.</summary>
    private readonly HashSet<string> repeated = [.. sceneB.Materials.GroupBy(m => m.Name).Where(g => g.Count() > 1).Select(g => g.Key)];

    private const string GltfPacked = "gltf-metallic-roughness";

    /// <param name="Key">What it is for, in one word for all models; its name where that is not known.</param>
    private sealed record Input(string Name, string Key, ModelInput? Spec, ShaderValue? Value, ImageUse? Image, ShaderValue? Factor);

    public bool Compare(Material a, Material b, List<TransferRow> rows)
    {
        var before = rows.Count;
        var (modelA, modelB) = (a.Graph.SurfaceNode?.Type ?? "none", b.Graph.SurfaceNode?.Type ?? "none");
        var sameModel = modelA == modelB;
        var (inputsA, inputsB) = (Inputs(a, sameModel), Inputs(b, sameModel));
        foreach (var key in inputsA.Keys.Union(inputsB.Keys))
        {
            var (x, y) = (inputsA.GetValueOrDefault(key), inputsB.GetValueOrDefault(key));
            var role = (x ?? y)!.Spec?.Role;
            var nameInB = y?.Name
                ?? (
                    sameModel ? x!.Name
                    : role is { } r ? ShadingModels.OfType(modelB)?.Input(r)?.Name
                    : null
                );
            // A role that the other model does not have is no loss of the transfer, unless an image was in it.
            if (x?.Image is not null || y?.Image is not null)
                Maps(a, b, key, x, y, nameInB, inputsB, rows);
            if (x is not null && (y is not null || sameModel) && (sameModel || (role is { } same && Shared.Contains(same))))
                Values(b, key, x, y, nameInB, sameModel, rows);
        }

        return rows.Count == before;
    }

    private Dictionary<string, Input> Inputs(Material material, bool byName)
    {
        var inputs = new Dictionary<string, Input>(StringComparer.Ordinal);
        foreach (var input in material.Graph.SurfaceNode?.Inputs ?? [])
        {
            var spec = Spec(material, input);
            if ((spec?.Role?.Word() ?? (byName ? input.Name : null)) is not { } key)
                continue;
            var image = material.Graph.ImagesOf(input).FirstOrDefault();
            if (spec?.Role == Role.Opacity && image is not null && !IsSeenThrough(material, image))
                continue;
            var factor = image is null ? null : Factor(material.Graph, input);
            var known = inputs.GetValueOrDefault(key);
            if (known is null || (known.Image is null && image is not null))
                inputs[key] = new(input.Name, key, spec, image is null ? input.Effective : null, image, factor);
        }

        return inputs;
    }

    /// <summary>An alpha that the image does not have, or that its material does not ask for, is nobody's loss.</summary>
    private bool IsSeenThrough(Material material, ImageUse image) =>
        image.Channels != Channels.A
        || (images.HasAlpha(image.Reference) && material.Graph.SurfaceNode!.Input("alphaMode")?.Effective?.Text != "OPAQUE");

    private static ModelInput? Spec(Material material, ShaderInput input) =>
        ShadingModels.OfType(material.Graph.SurfaceNode!.Type)?.Input(input.Name);

    /// <summary>The inputs of a material that are for the same as one of another.</summary>
    private static IEnumerable<ShaderInput> Like(Material material, Input input) =>
        material.Graph.SurfaceNode?.Inputs.Where(i => (Spec(material, i)?.Role?.Word() ?? i.Name) == input.Key) ?? [];

    /// <summary>The value an image is multiplied by; null where the graph multiplies by none.</summary>
    private static ShaderValue? Factor(ShaderGraph graph, ShaderInput input)
    {
        var at = input.From;
        for (var hops = 0; at is not null && hops < 8 && graph.Node(at.Node) is { } node; hops++)
        {
            if (node.Type == "multiply" && node.Inputs.FirstOrDefault(i => i.From is null && i.Value is not null) is { } factor)
                return factor.Value;
            at = node.Image is null ? node.Inputs.FirstOrDefault(i => i.From is not null)?.From : null;
        }

        return null;
    }

    private void Maps(
        Material a,
        Material b,
        string key,
        Input? x,
        Input? y,
        string? nameInB,
        Dictionary<string, Input> inputsB,
        List<TransferRow> rows
    )
    {
        TransferRow Row(string what, string? before, string? after) =>
            new("material", b.Name, what, before, after)
            {
                Input = key,
                ImageA = x?.Image?.Reference,
                ImageB = y?.Image?.Reference,
            };
        TransferRow Restored(TransferRow row, ImageUse? to)
        {
            if (b.Graph.SurfaceNode is null)
                return row with { WhyNot = "the definition of the material did not arrive" };
            if (nameInB is null)
                return row with { WhyNot = $"{b.Graph.SurfaceNode.Type} has no {key}" };
            if (x?.Image is not null && to is null)
                return row with { WhyNot = "no file answers for it in either scene" };
            if (
                to is not null
                && nameInB is "roughness" or "metallic"
                && b.Graph.SurfaceNode.Type == GltfPacked
                && to!.Channels is not (Channels.G or Channels.B)
            )
                return row with { WhyNot = "glTF keeps roughness and metalness in one image; packing them is a crossing" };
            return row with { Restore = [new SetImage(Name(b), nameInB, y?.Image, to)] };
        }

        if (x?.Image is not { } source)
        {
            // An image that sits where none should is told as one that sits in another input, if it is known.
            if (y?.Image is { } extra && !IsElsewhere(extra, a))
                rows.Add(Restored(Row("map", null, ImagePairs.NameOf(extra.Reference)), null));
            return;
        }

        if (y?.Image is not { } arrived || !images.AreOne(source.Reference, arrived.Reference))
        {
            var elsewhere = inputsB.Values.FirstOrDefault(i =>
                i.Key != key && i.Image is { } image && images.AreOne(source.Reference, image.Reference) && !Feeds(a, i, source)
            );
            if (elsewhere is not null)
            {
                var row = Row("input", key, elsewhere.Key) with { ImageB = elsewhere.Image!.Reference };
                var to = Carried(source, arrivedLike: elsewhere.Image);
                row = Restored(row, to);
                // It leaves the input it sits in, unless something of its own belongs there: that row puts it back.
                if (row.Restore.Length > 0 && !HasImage(a, elsewhere))
                    row = row with { Restore = [Cleared(a, b, elsewhere), .. row.Restore] };
                rows.Add(row);
                return;
            }

            rows.Add(
                Restored(
                    Row("map", ImagePairs.NameOf(source.Reference), y?.Image is { } other ? ImagePairs.NameOf(other.Reference) : null),
                    Carried(source, y?.Image)
                )
            );
            return;
        }

        Settings(source, arrived, (x.Spec ?? y.Spec)?.IsColour == true, Row, Restored, rows);
    }

    /// <summary>Takes an image off an input, and gives the input the value it had in the first scene.</summary>
    private Edit Cleared(Material a, Material b, Input input)
    {
        var value = Like(a, input).FirstOrDefault()?.Value;
        return value is not null && a.Graph.SurfaceNode!.Type == b.Graph.SurfaceNode!.Type
            ? new SetValue(Name(b), input.Name, null, value)
            : new SetImage(Name(b), input.Name, input.Image, null);
    }

    private static void Settings(
        ImageUse source,
        ImageUse arrived,
        bool colour,
        Func<string, string?, string?, TransferRow> row,
        Func<TransferRow, ImageUse?, TransferRow> restored,
        List<TransferRow> rows
    )
    {
        var (s, t) = (source.Transform, arrived.Transform);
        bool Same(double a, double b) => Math.Abs(a - b) <= 1e-4 * Math.Max(1, Math.Abs(a));
        if (!Same(s.ScaleU, t.ScaleU) || !Same(s.ScaleV, t.ScaleV))
            rows.Add(
                restored(
                    row("tiling", Pair(s.ScaleU, s.ScaleV), Pair(t.ScaleU, t.ScaleV)),
                    arrived with
                    {
                        Transform = t with { ScaleU = s.ScaleU, ScaleV = s.ScaleV },
                    }
                )
            );
        else if (!Same(s.OffsetU, t.OffsetU) || !Same(s.OffsetV, t.OffsetV) || !Same(s.Rotation, t.Rotation))
            rows.Add(restored(row("uv transform", s.ToString(), t.ToString()), arrived with { Transform = s with { Order = t.Order } }));
        var (setA, setB) = (Index(source.UvSet), Index(arrived.UvSet));
        if (setA is not null && setB is not null && setA != setB)
            rows.Add(restored(row("uv set", source.UvSet, arrived.UvSet), arrived with { UvSet = source.UvSet }));
        if (Space(source, colour) != Space(arrived, colour))
        {
            var declares = arrived.DeclaredSpace.Length > 0 || source.DeclaredSpace.Length > 0;
            rows.Add(
                declares
                    ? restored(
                        row("colour space", Space(source, colour), Space(arrived, colour)),
                        arrived with
                        {
                            DeclaredSpace = source.DeclaredSpace,
                        }
                    )
                    : row("colour space", Space(source, colour), Space(arrived, colour)) with
                    {
                        WhyNot = "the format gives each input its colour space",
                    }
            );
        }

        if (source.WrapU != arrived.WrapU && source.WrapU != WrapMode.FromFile && arrived.WrapU != WrapMode.FromFile)
            rows.Add(
                restored(
                    row("wrap", source.WrapU.ToString().ToLowerInvariant(), arrived.WrapU.ToString().ToLowerInvariant()),
                    arrived with
                    {
                        WrapU = source.WrapU,
                        WrapV = source.WrapV,
                    }
                )
            );
        if (source.Channels.Place() is not null && arrived.Channels.Place() is not null && source.Channels != arrived.Channels)
            rows.Add(
                row("channels", source.Channels.Word(), arrived.Channels.Word()) with
                {
                    WhyNot = "the format gives each input its channel",
                }
            );
    }

    private void Values(Material b, string key, Input x, Input? y, string? nameInB, bool sameModel, List<TransferRow> rows)
    {
        var (before, after) = (
            x.Image is null ? x.Value : x.Factor,
            y is null ? null
            : y.Image is null ? y.Value
            : y.Factor
        );
        // A factor counts only where both have an image, a value only where both have none.
        if ((x.Image is null) != (y?.Image is null) || before is null || nameInB is null)
            return;
        if (after is null && !sameModel)
            return;
        if (after is not null && Close(before, after))
            return;
        if (after is null && x.Image is not null && before.Numbers.All(n => n == 1))
            return;
        rows.Add(
            new("material", b.Name, "value", before.ToString(), after?.ToString())
            {
                Input = key,
                Restore = [new SetValue(Name(b), nameInB, after, before)],
            }
        );
    }

    private bool Close(ShaderValue a, ShaderValue b)
    {
        if (a.Text is not null || b.Text is not null)
            return a.Text == b.Text;
        if (a.Numbers.Length != b.Numbers.Length)
            return a.Numbers.Length == 0 || b.Numbers.Length == 0;
        return a.Numbers.Zip(b.Numbers).All(n => Math.Abs(n.First - n.Second) <= tolerance.Value * Math.Max(1, Math.Abs(n.First)));
    }

    /// <summary>The use as the second scene would write it; null when no file answers.</summary>
    private ImageUse? Carried(ImageUse source, ImageUse? arrivedLike)
    {
        if (images.CallInB(source.Reference) is not { } written)
            return null;
        var declared = sceneA.Format.Id == sceneB.Format.Id ? source.DeclaredSpace : arrivedLike?.DeclaredSpace ?? string.Empty;
        return source with { Reference = images.KeyInB(source.Reference, written), UvSet = SetInB(source.UvSet), DeclaredSpace = declared };
    }

    /// <summary>The second scene's name for a UV set.</summary>
    private string SetInB(string set)
    {
        if (sceneA.Format.Id == sceneB.Format.Id)
            return set;
        var sets = sceneB.Meshes.OrderByDescending(m => m.UvSets.Length).FirstOrDefault()?.UvSets ?? [];
        return Index(set) is { } i && i < sets.Length ? sets[i]
            : sets.Length > 0 ? sets[0]
            : string.Empty;
    }

    private static int? Index(string set) =>
        set.Length == 0 ? null
        : set.LastIndexOfAnyExceptInRange('0', '9') is var at && at < set.Length - 1 && int.TryParse(set.AsSpan(at + 1), out var n) ? n
        : 0;

    private bool IsElsewhere(ImageUse extra, Material a) =>
        a.Graph.Nodes.Any(n => n.Image is { } image && images.AreOne(image.Reference, extra.Reference));

    private static bool HasImage(Material a, Input input) => Like(a, input).Any(i => a.Graph.ImagesOf(i).Any());

    /// <summary>The image belongs there too: a packed map feeds several inputs.</summary>
    private static bool Feeds(Material a, Input input, ImageUse image) =>
        Like(a, input).Any(i => a.Graph.ImagesOf(i).Any(u => u.Reference == image.Reference));

    private string Name(Material b) => repeated.Contains(b.Name) ? b.Id : b.Name;

    /// <summary>What a reader decides by itself counts as what the input wants.</summary>
    private static string Space(ImageUse use, bool colour) =>
        use.EffectiveSpace switch
        {
            ColourSpace.Other => use.DeclaredSpace,
            ColourSpace.Auto or ColourSpace.Unsaid => (colour ? ColourSpace.Srgb : ColourSpace.Data).Word(),
            var space => space.Word(),
        };

    private static string Pair(double u, double v) => $"{TransferCheck.Number(u)} x {TransferCheck.Number(v)}";
}
