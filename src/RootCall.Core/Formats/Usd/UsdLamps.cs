using RootCall.Core.Formats.Usd.Composition;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Usd;

/// <summary>
/// Lights of a stage, with the defaults of UsdLux's schemas. Radiance is <c>intensity * 2^exposure * color</c>; where it is normalized,
/// divided by the area that gives it off.
/// </summary>
internal static class UsdLamps
{
    /// <returns>Null for a kind of light that is not drawn by.</returns>
    public static Lamp? Of(UsdPrim prim, string type, int node)
    {
        // Before inputs were called so, the attributes had no prefix.
        double[] Numbers(string name) => (prim.Value($"inputs:{name}") ?? prim.Value(name))?.AsNumbers ?? [];
        double Number(string name, double otherwise) => Numbers(name) is [var n, ..] ? n : otherwise;
        bool Is(string name) => Number(name, 0) != 0;

        var shape = type switch
        {
            "DistantLight" => LampShape.Parallel,
            "RectLight" => LampShape.Rectangle,
            "DiskLight" => LampShape.Disk,
            "SphereLight" => Is("treatAsPoint") || !(Number("radius", 0.5) > 0) ? LampShape.Point : LampShape.Sphere,
            "DomeLight" or "DomeLight_1" => LampShape.Around,
            _ => (LampShape?)null,
        };
        if (shape is not { } known)
            return null;
        double width = known == LampShape.Rectangle ? Number("width", 1) : 2 * Number("radius", 0.5),
            height = Number("height", 1);
        var strength = Number("intensity", known == LampShape.Parallel ? 50_000 : 1) * Math.Pow(2, Number("exposure", 0));
        var isNormalized = Is("normalize");
        var area = known switch
        {
            LampShape.Rectangle => width * height,
            LampShape.Disk => Math.PI * width * width / 4,
            LampShape.Sphere or LampShape.Point => Math.PI * width * width,
            _ => 1,
        };
        strength *= known switch
        {
            // What falls on a surface that faces a disk of this angle.
            LampShape.Parallel => isNormalized ? 1 : Onto(Number("angle", 0.53)),
            LampShape.Around => 1,
            // A sphere of radiance 1 sends out a quarter of its area in each direction.
            LampShape.Point when area > 0 => (isNormalized ? 1 : area) / 4,
            _ when isNormalized && area > 0 => 1 / area,
            _ => 1,
        };
        var (red, green, blue) = Numbers("color") is [var r, var g, var b, ..] ? (r, g, b) : (1, 1, 1);
        return new(node, known, (red * strength, green * strength, blue * strength))
        {
            Width = width,
            Height = height,
            Temperature = Is("enableColorTemperature") ? Number("colorTemperature", 6500) : null,
            Cone = Cone(Number("shaping:cone:angle", 180), Number("shaping:cone:softness", 0), Number("shaping:focus", 0)),
        };
    }

    private static LampCone? Cone(double angle, double softness, double focus) =>
        angle >= 180 && focus == 0 ? null : new(angle * (1 - Math.Clamp(softness, 0, 1)), angle, focus);

    /// <param name="angle">Degrees from one side of the disk to the other.</param>
    private static double Onto(double angle) => angle > 0 ? Math.PI * Math.Pow(Math.Sin(double.DegreesToRadians(angle / 2)), 2) : 1;
}
