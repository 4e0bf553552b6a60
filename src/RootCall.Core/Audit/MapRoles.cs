using System.Collections.Frozen;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>Which inputs a map may feed, by what its name says it is.</summary>
internal static class MapRoles
{
    private static readonly FrozenDictionary<Role, Role[]> Fitting = new Dictionary<Role, Role[]>
    {
        [Role.BaseColour] =
        [
            Role.BaseColour,
            Role.Emission,
            Role.Ambient,
            Role.SpecularColour,
            Role.Reflection,
            Role.SheenColour,
            Role.Opacity,
            Role.Transparency,
        ],
        [Role.Normal] = [Role.Normal, Role.CoatNormal, Role.Bump],
        [Role.Roughness] = [Role.Roughness, Role.CoatRoughness, Role.SheenRoughness, Role.Glossiness, Role.SpecularExponent],
        [Role.Glossiness] = [Role.Glossiness, Role.SpecularExponent, Role.Roughness, Role.CoatRoughness],
        [Role.Metalness] = [Role.Metalness],
        [Role.Occlusion] = [Role.Occlusion, Role.Ambient],
        [Role.MetallicRoughness] = [Role.Metalness, Role.Roughness, Role.Occlusion],
        [Role.Packed] = [Role.Metalness, Role.Roughness, Role.Occlusion, Role.Displacement, Role.Specular, Role.Opacity],
        [Role.Displacement] = [Role.Displacement, Role.Bump, Role.Normal],
        [Role.Bump] = [Role.Bump, Role.Displacement, Role.Normal],
        [Role.Opacity] = [Role.Opacity, Role.Transparency, Role.Transmission, Role.BaseColour],
        [Role.Emission] = [Role.Emission, Role.EmissionStrength],
        [Role.Specular] = [Role.Specular, Role.SpecularColour, Role.Reflection],
        [Role.Environment] = [Role.Environment, Role.Reflection, Role.Emission],
    }.ToFrozenDictionary();

    /// <summary>The input role that a map is made for, where there is one.</summary>
    public static Role? Home(Role mapRole) =>
        mapRole switch
        {
            Role.Packed or Role.MetallicRoughness => null,
            Role.Bump => Role.Bump,
            Role.Specular => Role.SpecularColour,
            _ => mapRole,
        };

    /// <summary>Other rules tell of normals that are bumps, gloss that is roughness and the like; here is only what never fits.</summary>
    public static bool Fits(MapView map)
    {
        if (map.Role is not { } role || !Fitting.TryGetValue(role, out var roles))
            return true;
        // One texture for two inputs: what stands in it for the other one cannot be moved away.
        if (
            map.Material.IsGltf
            && map.Input.Role is Role.Metalness or Role.Roughness
            && role is Role.Metalness or Role.Roughness or Role.Occlusion
        )
            return true;
        return map.Input.Role is { } input
            ? roles.Contains(input)
            : Unnamed(map.Input) || role is not (Role.Normal or Role.Roughness or Role.Metalness or Role.Displacement);
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
            Role.Normal => pixels.LooksLikeNormals ? 0.97 : 0.4,
            Role.Roughness or Role.Metalness or Role.Displacement or Role.Bump or Role.Opacity or Role.Glossiness => pixels.LooksLikeNormals
                ? 0.3
            : grey ? 0.95
            : 0.7,
            Role.BaseColour => pixels.LooksLikeNormals ? 0.4
            : grey ? 0.7
            : 0.92,
            _ => 0.8,
        };
    }

    /// <summary>The channel that a packed map holds a role in, by the order of the letters in its name: <c>orm</c>, <c>rma</c>.</summary>
    public static Channels? Packed(MapView map, Role inputRole)
    {
        var letter = inputRole switch
        {
            Role.Occlusion => 'o',
            Role.Roughness => 'r',
            Role.Metalness => 'm',
            _ => ' ',
        };
        return map.Name.RoleToken switch
        {
            { Length: 3 } order
                when map.Role == Role.Packed && order.Replace('a', 'o').IndexOf(letter, StringComparison.Ordinal) is >= 0 and var at =>
                ChannelWords.At(at),
            _ when map.Role == Role.MetallicRoughness => inputRole switch
            {
                Role.Occlusion => Channels.R,
                Role.Roughness => Channels.G,
                Role.Metalness => Channels.B,
                _ => null,
            },
            _ => null,
        };
    }

    /// <summary>Images that hold colours as a person sees them.</summary>
    public static bool IsColour(Role mapRole) => mapRole is Role.BaseColour or Role.Emission or Role.Specular;

    /// <summary>Images whose numbers are numbers.</summary>
    public static bool IsData(Role mapRole) =>
        mapRole
            is Role.Normal
                or Role.Roughness
                or Role.Metalness
                or Role.Occlusion
                or Role.MetallicRoughness
                or Role.Packed
                or Role.Displacement
                or Role.Bump
                or Role.Opacity
                or Role.Glossiness;
}
