using RootCall.Core.Formats.Usd.Composition;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Usd;

/// <summary>Cameras of a stage, with the defaults of UsdGeomCamera's schema.</summary>
internal static class UsdCameras
{
    private const double FocalLength = 50,
        HorizontalAperture = 20.955,
        VerticalAperture = 15.2908;

    /// <summary>Apertures and focal lengths are tenths of the scene's unit.</summary>
    private const double Tenths = 10;

    public static SceneCamera Of(UsdPrim prim, int node)
    {
        double wide = Number(prim, "horizontalAperture") ?? HorizontalAperture,
            tall = Number(prim, "verticalAperture") ?? VerticalAperture;
        return prim.Value("projection")?.AsText == "orthographic"
            ? new(prim.Name, node, tall / 2 / Tenths, wide / tall, IsParallel: true)
            : new(prim.Name, node, tall / 2 / (Number(prim, "focalLength") ?? FocalLength), wide / tall);
    }

    private static double? Number(UsdPrim prim, string name) => prim.Value(name)?.AsNumbers is [> 0 and var n, ..] ? n : null;
}
