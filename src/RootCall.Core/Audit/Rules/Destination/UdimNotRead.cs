namespace RootCall.Core.Audit.Rules;

public sealed class UdimNotRead : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("destination.udim", "Tiled images that the destination does not read", Severity.Blocker)
        {
            Expects = "A destination without UDIM gets no tiled images.",
            Why = "It looks for a file called <UDIM> and finds none.",
            Source = "The destination; glTF 2.0 knows no tiled images.",
            Evidence = "The call stands for all tiles. Silent about single images whose names hold a number.",
            Example = Example.Mtl(
                """
                newmtl bark
                Kd 0.8 0.8 0.8
                map_Kd textures/bark_basecolor.<UDIM>.png
                """
            ) with
            {
                For = "gltf-viewer",
                Beside = ["textures/bark_basecolor.1001.png"],
            },
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (scene.Destination.Udim || map.Name.Tile is null || !map.Name.IsPattern)
            yield break;
        yield return Found(
                map.Input,
                $"{map.FileText} of {map.Material.Name} is tiled; {scene.Destination.Name} reads no tiles.",
                "tiled image goes where none is read",
                "tiled images go where none is read"
            )
            .With(new PictureEvidence(map.Use.Reference))
            .Decide("Bake the tiles into one image.");
    }
}
