using System.Collections.Immutable;
using RootCall.Core.Edits;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Audit;

/// <summary>The edits that connect a map to the input that it was made for, read as that role is read.</summary>
internal static class ConnectMap
{
    /// <param name="like">A map of the material, whose tiling and UV set it takes; null for none.</param>
    /// <param name="role">What the map is made for.</param>
    /// <returns>Nothing when the material has no free input for it.</returns>
    public static ImmutableArray<Edit> Edits(MaterialView material, ReferenceKey map, Role role, MapView? like, AuditScene scene)
    {
        // glTF packs the two into one texture; a single map of either would be read as both.
        if (material.IsGltf && role is Role.Roughness or Role.Metalness)
            return [];
        Role[] wanted = role == Role.MetallicRoughness ? [Role.Roughness, Role.Metalness] : [MapRoles.Home(role) ?? role];
        var edits = ImmutableArray.CreateBuilder<Edit>();
        foreach (var home in wanted)
        {
            if (material.NameOf(home) is not { } input || material.Input(input)?.IsConnected == true)
                return [];
            edits.Add(new SetImage(material.Name, input, null, Use(map, role, home, like?.Use ?? new(map), scene)));
            // An emission is 0 until somebody says otherwise.
            if (role == Role.Emission && material.IsGltf && material.Input(input)?.Largest is 0)
                edits.Add(new SetValue(material.Name, input, material.Input(input)!.Input.Value, ShaderValue.Of(1, 1, 1)));
        }

        return edits.ToImmutable();
    }

    /// <summary>How a map is read at an input.</summary>
    /// <param name="home">What the input is for.</param>
    public static ImageUse Use(ReferenceKey map, Role role, Role home, ImageUse like, AuditScene scene)
    {
        var colour = MapRoles.IsColour(role);
        return new(map)
        {
            UvSet = like.UvSet,
            Transform = like.Transform,
            WrapU = like.Transform.ScaleU > 1 ? WrapMode.Repeat : like.WrapU,
            WrapV = like.Transform.ScaleV > 1 ? WrapMode.Repeat : like.WrapV,
            Channels =
                colour || role == Role.Normal ? Channels.Rgb
                : role != Role.MetallicRoughness ? Channels.R
                : home == Role.Roughness ? Channels.G
                : Channels.B,
            DeclaredSpace = scene.IsUsd
                ? colour
                    ? "sRGB"
                    : "raw"
                : scene.IsFormat("mtlx")
                    ? colour
                        ? "srgb_texture"
                        : "none"
                    : string.Empty,
        };
    }
}
