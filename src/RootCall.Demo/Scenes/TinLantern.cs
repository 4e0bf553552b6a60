using RootCall.Demo.Meshes;

namespace RootCall.Demo.Scenes;

/// <summary>A tin lantern as a crate of USD: its paths are packed, so they are said anew by a layer that stands on it.</summary>
internal static class TinLantern
{
    private const string Name = "tin_lantern";

    public static DemoScene Scene =>
        new(Name, $"{Name}.usdc", Calls, Own)
        {
            Losses = [new("material", "lantern_tin", "value", "the value changed") { Input = "roughness" }],
        };

    private static IReadOnlyList<Call> Calls =>
        [
            new("verdigris_basecolor.png", "textures/verdigris_basecolor.png", "S:/lib/metals/verdigris_basecolor.png")
            {
                Copies = [new("library/metals/verdigris_basecolor.png")],
                State = "elsewhere",
                Flags = ["absolute", "foreign-path"],
                Fault = "moved, called from another system's drive",
            },
        ];

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        var written = path("verdigris_basecolor.png")!;
        var mesh = OrchardMeshes.LampGlass();
        using var crate = new CrateAuthor();
        crate.Root(
            ("upAxis", crate.Token("Y")),
            ("metersPerUnit", CrateAuthor.Double(1)),
            ("defaultPrim", crate.Token("Lantern")),
            ("primChildren", crate.Tokens("Lantern"))
        );
        crate.Prim("/Lantern", "Xform", ("primChildren", crate.Tokens("body", "lantern_tin")));
        crate.Prim(
            "/Lantern/body",
            "Mesh",
            ("properties", crate.Tokens("points", "faceVertexCounts", "faceVertexIndices", "primvars:st", "material:binding"))
        );
        crate.Attribute(
            "/Lantern/body.points",
            "point3f[]",
            ("default", crate.Floats(CrateAuthor.Vec3f, [.. mesh.Positions.SelectMany(p => new[] { p.X, p.Y, p.Z })], 3))
        );
        crate.Attribute(
            "/Lantern/body.faceVertexCounts",
            "int[]",
            ("default", crate.PackedInts([.. Enumerable.Repeat(3, mesh.Indices.Count / 3)]))
        );
        crate.Attribute("/Lantern/body.faceVertexIndices", "int[]", ("default", crate.PackedInts([.. mesh.Indices])));
        crate.Attribute(
            "/Lantern/body.primvars:st",
            "texCoord2f[]",
            ("default", crate.Floats(CrateAuthor.Vec2f, [.. mesh.Uvs.SelectMany(u => new[] { u.X, 1 - u.Y })], 2)),
            ("interpolation", crate.Token("vertex"))
        );
        crate.Relationship("/Lantern/body.material:binding", "/Lantern/lantern_tin");
        crate.Prim(
            "/Lantern/lantern_tin",
            "Material",
            ("primChildren", crate.Tokens("surface", "color")),
            ("properties", crate.Tokens("outputs:surface"))
        );
        crate.Connect("/Lantern/lantern_tin.outputs:surface", "token", "/Lantern/lantern_tin/surface.outputs:surface");
        crate.Prim(
            "/Lantern/lantern_tin/surface",
            "Shader",
            ("properties", crate.Tokens("info:id", "inputs:diffuseColor", "inputs:roughness", "outputs:surface"))
        );
        crate.Attribute(
            "/Lantern/lantern_tin/surface.info:id",
            "token",
            ("variability", CrateAuthor.Uniform),
            ("default", crate.Token("UsdPreviewSurface"))
        );
        crate.Connect("/Lantern/lantern_tin/surface.inputs:diffuseColor", "color3f", "/Lantern/lantern_tin/color.outputs:rgb");
        crate.Attribute("/Lantern/lantern_tin/surface.inputs:roughness", "float", ("default", CrateAuthor.Float(arrived ? 1 : 0.25f)));
        crate.Attribute("/Lantern/lantern_tin/surface.outputs:surface", "token");
        crate.Prim(
            "/Lantern/lantern_tin/color",
            "Shader",
            ("properties", crate.Tokens("info:id", "inputs:file", "inputs:sourceColorSpace", "outputs:rgb"))
        );
        crate.Attribute(
            "/Lantern/lantern_tin/color.info:id",
            "token",
            ("variability", CrateAuthor.Uniform),
            ("default", crate.Token("UsdUVTexture"))
        );
        crate.Attribute("/Lantern/lantern_tin/color.inputs:file", "asset", ("default", crate.Asset(arrived ? written : "./" + written)));
        crate.Attribute("/Lantern/lantern_tin/color.inputs:sourceColorSpace", "token", ("default", crate.Token("sRGB")));
        crate.Attribute("/Lantern/lantern_tin/color.outputs:rgb", "float3");
        return [($"{Name}.usdc", crate.Build())];
    }
}
