using System.Collections.Frozen;
using RootCall.Core.Muster;
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
        [Role.SpecularColour] = [Role.Specular, Role.SpecularColour, Role.Reflection],
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

    /// <summary>
    /// A map of that role may feed the input. Other rules tell of normals that are bumps, gloss that is roughness and the like.
    /// </summary>
    public static bool Fits(Role mapRole, InputView input) =>
        !Fitting.TryGetValue(mapRole, out var inputs) || RoleOf(input) is not { } role || inputs.Contains(role);

    /// <summary>What an input is for: by its model, or by its own name where the model is not known.</summary>
    public static Role? RoleOf(InputView input) => input.Role ?? (input.Spec is null ? OfInputName(input.Name) : null);

    /// <summary><c>..|metalness_map</c>: the last word but “map”, “texture” and the like.</summary>
    private static Role? OfInputName(string name)
    {
        var last = name.Split('|', ':', '/', '.')[^1];
        foreach (var tail in (ReadOnlySpan<string>)["texture", "image", "file", "tex", "map"])
            if (last.EndsWith(tail, StringComparison.OrdinalIgnoreCase) && last.Length > tail.Length)
            {
                last = last[..^tail.Length];
                break;
            }

        return FileName.Of(last.Trim('_', '-', ' ')) is { EndsWithRole: true, SaysOnlyItsRole: true, Role: { } role } ? role : null;
    }

    /// <summary>“a roughness”, “an opacity”.</summary>
    public static string A(Role role) => role.Word() is ['o' or 'e', ..] word ? $"an {word}" : $"a {role.Word()}";

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
