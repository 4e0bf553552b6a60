using RootCall.Core.Formats.Xml;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Collada;

/// <summary>Lights of a COLLADA document (1.4.1: ambient, directional, point, spot).</summary>
internal static class ColladaLamps
{
    public static Lamp? Of(ColladaDocument document, XmlTree instance, int node)
    {
        if (document.Find(instance["url"])?.Child("technique_common")?.Children is not [var kind, ..])
            return null;
        double Number(string name, double otherwise) => document.Numbers(kind.Child(name)) is [var n, ..] ? n : otherwise;
        var colour = document.Numbers(kind.Child("color")) is [var r, var g, var b, ..] ? (r, g, b) : (1, 1, 1);
        var point = new Lamp(node, LampShape.Point, colour)
        {
            Falloff = (Number("constant_attenuation", 1), Number("linear_attenuation", 0), Number("quadratic_attenuation", 0)),
        };
        return kind.Name switch
        {
            "ambient" => new(node, LampShape.Around, colour),
            "directional" => new(node, LampShape.Parallel, colour),
            "point" => point,
            "spot" => point with { Cone = Cone(Number("falloff_angle", 180), Number("falloff_exponent", 0)) },
            _ => null,
        };
    }

    /// <param name="angle">From one side of the cone to the other.</param>
    private static LampCone Cone(double angle, double exponent) => new(angle / 2, angle / 2, exponent);
}
