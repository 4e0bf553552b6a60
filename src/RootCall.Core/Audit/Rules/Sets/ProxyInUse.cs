using RootCall.Core.Muster;

namespace RootCall.Core.Audit.Rules;

public sealed class ProxyInUse : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("sets.proxy-in-use", "A proxy in a scene that is to be rendered", Severity.Warning)
        {
            Expects = "Proxies and previews are for working; what is rendered reads the full map.",
            Why = "One forgotten proxy is a blurred prop in the final frame.",
            Source = "Common practice.",
            Evidence =
                "The name says so. A warning where a file of the same name without that word, and no smaller, lies "
                + "beside it; else a note, for the word may belong to the thing.",
            Fix = "Relinks to the full map when it lies beside it.",
            Example = Example.Mtl(
                """
                newmtl bark
                Kd 0.8 0.8 0.8
                map_Kd textures/bark_basecolor_proxy.png
                """
            ) with
            {
                Beside = ["textures/bark_basecolor.png#large"],
            },
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (!IsProxy(map.Name) || map.Answer?.Resolved is not { } path)
            yield break;
        var full = scene
            .Sets.SameMap(map.Name)
            .Where(f => !IsProxy(f.Name) && f.Beside.Facts?.Width >= (map.Facts?.Width ?? 0))
            .MaxBy(f => f.Beside.Facts!.Width);
        var finding = Found(map.Input, $"{map.FileText} of {map.Material.Name} is a proxy.", "proxy is in use", "proxies are in use")
            .With(new PictureEvidence(map.Use.Reference))
            .At(full?.Beside.Facts!.Width > map.Facts?.Width ? Severity.Warning : Severity.Note);
        yield return full is null
            ? finding.Decide("Find the full map; Muster lists what lies in the roots.")
            : finding.Fix($"Read {full.Name.Text} instead", 0.9, new Edits.RelinkReference(map.Use.Reference, path, full.Beside.Path));
    }

    internal static bool IsProxy(FileName name) => name.Resolution is "proxy" or "preview" or "low" or "lowres" or "lores";
}
