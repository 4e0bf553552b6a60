namespace RootCall.Core.Audit.Rules;

public sealed class UdimTileMissing : MaterialRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("settings.udim-tile-missing", "A UDIM tile that the other maps have", Severity.Warning)
        {
            Expects = "All tiled maps of a material have the same tiles.",
            Why = "On one patch the map is missing: black, or the renderer's fallback.",
            Source = "UDIM: tile 1001 + u + 10 v; MaterialX 1.38, “Filename substitutions”.",
            Evidence = "Tiles that were found for one map of the material and not for another. Silent about images that are not tiled.",
            Example = Example.Mtl(
                """
                newmtl bark
                Kd 0.8 0.8 0.8
                map_Kd textures/bark_basecolor.<UDIM>.png
                map_Pr textures/bark_roughness.<UDIM>.png
                """
            ) with
            {
                Beside = ["textures/bark_basecolor.1001.png", "textures/bark_basecolor.1002.png", "textures/bark_roughness.1001.png"],
            },
        };

    public override IEnumerable<Finding> Inspect(MaterialView material, AuditScene scene)
    {
        var tiled = material.Maps.Where(m => m.Answer is { Tiles.IsDefaultOrEmpty: false }).DistinctBy(m => m.Use.Reference).ToList();
        var tiles = tiled.ToDictionary(
            m => m,
            m => m.Answer!.Tiles.Select(t => scene.FileName(Path.GetFileName(t)).Tile).OfType<string>().ToHashSet(StringComparer.Ordinal)
        );
        var all = tiles.Values.SelectMany(t => t).ToHashSet(StringComparer.Ordinal);
        foreach (var map in tiled)
        {
            var absent = all.Except(tiles[map]).Order(StringComparer.Ordinal).ToList();
            if (absent.Count == 0)
                continue;
            yield return Found(
                    map.Input,
                    $"{map.FileText} of {material.Name} has no tile {string.Join(", ", absent.Take(8))}; other maps of the material have.",
                    "tiled map lacks tiles that others have",
                    "tiled maps lack tiles that others have"
                )
                .With(new NumberEvidence("tiles", tiles[map].Count, "tiles", all.Count, all.Count))
                .Decide("Ask for the missing tiles; they were left behind.");
        }
    }
}
