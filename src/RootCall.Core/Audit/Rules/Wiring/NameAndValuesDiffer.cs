using RootCall.Core.Audit.Roles;

namespace RootCall.Core.Audit.Rules;

public sealed class NameAndValuesDiffer : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.name-and-values-differ", "A map whose values are not what its name says", Severity.Warning)
        {
            Expects = "A file that is named a normal map holds unit vectors, and no other file does.",
            Why = "It was saved under another map's name, and is wired by that name.",
            Source = "glTF 2.0, 3.9.3 “normalTexture”: texels are unit vectors in tangent space.",
            Evidence =
                "The wire and the name agree and the values decide against both. Block-compressed images, which keep two "
                + "parts of a vector, and images of one value are left alone.",
            Example = Example.Gltf("""{ "name": "tin", "normalTexture": { "index": "textures/tin_normal.png#base colour" } }"""),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (map.Pixels is not { Channels.Length: >= 3, IsGrey: false } pixels || map.Role is not { } role)
            yield break;
        var wired = map.Reading(scene).Wired;
        // Block compression keeps two parts of a vector: no pixel has unit length before the third is made.
        if (!wired.Has(EvidenceKind.Name) || !wired.IsAgainst(EvidenceKind.Pixels) || IsCompressed(map))
            yield break;
        if (map.Input.Role == Shading.Role.Bump && pixels.LooksLikeNormals)
            yield break; // wiring.normal-through-bump
        yield return Contents.Of(role) == Content.Vector
            ? Tell(map, "is named a normal map; few of its pixels are unit vectors", "named normal holds none", pixels.UnitLength)
        : pixels.LooksLikeNormals
            ? Tell(
                map,
                $"is named {MapRoles.A(role)} map; its pixels are unit vectors, as a normal map's are",
                "named otherwise holds normals",
                pixels.UnitLength
            )
        : Tell(map, $"is named {MapRoles.A(role)} map; it is a picture in colours", "named a number is a picture", pixels.UnitLength);
    }

    private static bool IsCompressed(MapView map) => map.Facts?.Format is Imaging.ImageFormat.Dds or Imaging.ImageFormat.Ktx2;

    private Finding Tell(MapView map, string what, string about, double share) =>
        Found(map.Input, $"{map.FileText} {what}.", "map does not hold what its name says", "maps do not hold what their names say", about)
            .With(
                new NumberEvidence("pixels that are unit vectors", Math.Round(share * 100, 1), "%"),
                new PictureEvidence(map.Use.Reference)
            )
            .Decide("Find the file that was meant; this one was saved under the wrong name.");
}
