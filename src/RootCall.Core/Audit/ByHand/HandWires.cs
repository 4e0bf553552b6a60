using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Rendering.Graphs.Nodes;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>Lays what an input reads otherwise.</summary>
/// <param name="Input">That is fed now.</param>
public abstract record HandWire(string Input) : HandDecision
{
    private protected MapView Map(MaterialView material) =>
        material.Input(Input)?.Maps switch
        {
            [var map] => map,
            [_, _, ..] => throw new CannotUseException(
                $"Several images reach {Input} of {material.Name}; which of them is meant cannot be told."
            ),
            _ => throw new CannotUseException($"No image feeds {Input} of {material.Name}."),
        };

    /// <summary>What feeds the input, where another can read it without losing anything on the way.</summary>
    /// <param name="channel">That is to be read; null for what arrives now.</param>
    private protected MapView Loose(AuditScene scene, MaterialView material, Channels? channel)
    {
        var map = Map(material);
        var lacks = channel is { } picked ? WireEnds.WhyNot(map, picked) : null;
        return (lacks ?? WireEnds.Between(scene, material, Input)) is { } why ? throw new CannotUseException(why) : map;
    }

    /// <summary>What reaches an input of the draft; nothing where it is not there any more.</summary>
    private protected static ImmutableArray<TracedImage> Reaching(SceneDraft draft, Target place, string input) =>
        draft.Find(place.Name) is >= 0 and var at
        && draft.Materials[at].Graph is var graph
        && graph.SurfaceNode?.Input(input) is { From: not null } there
            ? InputTrace.Of(graph, there).Images
            : [];
}

/// <summary>Takes what feeds an input to another one.</summary>
/// <param name="Channel">Of the image, that arrives there; null for what arrives now.</param>
public sealed record HandMove(string Input, string To, Channels? Channel = null) : HandWire(Input)
{
    public override string Title => $"Take what feeds {Input} to {To}";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        var material = Material(scene, place);
        var map = Loose(scene, material, Channel);
        if (To == Input)
            throw new CannotUseException($"It feeds {Input} already.");
        var use = WireEnds.Use(scene, material, map.Use, Channel ?? map.Channel, To);
        return [map.Disconnect(), new SetImage(material.Name, To, WireEnds.There(material, To), use)];
    }

    /// <summary>Formats may feed two inputs from one field: what is taken from one of them stays at the other.</summary>
    internal override string? Missed(SceneDraft draft, Target place) =>
        Reaching(draft, place, To).IsEmpty || !Reaching(draft, place, Input).IsEmpty
            ? $"The format feeds {Input} and {To} together; neither is laid alone."
            : null;
}

/// <summary>Has another input read an image that the material reads already; what it feeds now stays.</summary>
public sealed record HandFork(string Input, string To, Channels? Channel = null) : HandWire(Input)
{
    public override string Title => $"Feed {To} from what feeds {Input}";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        var material = Material(scene, place);
        var map = Loose(scene, material, Channel);
        var use = WireEnds.Use(scene, material, map.Use, Channel ?? map.Channel, To);
        return [new SetImage(material.Name, To, WireEnds.There(material, To), use)];
    }

    internal override string? Missed(SceneDraft draft, Target place) =>
        Reaching(draft, place, To).IsEmpty || Reaching(draft, place, Input).IsEmpty
            ? $"The format cannot feed {To} and {Input} from one image."
            : null;
}

/// <summary>Has an input read another channel of its image.</summary>
public sealed record HandChannel(string Input, Channels Channel) : HandWire(Input)
{
    public override string Title => $"Feed {Input} from {Channel.Word().ToUpperInvariant()}";

    public override ImmutableArray<Edit> Edits(AuditScene scene, Target place)
    {
        var material = Material(scene, place);
        var map = Map(material);
        if (map.Channel == Channel)
            throw new CannotUseException($"{Input} reads {Channel.Word().ToUpperInvariant()} already.");
        if ((WireEnds.WhyNot(map, Channel) ?? WireEnds.WhyNot(material, Input, Channel)) is { } why)
            throw new CannotUseException(why);
        return [map.Read(u => u with { Channels = Channel })];
    }

