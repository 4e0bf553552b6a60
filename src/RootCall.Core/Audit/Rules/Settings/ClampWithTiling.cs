using RootCall.Core.Scenes;
using static System.FormattableString;

namespace RootCall.Core.Audit.Rules;

public sealed class ClampWithTiling : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.clamp-with-tiling", "Clamped and tiled", Severity.Warning)
        {
            Expects = "An image that is repeated wraps around.",
            Why = "The first tile is right, the rest is smeared from its edge.",
            Source = "glTF 2.0, 3.8.4 “Samplers”; UsdPreviewSurface Proposal 2.6, wrapS and wrapT; Wavefront MTL, “-clamp”.",
            Evidence = "Two repeats and more: once and a half with a border around it is a decal.",
            Fix = "Sets repeat.",
            Example = Example.Mtl(
                """
                newmtl bark
                Kd 0.8 0.8 0.8
                map_Kd -s 4 4 1 -clamp on textures/bark_basecolor.png
                """
            ),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        static bool Stops(WrapMode mode) => mode is WrapMode.Clamp or WrapMode.Black;
        var t = map.Use.Transform;
        // A little more than once is a decal with a border around it; twice and more is tiling.
        bool Tiles(double scale, WrapMode mode) => scale >= 2 && Stops(mode);
        if (!Tiles(t.ScaleU, map.Use.WrapU) && !Tiles(t.ScaleV, map.Use.WrapV))
            yield break;
        yield return Found(
                map.Input,
                Invariant($"{map.FileText} of {map.Material.Name} repeats {t.ScaleU:0.##} x {t.ScaleV:0.##} and is clamped."),
                "map is tiled and clamped",
                "maps are tiled and clamped"
            )
            .With(new ValueEvidence("wrap", "clamp", "repeat"), new PictureEvidence(map.Use.Reference))
            .Fix(
                "Let it repeat",
                0.92,
                map.Read(u =>
                    u with
                    {
                        WrapU = t.ScaleU >= 2 ? WrapMode.Repeat : u.WrapU,
                        WrapV = t.ScaleV >= 2 ? WrapMode.Repeat : u.WrapV,
                    }
                )
            );
    }
}
