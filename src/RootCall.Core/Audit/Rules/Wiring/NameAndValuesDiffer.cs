using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

public sealed class NameAndValuesDiffer : MapRule
{
    public override RuleDescriptor Descriptor { get; } =
        new("wiring.name-and-values-differ", "A map whose values are not what its name says", Severity.Warning)
        {
            Expects = "A file that is named a normal map holds unit vectors, and no other file does.",
            Why = "It was saved under another map's name, and is wired by that name.",
            Source = "glTF 2.0, 3.9.3 “normalTexture”: texels are unit vectors in tangent space.",
            Example = Example.Gltf("""{ "name": "tin", "normalTexture": { "index": "textures/tin_normal.png#base colour" } }"""),
        };

    public override IEnumerable<Finding> Inspect(MapView map, AuditScene scene)
    {
        if (map.Pixels is not { Channels.Length: >= 3 } pixels || map.Role is not { } role)
            yield break;
        // A flat colour that happens to be a vector says nothing.
        var flat = pixels.Channels.Take(3).All(c => c.IsConstant);
        if (role == Role.Normal && pixels.UnitLength < 0.3 && !(map.Facts?.Format is Imaging.ImageFormat.Dds or Imaging.ImageFormat.Ktx2))
            yield return Tell(
                map,
                "is named a normal map; few of its pixels are unit vectors",
                "named normal holds none",
                pixels.UnitLength
            );
        else if (role is Role.BaseColour or Role.Roughness or Role.Metalness or Role.Displacement && pixels.LooksLikeNormals && !flat)
            yield return Tell(
                map,
                $"is named a {role.Word()} map; its pixels are unit vectors, as a normal map's are",
                "named otherwise holds normals",
                pixels.UnitLength
            );
    }

    private Finding Tell(MapView map, string what, string about, double share) =>
        Found(map.Input, $"{map.FileText} {what}.", "map does not hold what its name says", "maps do not hold what their names say", about)
            .With(
                new NumberEvidence("pixels that are unit vectors", Math.Round(share * 100, 1), "%"),
                new PictureEvidence(map.Use.Reference)
            )
            .Decide("Find the file that was meant; this one was saved under the wrong name.");
}
