using RootCall.Core.Formats.Xml;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Collada;

/// <summary>Cameras of a COLLADA document: two of width, height and aspect give the third (COLLADA 1.4.1, perspective).</summary>
internal static class ColladaCameras
{
    public static SceneCamera? Of(ColladaDocument document, XmlTree instance, string node, int index)
    {
        var optics = document.Find(instance["url"])?.Child("optics")?.Child("technique_common");
        double? Number(XmlTree? of, string name) => document.Numbers(of?.Child(name)) is [> 0 and var n, ..] ? n : null;
        if (optics?.Child("orthographic") is { } parallel)
        {
            double? wide = Number(parallel, "xmag"),
                aspect = Number(parallel, "aspect_ratio") ?? (wide / Number(parallel, "ymag"));
            return (Number(parallel, "ymag") ?? (wide / (aspect ?? 1))) is { } half ? new(node, index, half, aspect, true) : null;
        }

        double? across = Tangent(Number(optics?.Child("perspective"), "xfov")),
            up = Tangent(Number(optics?.Child("perspective"), "yfov")),
            ratio = Number(optics?.Child("perspective"), "aspect_ratio") ?? (across / up);
        return (up ?? (across / (ratio ?? 1))) is { } tall ? new(node, index, tall, ratio) : null;
    }

    /// <param name="angle">In degrees.</param>
    private static double? Tangent(double? angle) => angle is < 180 and var a ? Math.Tan(a * Math.PI / 360) : null;
}
