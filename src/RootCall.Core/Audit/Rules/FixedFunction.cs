using RootCall.Core.Shading;

namespace RootCall.Core.Audit.Rules;

/// <summary>Models of before physically based shading: Wavefront's, COLLADA's and FBX's.</summary>
internal static class FixedFunction
{
    public static bool Is(MaterialView material) =>
        material.Type.StartsWith("mtl-", StringComparison.Ordinal) || material.Model?.Id is "collada-common" or "fbx-phong";

    /// <summary>Something of it is transparent: opacity below 1, a map of it, or an illumination model that refracts.</summary>
    public static bool LetsLightThrough(MaterialView material) =>
        material.Maps.Any(m => m.Input.Role is Role.Opacity or Role.Transparency || m.Input.Name is "transparent" or "TransparentColor")
        || material.Role(Role.Opacity) is { Number: < 1 }
        || material.Input("Tr") is { Number: > 0 }
        || (material.Input("TransparencyFactor")?.Number ?? 0) * (material.Input("TransparentColor")?.Largest ?? 1) > 0
        || material.Input("illum") is { Number: 4 or 6 or 7 or 9 };
}
