using RootCall.Core.Muster;
using RootCall.Core.Shading;
using RootCall.Demo.Painting;

namespace RootCall.Demo.Examples;

/// <summary>A small picture that is what its name says, or what is asked of it.</summary>
internal static class ExamplePicture
{
    /// <param name="kind">
    /// A role, or <c>dark</c>, <c>leaf</c> (painted in the middle of one plain colour), <c>leaf alone</c> (white there),
    /// <c>leaf around</c> (white around it), <c>cutout</c>, <c>large</c>, <c>tiny</c>, <c>odd</c>, <c>4096</c>, <c>other</c>; empty
    /// for what the name says.
    /// </param>
    public static byte[] Make(string name, string kind)
    {
        var role =
            kind.Length > 0 && kind is not ("cutout" or "large" or "tiny" or "odd" or "4096" or "other")
                ? kind
                : FileName.Of(name).Role?.Word() ?? "grey";
        var size = kind switch
        {
            "large" => 256,
            "tiny" => 16,
            _ => 64,
        };
        static bool InLeaf(float u, float v) => u is > 0.25f and < 0.75f && v is > 0.25f and < 0.75f;
        static float Wave(float u, float v) => 0.5f + (0.3f * MathF.Sin(u * 19) * MathF.Cos(v * 23));
        Picture.Paint paint = role switch
        {
            "base colour" or "emission" or "specular" => kind == "other"
                ? (u, v) => new(0.2f, Wave(u, v), 0.6f)
                : (u, v) =>
                    new(
                        Wave(u, v),
                        0.4f,
                        0.25f,
                        kind == "cutout" && (((u - 0.5f) * (u - 0.5f)) + ((v - 0.5f) * (v - 0.5f))) > 0.16f ? 0 : 1
                    ),
            "metalness" => (u, v) => Wave(u, v) > 0.5f ? new(1, 1, 1) : new(0, 0, 0),
            "packed" or "metallic roughness" => (u, v) => new(Wave(v, u), Wave(u, v), u > 0.5f ? 1 : 0),
            "dark" => (u, v) => new(0.4f * Wave(u, v), 0.2f * Wave(u, v), 0.05f),
            "leaf" => (u, v) => InLeaf(u, v) ? new(0.2f, Wave(u, v), 0.1f) : new(0.5f, 0.5f, 0.5f),
            "leaf alone" => (u, v) => InLeaf(u, v) ? new(1, 1, 1) : new(0, 0, 0),
            "leaf around" => (u, v) => InLeaf(u, v) ? new(0, 0, 0) : new(1, 1, 1),
            "opacity" => (u, v) => u > 0.4f ? new(1, 1, 1) : new(0, 0, 0),
            _ => (u, v) => new(Wave(u, v), Wave(u, v), Wave(u, v)),
        };
        return Path.GetExtension(name) switch
        {
            ".hdr" => Picture.Hdr(size / 2, paint),
            ".jpg" => Picture.Jpeg(size, paint),
            ".tga" => Picture.Tga(size, 3, paint),
            _ when kind is "odd" => Picture.Png(48, 24, 3, paint),
            _ when kind is "4096" => Picture.Png(4096, 4, 3, paint),
            _ when role == "normal" => Picture.NormalPng(size, 0.08f * size, (u, v) => Wave(u, v) * 0.2f),
            _ => Picture.Png(
                size,
                kind == "cutout" ? 4
                    : role is "base colour" or "emission" or "specular" or "packed" or "metallic roughness" or "leaf" or "dark" ? 3
                    : 1,
                paint
            ),
        };
    }
}
