using System.Numerics;
using RootCall.Core.Files;

namespace RootCall.Core.Imaging.Colours;

/// <summary>
/// The colours of a house: what its config says of spaces that only their names tell, and how it shows pictures. Pictures are reckoned in
/// linear light with the primaries of Rec. 709; the config is entered by a space that it says is this one, or by ACES2065-1.
/// </summary>
public sealed class HouseColours
{
    /// <summary>
    /// What configs call linear light with the primaries of Rec. 709 (the published ACES configurations, and MaterialX 1.39).
    /// </summary>
    private static readonly string[] Rec709 =
    [
        "lin_rec709",
        "lin_rec709_scene",
        "Linear Rec.709 (sRGB)",
        "lin_srgb",
        "Utility - Linear - Rec.709",
        "Utility - Linear - sRGB",
        "Linear Rec.709",
        "Linear sRGB",
    ];

    /// <summary>The role of OpenColorIO 2 for ACES2065-1; what older configs call it.</summary>
    private static readonly string[] Aces = ["aces_interchange", "ACES2065-1", "ACES - ACES2065-1", "aces2065_1"];

    private static readonly Matrix4x4 ToRec709 = Primaries.Aces.To(Primaries.Rec709),
        ToAces = Primaries.Rec709.To(Primaries.Aces);

    private const string SceneLinear = "scene_linear";

    private readonly IColourEngine engine;
    private readonly string hub;
    private readonly bool isAces;

    /// <param name="view">As <see cref="ColourView.ToString"/> writes it; empty for the config's own choice.</param>
    /// <exception cref="CannotUseException">The config cannot be used so; the sentence tells why.</exception>
    public HouseColours(IColourEngine engine, string path, string view, CancellationToken stop)
    {
        this.engine = engine;
        Config = engine.Read(path, stop);
        var name = Path.GetFileName(path);
        View = (view.Length == 0 ? Config.Views.FirstOrDefault() : Config.Views.FirstOrDefault(v => v.ToString() == view))
            ?? throw new CannotUseException(
                view.Length == 0
                    ? $"“{name}” has no views."
                    : $"“{name}” has no view “{view}”; it has {string.Join(", ", Config.Views.Take(8).Select(v => $"“{v}”"))}."
            );
        if (Rec709.Select(Known).OfType<string>().FirstOrDefault() is { } same)
            hub = same;
        else if (Aces.Select(Known).OfType<string>().FirstOrDefault() is { } aces)
            (hub, isAces) = (aces, true);
        else if (Known(SceneLinear) is { } linear)
            (hub, Told) = (linear, $"“{name}” does not say how its colours lie to others'; its “{linear}” is taken for Rec. 709.");
        else
            throw new CannotUseException($"“{name}” has no space of linear light: none of its roles is {SceneLinear}.");
        // What it cannot show is told now, and not with each picture.
        Shown([Vector3.One], stop);
    }

    public ColourConfig Config { get; }

    public ColourView View { get; }

    /// <summary>What had to be guessed, in a sentence.</summary>
    public string? Told { get; }

    /// <summary>The config's name for a space; null for one that it does not know.</summary>
    public string? Known(string space) => Config.Names.GetValueOrDefault(space);

    /// <summary>Makes linear light of numbers in a space of the config.</summary>
    /// <param name="space">By the config's name.</param>
    /// <param name="rgb">Red, green and blue of each pixel; replaced.</param>
    /// <exception cref="CannotUseException">The config has no way from there.</exception>
    public void ToLinear(string space, Span<float> rgb, CancellationToken stop)
    {
        foreach (var piece in Pieces(rgb.Length / 3))
        {
            var part = rgb[(piece.Start.Value * 3)..(piece.End.Value * 3)];
            engine.Convert(Config, space, hub, part, stop);
            if (isAces)
                Each(part, ToRec709);
        }
    }

    /// <summary>Linear light as the house's view shows it.</summary>
    /// <returns>What a display is sent, 0 to 1.</returns>
    public Vector3[] Shown(ReadOnlySpan<Vector3> linear, CancellationToken stop)
    {
        var rgb = new float[linear.Length * 3];
        for (var i = 0; i < linear.Length; i++)
            linear[i].CopyTo(rgb, i * 3);
        if (isAces)
            Each(rgb, ToAces);
        foreach (var piece in Pieces(linear.Length))
            engine.Show(Config, View, hub, rgb.AsSpan()[(piece.Start.Value * 3)..(piece.End.Value * 3)], stop);
        var shown = new Vector3[linear.Length];
        for (var i = 0; i < shown.Length; i++)
            shown[i] = Vector3.Clamp(new(rgb.AsSpan(i * 3, 3)), Vector3.Zero, Vector3.One);
        return shown;
    }

    private IEnumerable<Range> Pieces(int pixels)
    {
        for (var at = 0; at < pixels; at += engine.Most)
            yield return at..Math.Min(pixels, at + engine.Most);
    }

    private static void Each(Span<float> rgb, Matrix4x4 by)
    {
        for (var i = 0; i + 2 < rgb.Length; i += 3)
            Vector3.Transform(new(rgb.Slice(i, 3)), by).CopyTo(rgb[i..]);
    }
}
