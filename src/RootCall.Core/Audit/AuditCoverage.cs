using System.Globalization;
using System.Text.Json.Serialization;

namespace RootCall.Core.Audit;

/// <summary>How much of a scene an audit could look at: where maps did not come, nothing was found and nothing is proven.</summary>
/// <param name="Rules">Rules that ran.</param>
/// <param name="Materials">Materials that something can show.</param>
/// <param name="MaterialsLookedAt">Those with every image looked at.</param>
/// <param name="Images">Images that the scene calls for.</param>
/// <param name="ImagesLookedAt">Those that answer, and whose values are known.</param>
/// <param name="Open">Inputs whose map could not be looked at: checks that were left open.</param>
public sealed record AuditCoverage(int Rules, int Materials, int MaterialsLookedAt, int Images, int ImagesLookedAt, int Open)
{
    [JsonIgnore]
    public bool IsFull => ImagesLookedAt == Images && MaterialsLookedAt == Materials;

    /// <summary>One sentence with a full stop.</summary>
    [JsonIgnore]
    public string Sentence
    {
        get
        {
            var (looked, materials) = ($"{N(Rules)} {Word(Rules, "rule")} looked at", $"{N(Materials)} {Word(Materials, "material")}");
            if (IsFull)
                return $"{looked} {(Materials > 1 ? "all " : string.Empty)}{materials}.";
            var images = Images - ImagesLookedAt;
            return $"{looked} {N(MaterialsLookedAt)} of {materials}; {N(images)} {Word(images, "image")} could not be looked at, "
                + $"so {N(Open)} {Word(Open, "check")} {(Open == 1 ? "was" : "were")} left open.";
        }
    }

    public static AuditCoverage Of(AuditScene scene, int rules)
    {
        var images = scene.Images.ToList();
        static bool Seen(MapView map) => map.Pixels is not null;
        return new(
            rules,
            scene.Materials.Length,
            scene.Materials.Count(m => m.Maps.All(Seen)),
            images.Count,
            images.Count(i => scene.Pixels(i) is not null),
            scene.Materials.Sum(m => m.Maps.Count(map => !Seen(map)))
        );
    }

    private static string N(int count) => count.ToString("N0", CultureInfo.InvariantCulture);

    private static string Word(int count, string one) => count == 1 ? one : one + "s";
}
