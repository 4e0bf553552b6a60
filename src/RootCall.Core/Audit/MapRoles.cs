using System.Collections.Frozen;

namespace RootCall.Core.Audit;

/// <summary>Which inputs a map may feed, by what its name says it is.</summary>
internal static class MapRoles
{
    private static readonly FrozenDictionary<string, string[]> Fitting = new Dictionary<string, string[]>
    {
        ["base colour"] = ["base colour", "emission", "ambient", "specular colour", "reflection", "sheen colour", "opacity"],
        ["normal"] = ["normal", "coat normal", "bump"],
        ["roughness"] = ["roughness", "coat roughness", "sheen roughness", "glossiness"],
        ["glossiness"] = ["glossiness", "roughness", "coat roughness"],
        ["metalness"] = ["metalness"],
        ["occlusion"] = ["occlusion", "ambient"],
        ["metallic roughness"] = ["metalness", "roughness", "occlusion"],
        ["packed"] = ["metalness", "roughness", "occlusion", "displacement", "specular", "opacity"],
        ["displacement"] = ["displacement", "bump", "normal"],
        ["bump"] = ["bump", "displacement", "normal"],
        ["opacity"] = ["opacity", "transmission", "base colour"],
        ["emission"] = ["emission", "emission strength"],
        ["specular"] = ["specular", "specular colour", "reflection"],
        ["environment"] = ["environment", "reflection", "emission"],
    }.ToFrozenDictionary(StringComparer.Ordinal);

    /// <summary>The input role that a map is made for, where there is one.</summary>
    public static string? Home(string mapRole) =>
        mapRole switch
        {
            "packed" or "metallic roughness" => null,
            "bump" => "bump",
            "specular" => "specular colour",
            _ => mapRole,
        };

    /// <summary>Other rules tell of normals that are bumps, gloss that is roughness and the like; here is only what never fits.</summary>
    public static bool Fits(MapView map)
    {
        if (map.Role is not { } role || !Fitting.TryGetValue(role, out var roles))
            return true;
        // One texture for two inputs: what stands in it for the other one cannot be moved away.
        if (map.Material.IsGltf && map.Input.Role is "metalness" or "roughness" && role is "metalness" or "roughness" or "occlusion")
            return true;
        return map.Input.Role is { } input
            ? roles.Contains(input)
            : Unnamed(map.Input) || role is not ("normal" or "roughness" or "metalness" or "displacement");
    }

    /// <summary>Inputs of no known role that a mask or any scalar may well drive.</summary>
    private static bool Unnamed(InputView input) =>
        input.Name.Contains("rotation", StringComparison.OrdinalIgnoreCase)
        || input.Name.Contains("thickness", StringComparison.OrdinalIgnoreCase);

    /// <summary>How sure it is that a map is what its name says: its channels and its values say so too, or speak against it.</summary>
    public static double Certainty(MapView map)
    {
        if (map.Pixels is not { } pixels)
            return 0.75;
        var grey = pixels.Grey > 0.98;
        return map.Role switch
        {
            "normal" => pixels.LooksLikeNormals ? 0.97 : 0.4,
            "roughness" or "metalness" or "displacement" or "bump" or "opacity" or "glossiness" => pixels.LooksLikeNormals ? 0.3
            : grey ? 0.95
            : 0.7,
            "base colour" => pixels.LooksLikeNormals ? 0.4
            : grey ? 0.7
            : 0.92,
            _ => 0.8,
        };
    }

    /// <summary>The channel that a packed map holds a role in, by the order of the letters in its name: <c>orm</c>, <c>rma</c>.</summary>
    public static string? Packed(MapView map, string inputRole)
    {
        var letter = inputRole switch
        {
            "occlusion" => 'o',
            "roughness" => 'r',
            "metalness" => 'm',
            _ => ' ',
        };
        return map.Name.RoleToken switch
        {
            { Length: 3 } order
                when map.Role == "packed" && order.Replace('a', 'o').IndexOf(letter, StringComparison.Ordinal) is >= 0 and var at => "rgb"[
                at
            ]
                .ToString(),
            _ when map.Role == "metallic roughness" => inputRole switch
            {
                "occlusion" => "r",
                "roughness" => "g",
                "metalness" => "b",
                _ => null,
            },
            _ => null,
        };
    }

    /// <summary>Images that hold colours as a person sees them.</summary>
    public static bool IsColour(string mapRole) => mapRole is "base colour" or "emission" or "specular";

    /// <summary>Images whose numbers are numbers.</summary>
    public static bool IsData(string mapRole) =>
        mapRole
            is "normal"
                or "roughness"
                or "metalness"
                or "occlusion"
                or "metallic roughness"
                or "packed"
                or "displacement"
                or "bump"
                or "opacity"
                or "glossiness";
}