    internal override string? Missed(SceneDraft draft, Target place) =>
        Reaching(draft, place, Input) is [{ Channel: var now }] && now == Channel
            ? null
            : $"The format does not let {Input} read {Channel.Word().ToUpperInvariant()} of this image.";
}

/// <summary>Where a wire may end, and what it carries there.</summary>
internal static class WireEnds
{
    /// <summary>What feeds an input now; null when no single image does.</summary>
    /// <exception cref="CannotUseException">More than one image reaches it.</exception>
    public static ImageUse? There(MaterialView material, string input) =>
        material.Input(input) is { Maps: { Length: > 1 } }
            ? throw new CannotUseException($"Several images reach {input} of {material.Name}; disconnect it first.")
            : material.Input(input)?.Maps.FirstOrDefault()?.Use;

    /// <summary>The image as it is read at another input.</summary>
    /// <exception cref="CannotUseException">It cannot arrive there; the sentence says why.</exception>
    public static ImageUse Use(AuditScene scene, MaterialView material, ImageUse image, Channels channel, string to)
    {
        if (WhyNot(material, to, channel) is { } why)
            throw new CannotUseException(why);
        var spec = material.Input(to)?.Spec ?? material.Model?.Input(to);
        if (spec?.Role is not { } role)
            return image with { Channels = channel };
        // What holds a colour is decoded, what holds a number is not: the input says which.
        var read = ConnectMap.Use(image.Reference, role, role, image, scene);
        return image with { Channels = spec.Channels ?? channel, DeclaredSpace = read.DeclaredSpace, Slot = string.Empty };
    }

    /// <summary>Nodes that would not come along when an image is read elsewhere; null where none lie there.</summary>
    public static string? Between(AuditScene scene, MaterialView material, string input)
    {
        if (SceneFormats.Of(scene.Scene.Path).Capabilities.Shape is not INodeShape || material.Input(input) is not { } there)
            return null;
        var words = NodeWay
            .Of(material.Material.Graph, there.Input)
            .Where(n => n.Image is null && NodeKinds.NameOf(n.Type) is not ("extract" or "normalmap"))
            .Select(n => n.Name)
            .ToList();
        return words.Count == 0 ? null : $"{string.Join(", ", words)} would not come along; take it out first.";
    }

    /// <summary>What the file holds decides which channels there are; of one that did not come nothing is known.</summary>
    public static string? WhyNot(MapView map, Channels channel) =>
        (map.Facts?.Channels, channel) switch
        {
            (1 or 3, Channels.A) => $"{map.FileText} has no alpha.",
            (1 or 2, Channels.G or Channels.B) => $"{map.FileText} is grey: its one channel is read as R.",
            _ => null,
        };

    public static string? WhyNot(MaterialView material, string input, Channels channel)
    {
        var now = material.Input(input);
        var spec = now?.Spec ?? material.Model?.Input(input);
        if (now is null && spec is null)
            return $"{material.Name} has no input {input}.";
        var type = now?.Type ?? spec!.Type;
        if (!type.TakesImage)
            return $"{input} takes no image.";
        if (spec?.Channels is { } fix && fix != channel)
            return $"By its specification {input} reads {Letters(fix)} of an image, not {Letters(channel)}.";
        if (type.Numbers == 1 && !channel.IsOne())
            return $"{input} takes one number; pick one channel of the image.";
        if (type.Numbers > 2 && channel.IsOne())
            return $"{input} takes {(spec?.IsColour == false ? "three numbers" : "a colour")}; pick R, G and B together.";
        return null;
    }

    private static string Letters(Channels channels) => channels.Word().ToUpperInvariant();

    /// <summary>1 less what was read, by the scale and the bias that readers of images have.</summary>
    public static ImageUse Inverted(ImageUse use)
    {
        ImmutableArray<double> turned = [.. Enumerable.Range(0, 4).Select(i => -use.ScaleOf(i))],
            moved = [.. Enumerable.Range(0, 4).Select(i => 1 - use.BiasOf(i))];
        var isPlain = turned.All(t => t == 1) && moved.All(m => m == 0);
        return use with { Scale = isPlain ? [] : turned, Bias = isPlain ? [] : moved };
    }
}
