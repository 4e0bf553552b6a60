using System.Collections.Frozen;
using System.Text;

namespace RootCall.Core.Muster;

/// <summary>
/// A texture's file name taken apart, so that the same map is recognised under another resolution, version or spelling
/// of its role. Tokens and their spellings are common practice.
/// </summary>
/// <param name="Folded">The whole name, NFC, lower case.</param>
/// <param name="Stem">Without its ending, folded.</param>
/// <param name="Core">The stem without resolution and version tokens, separators as <c>_</c>.</param>
/// <param name="Role">What the role token says, in one spelling; null when there is none.</param>
/// <param name="RoleToken">The role token as written, lower case; null when there is none.</param>
/// <param name="Resolution">The resolution token as written; null when there is none.</param>
public sealed record FileName(string Folded, string Stem, string Extension, string Core, string? Role, string? RoleToken, string? Resolution)
{
    private static readonly FrozenDictionary<string, string> Roles = new (string Role, string Spellings)[]
    {
        ("base colour", "basecolor basecolour albedo diffuse diff col color colour bc basemap"),
        ("normal", "normal normals nrm norm nor nml normalgl normaldx"),
        ("roughness", "roughness rough rgh"),
        ("metalness", "metalness metallic metal met mtl"),
        ("occlusion", "occlusion ao ambientocclusion occ"),
        ("metallic roughness", "metallicroughness metalrough mr"),
        ("packed", "orm arm rma"),
        ("displacement", "displacement disp height hgt"),
        ("bump", "bump bmp"),
        ("opacity", "opacity alpha cutout mask"),
        ("emission", "emission emissive emit glow"),
        ("specular", "specular spec"),
        ("glossiness", "glossiness gloss"),
        ("environment", "environment env hdri sky"),
    }.SelectMany(r => r.Spellings.Split(' ').Select(s => KeyValuePair.Create(s, r.Role))).ToFrozenDictionary();

    private static readonly FrozenSet<string> Sizes = FrozenSet.Create(
        "low", "lowres", "high", "highres", "hires", "proxy", "preview", "half", "full", "quarter",
        "256", "512", "1024", "2048", "4096", "8192", "16384");

    public static FileName Of(string name)
    {
        var folded = Fold(name);
        var dot = folded.LastIndexOf('.');
        var stem = dot > 0 ? folded[..dot] : folded;
        var tokens = stem.Split(['_', '-', ' ', '.'], StringSplitOptions.RemoveEmptyEntries);
        string? resolution = null;
        string? role = null;
        string? roleToken = null;
        var core = new List<string>(tokens.Length);
        foreach (var (token, index) in tokens.Select((t, i) => (t, i)))
        {
            // The first token names the thing: "half_timber.png" is not half of "timber".
            if (index > 0 && IsResolution(token))
            {
                resolution = token;
                continue;
            }

            if (index > 0 && IsVersion(token)) continue;
            if (index > 0 && Roles.TryGetValue(token, out var spelled))
            {
                (role, roleToken) = (spelled, token);
                core.Add(spelled);
                continue;
            }

            core.Add(token);
        }

        return new(folded, stem, dot > 0 ? folded[dot..] : string.Empty, string.Join('_', core), role, roleToken, resolution);
    }

    public static string Fold(string name) => Composed(name).ToLowerInvariant();

    private static string Composed(string name)
    {
        try
        {
            return name.IsNormalized(NormalizationForm.FormC) ? name : name.Normalize(NormalizationForm.FormC);
        }
        catch (ArgumentException)
        {
            return name; // Half a surrogate pair: compare it as it stands.
        }
    }

    private static bool IsResolution(string token) =>
        Sizes.Contains(token)
        || (token.Length is 2 or 3 && token[^1] == 'k' && token[..^1].All(char.IsAsciiDigit))
        || (token.Split('x') is [var w, var h] && w.Length is >= 3 and <= 5 && w.All(char.IsAsciiDigit) && h.Length > 0 && h.All(char.IsAsciiDigit));

    private static bool IsVersion(string token) => token.Length is >= 2 and <= 6 && token[0] == 'v' && token.Skip(1).All(char.IsAsciiDigit);
}
