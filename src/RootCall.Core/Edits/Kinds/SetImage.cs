using System.Globalization;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Edits;

/// <summary>Connects an image to an input, changes how it is read there, or disconnects it.</summary>
/// <param name="From">What fed the input; null when no image did.</param>
/// <param name="To">
/// What feeds it from now on; its reference's written path is relative to the file that writes it. Null disconnects.
/// </param>
public sealed record SetImage(string Material, string Input, ImageUse? From, ImageUse? To) : Edit
{
    public override string Target => $"{Material}.{Input}";

    public override EditText Text => new("image", $"{Material}, {Input}", Short(From), Short(To));

    public override string Word =>
        (From, To) switch
        {
            (_, null) => "disconnect",
            (null, _) => "connect",
            ({ } a, { } b) when a.Reference != b.Reference => "change image",
            ({ } a, { } b) when a.DeclaredSpace != b.DeclaredSpace => "set colour space",
            ({ } a, { } b) when a.Channels != b.Channels => "pick channel",
            ({ } a, { } b) when a.Transform != b.Transform => "set tiling",
            ({ } a, { } b) when a.UvSet != b.UvSet => "set UV set",
            ({ } a, { } b) when a.WrapU != b.WrapU || a.WrapV != b.WrapV => "set wrap mode",
            _ => "set how it is read",
        };

    public override string Describe() =>
        (From, To) switch
        {
            (_, null) => $"Disconnect {From?.Reference.Written ?? "the image"} from {Material}.{Input}",
            (null, _) => $"Connect {To.Reference.Written} to {Material}.{Input}",
            _ when From.Reference.Written != To.Reference.Written => $"Feed {Material}.{Input} from {To.Reference.Written}",
            _ when From.Transform != To.Transform => string.Create(
                CultureInfo.InvariantCulture,
                $"Set the tiling of {Material}.{Input} to {To.Transform.ScaleU:0.####} x {To.Transform.ScaleV:0.####}"
            ),
            _ => $"Change how {Material}.{Input} reads {To.Reference.Written}",
        };

    internal override string? Change(SceneDraft draft)
    {
        var can = Capabilities(draft);
        if (WhyNot(draft, SceneAct.SetImage) is { } why)
            return why;
        if (draft.Find(Material) is not (>= 0 and var at))
            return NoMaterial(Material);
        if (To is null)
            return can.Shape!.SetImage(draft, at, Input, From, null);
        if (can.WhyNot(From?.Transform ?? UvTransform.Identity, To.Transform) is { } not)
            return not;
        if (To.Reference.Written.Length == 0)
            return "An image needs a path.";
        return Fitting(can, To, out var fitting) ?? can.Shape!.SetImage(draft, at, Input, From, fitting);
    }

    protected override Edit? Reverse() => this with { From = To, To = From };

    /// <summary>
    /// The use as the format can say it: what is asked for in so many words must be sayable, what comes along may be
    /// dropped.
    /// </summary>
    private string? Fitting(FormatCapabilities can, ImageUse to, out ImageUse fitting)
    {
        fitting = to;
        if (can.Spaces == SpaceTags.None && to.DeclaredSpace.Length > 0)
        {
            if (From is not null && From.DeclaredSpace != to.DeclaredSpace)
                return $"{can.Name} fixes the colour space of each input.";
            fitting = fitting with { DeclaredSpace = string.Empty };
        }

        if (
            (From is not null && From.WrapU != to.WrapU && !can.Wraps.Contains(to.WrapU))
            || (From is not null && From.WrapV != to.WrapV && !can.Wraps.Contains(to.WrapV))
        )
            return $"{can.Name} has no such wrap mode.";
        fitting = fitting with { WrapU = Nearest(can, to.WrapU), WrapV = Nearest(can, to.WrapV) };
        return null;
    }

    private static WrapMode Nearest(FormatCapabilities can, WrapMode mode) =>
        can.Wraps.Contains(mode) ? mode
        : mode == WrapMode.Black && can.Wraps.Contains(WrapMode.Clamp) ? WrapMode.Clamp
        : WrapMode.Repeat;

    private static string Short(ImageUse? use) =>
        use is null
            ? "no image"
            : string.Join(
                ", ",
                new[]
                {
                    use.Reference.Written,
                    use.Transform.IsIdentity ? string.Empty : use.Transform.ToString(),
                    use.DeclaredSpace,
                }.Where(t => t.Length > 0)
            );
}
