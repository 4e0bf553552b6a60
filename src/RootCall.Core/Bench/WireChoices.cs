using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using RootCall.Core.Audit;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Shading;

namespace RootCall.Core.Bench;

/// <summary>What can be done with a wire.</summary>
[JsonConverter(typeof(WireActConverter))]
public enum WireAct
{
    /// <summary>Take it to another input.</summary>
    Move,

    /// <summary>Feed another input from the same end, too.</summary>
    Fork,

    /// <summary>Begin it at another channel.</summary>
    Channel,

    /// <summary>Turn what it carries around.</summary>
    Invert,
    Multiply,
    CorrectColour,

    /// <summary>Read stored values as directions.</summary>
    NormalMap,

    /// <summary>Take a node out that it goes through.</summary>
    TakeOut,
    Disconnect,
}

public sealed class WireActConverter() : JsonStringEnumConverter<WireAct>(JsonNamingPolicy.KebabCaseLower);

/// <param name="To">The other input, or the node that is taken out; null where none is meant.</param>
/// <param name="WhyNot">Why it cannot be done; null when it can.</param>
public sealed record WireChoice(WireAct Act, string? To, Channels? Channel, string? WhyNot);

/// <summary>
/// All that can be done with what feeds an input, tried on a draft, so that the reason stands there before anybody tries.
/// </summary>
public static class WireChoices
{
    private static readonly ImmutableArray<WireAct> Lays = [WireAct.Invert, WireAct.Multiply, WireAct.CorrectColour, WireAct.NormalMap];
    private static readonly ImmutableArray<Channels> Picks = [Channels.Rgb, Channels.R, Channels.G, Channels.B, Channels.A];

    /// <param name="channel">That is to arrive at another input; null for what fits there, or else arrives now.</param>
    public static ImmutableArray<WireChoice> Of(AuditScene scene, MaterialView material, string input, Channels? channel = null)
    {
        if (material.Input(input)?.Maps is not [var map, ..])
            return [];
        var targets = (material.Model?.Inputs.Select(i => i.Name) ?? [])
            .Concat(material.Inputs.Select(i => i.Name))
            .Distinct()
            .Where(n => n != input && (material.Input(n)?.Type ?? material.Model?.Input(n)?.Type)?.TakesImage == true)
            .ToList();
        var choices = targets
            .SelectMany(to =>
                (channel ?? Fitting(material, to, map.Channel)) is var pick
                    ? new[] { (WireAct.Move, (string?)to, pick), (WireAct.Fork, to, pick) }
                    : []
            )
            .Concat(Picks.Where(p => p != map.Channel).Select(p => (WireAct.Channel, (string?)null, (Channels?)p)))
            .Concat(Lays.Select(a => (a, (string?)null, (Channels?)null)))
            .Concat(
                HeldNode
                    .Of(scene, material.Input(input)!)
                    .Where(n => n.ComesOut)
                    .Select(n => (WireAct.TakeOut, (string?)n.Name, (Channels?)null))
            )
            .Append((WireAct.Disconnect, null, null));
        return
        [
            .. choices.Select(c => new WireChoice(
                c.Item1,
                c.Item2,
                c.Item3,
                WhyNot(scene, material, Decision(c.Item1, input, c.Item2, c.Item3))
            )),
        ];
    }

    /// <exception cref="Files.CannotUseException">Something that it needs was not said.</exception>
    public static HandDecision Decision(WireAct act, string input, string? to, Channels? channel) =>
        act switch
        {
            WireAct.Move => new HandMove(input, to ?? throw Unsaid("an input"), channel),
            WireAct.Fork => new HandFork(input, to ?? throw Unsaid("an input"), channel),
            WireAct.Channel => new HandChannel(input, channel ?? throw Unsaid("a channel")),
            WireAct.Invert => new HandLay(input, LaidNode.Invert),
            WireAct.Multiply => new HandLay(input, LaidNode.Multiply),
            WireAct.CorrectColour => new HandLay(input, LaidNode.CorrectColour),
            WireAct.NormalMap => new HandLay(input, LaidNode.NormalMap),
            WireAct.TakeOut => new HandTakeOut(input, to ?? throw Unsaid("a node")),
            _ => new HandMap(input, null),
        };

    /// <summary>What a specification fixes is what arrives; else what arrives now.</summary>
    private static Channels? Fitting(MaterialView material, string to, Channels now) =>
        (material.Input(to)?.Spec ?? material.Model?.Input(to))?.Channels is { } fix ? fix : now;

    private static string? WhyNot(AuditScene scene, MaterialView material, HandDecision decision) =>
        HandPlan.Make(scene, decision, [new(new Target("material", material.Name), null)]) is { Left: [var (_, why), ..] } ? why : null;

    private static Files.CannotUseException Unsaid(string what) => new($"Choose {what} first.");
}
