using System.Text.Json;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Core.Shading;
using RootCall.Demo.Meshes;
using RootCall.Testing;

namespace RootCall.Core.Tests.Formats.Usd;

public sealed class CrateTests : IDisposable
{
    private readonly Place place = new();

    [Fact]
    public void A_crate_reads_as_the_scene_it_holds()
    {
        var scene = Look.Read(place.Put("tin.usdc", Crate("./tin.png")));
        Assert.Empty(scene.Notes);
        Assert.Equal(("usdc", 0.5, "Z"), (scene.Format.Id, scene.MetresPerUnit, scene.UpAxis));
        var mesh = Assert.Single(scene.Meshes);
        Assert.Equal(("leaf", 20L, 18L, "tin"), (mesh.Name, mesh.Vertices, mesh.Triangles, mesh.Parts[0].Material));
        Assert.Equal(new Box(new(0, 0, 0), new(19, 2, 0)), mesh.Bounds);
        Assert.Equal(["st"], mesh.UvSets.ToArray());
        var surface = Assert.Single(scene.Materials).Graph.SurfaceNode!;
        Assert.Equal("UsdPreviewSurface", surface.Type);
        Assert.Equal(ShaderValue.Of(0.25), surface.Input("roughness")!.Value);
        Assert.Equal(ShaderValue.Of(1, 0, 2), surface.Input("emissiveColor")!.Value);
        var image = Assert.Single(scene.Materials[0].Graph.ImagesOf(surface.Input("diffuseColor")!));
        Assert.Equal(("./tin.png", "data"), (image.Reference.Written, image.EffectiveSpace.Word()));
        Assert.Equal(new ReferenceUse("tin", "diffuseColor"), Assert.Single(Assert.Single(scene.References).UsedBy));
    }

    [Fact]
    public void Tinyusdz_reads_the_same_crate_and_counts_the_same()
    {
        place.PutPng("tin.png");
        var said = UsdMeshes.Meshes(place.Put("tin.usdc", Crate("./tin.png")));
        var mesh = Assert.Single(said);
        Assert.Equal(("leaf", 20, 18), (mesh.Name, mesh.Points, mesh.Faces));
    }

    [Fact]
    public void A_path_in_a_crate_is_said_anew_by_a_layer_that_stands_on_it()
    {
        var crate = Crate("D:/jobs/2231/tin.png");
        var scene = place.Put("s/tin.usdc", crate);
        place.PutPng("library/tin.png");
        var context = Look.Context(scene, place.At("library"));
        var report = Look.TakeClear(scene, place.At("library"));
        Directory.CreateDirectory(place.At("work"));
        var writable = WritableScene.Make(report, context, Bounds.Default, place.At("work"));
        var written = RelinkedCopy.Write(writable, place.At("out"));
        Assert.Equal(["tin.usdc", "tin_look.usda"], place.Files("out"));
        Assert.Equal(crate, File.ReadAllBytes(place.At("out/tin.usdc")));
        Assert.Empty(written.Left);
        var again = Look.Muster(place.At("out/tin_look.usda"), place.At("library"));
        Assert.Equal(ReferenceState.Present, again.Named("tin.png").State);
        Assert.Equal(18, again.Scene.Counts.Triangles);

        var package = PackageBuilder.Build(PackagePlan.Make(writable, new()), place.At("tin.zip"), DateTimeOffset.UnixEpoch);
        Assert.True(PackageProof.Prove(package.Written, Bounds.Default).Holds);
    }

    [Fact]
    public void A_look_in_a_crate_is_edited_from_above_and_the_crate_stays()
    {
        var scene = place.Put("tin.usdc", Crate("./tin.png"));
        place.PutPng("tin.png");
        var context = Look.Context(scene);
        var entry = new LedgerEntry(
            Guid.NewGuid(),
            "x",
            [new SetValue("tin", "roughness", ShaderValue.Of(0.25), ShaderValue.Of(0.7))],
            EntryState.Applied,
            "by hand",
            default
        );
        Directory.CreateDirectory(place.At("work"));
        var made = EditedFiles.Make(
            scene,
            [entry, entry with { Edits = [new SetValue("tin", "metallic", null, ShaderValue.Of(1))] }],
            place.At("work"),
            new(context.Scope, Bounds.Default)
        );
        Assert.Empty(made.Refused);
        var current = CurrentScene.Muster(scene, context with { Edited = made.Copies }, Bounds.Default).Scene;
        var surface = current.Materials[0].Graph.SurfaceNode!;
        Assert.Equal((ShaderValue.Of(0.7), ShaderValue.Of(1)), (surface.Input("roughness")!.Value, surface.Input("metallic")!.Value));
        Assert.Equal(18, current.Counts.Triangles);
        Assert.Equal(0.5, current.MetresPerUnit);
    }

    [Theory]
    [InlineData(8, "older")]
    [InlineData(16, "breaks")]
    public void A_crate_that_is_too_old_or_broken_is_told_in_one_sentence(int at, string what)
    {
        var crate = Crate("./tin.png");
        if (what == "older")
            crate[at + 1] = 2;
        else
            crate = crate[..(crate.Length / 2)];
        var path = place.Put("tin.usdc", crate);
        var refused = Assert.Throws<CannotUseException>(() => Look.Read(path));
        Assert.DoesNotContain('\n', refused.Message);
        Assert.Contains("crate", refused.Message, StringComparison.OrdinalIgnoreCase);
    }

    public void Dispose() => place.Dispose();

    /// <summary>A strip of triangles with a material that reads one image.</summary>
    internal static byte[] Crate(string image)
    {
        using var crate = new CrateAuthor();
        crate.Root(
            ("upAxis", crate.Token("Z")),
            ("metersPerUnit", CrateAuthor.Double(0.5)),
            ("defaultPrim", crate.Token("leaf")),
            ("primChildren", crate.Tokens("leaf", "looks"))
        );
        crate.Prim(
            "/leaf",
            "Mesh",
            ("properties", crate.Tokens("points", "faceVertexCounts", "faceVertexIndices", "primvars:st", "material:binding"))
        );
        crate.Attribute(
            "/leaf.points",
            "point3f[]",
            ("default", crate.Floats(CrateAuthor.Vec3f, [.. Enumerable.Range(0, 20).SelectMany(i => new float[] { i, i % 2 * 2, 0 })], 3))
        );
        crate.Attribute("/leaf.faceVertexCounts", "int[]", ("default", crate.PackedInts([.. Enumerable.Repeat(3, 18)])));
        crate.Attribute(
            "/leaf.faceVertexIndices",
            "int[]",
            ("default", crate.PackedInts([.. Enumerable.Range(0, 18).SelectMany(i => new[] { i, i + 1, i + 2 })]))
        );
        crate.Attribute(
            "/leaf.primvars:st",
            "texCoord2f[]",
            ("default", crate.Floats(CrateAuthor.Vec2f, new float[40], 2)),
            ("interpolation", crate.Token("vertex"))
        );
        crate.Relationship("/leaf.material:binding", "/looks/tin");
        crate.Prim("/looks", "Scope", ("primChildren", crate.Tokens("tin")));
        crate.Prim(
            "/looks/tin",
            "Material",
            ("primChildren", crate.Tokens("surface", "map")),
            ("properties", crate.Tokens("outputs:surface"))
        );
        crate.Connect("/looks/tin.outputs:surface", "token", "/looks/tin/surface.outputs:surface");
        crate.Prim(
            "/looks/tin/surface",
            "Shader",
            ("properties", crate.Tokens("info:id", "inputs:diffuseColor", "inputs:roughness", "inputs:emissiveColor", "outputs:surface"))
        );
        crate.Attribute(
            "/looks/tin/surface.info:id",
            "token",
            ("variability", CrateAuthor.Uniform),
            ("default", crate.Token("UsdPreviewSurface"))
        );
        crate.Connect("/looks/tin/surface.inputs:diffuseColor", "color3f", "/looks/tin/map.outputs:rgb");
        crate.Attribute("/looks/tin/surface.inputs:roughness", "float", ("default", CrateAuthor.Float(0.25f)));
        crate.Attribute("/looks/tin/surface.inputs:emissiveColor", "color3f", ("default", CrateAuthor.SmallColour(1, 0, 2)));
        crate.Attribute("/looks/tin/surface.outputs:surface", "token");
        crate.Prim(
            "/looks/tin/map",
            "Shader",
            ("properties", crate.Tokens("info:id", "inputs:file", "inputs:sourceColorSpace", "outputs:rgb"))
        );
        crate.Attribute("/looks/tin/map.info:id", "token", ("variability", CrateAuthor.Uniform), ("default", crate.Token("UsdUVTexture")));
        crate.Attribute("/looks/tin/map.inputs:file", "asset", ("default", crate.Asset(image)));
        crate.Attribute("/looks/tin/map.inputs:sourceColorSpace", "token", ("default", crate.Token("raw")));
        crate.Attribute("/looks/tin/map.outputs:rgb", "float3");
        return crate.Build();
    }
}

/// <summary>What the npm package tinyusdz makes of a file.</summary>
internal static class UsdMeshes
{
    public sealed record Shape(string Name, int Points, int Faces);

    public static IReadOnlyList<Shape> Meshes(string path)
    {
        const string Script = """
            const loader = new usd.TinyUSDZLoaderNative();
            if (!loader.loadFromBinary(new Uint8Array(readFileSync(args[0])), args[0])) throw new Error(loader.error());
            const meshes = [];
            for (let i = 0; i < loader.numMeshes(); i++) {
              const mesh = loader.getMesh(i);
              meshes.push({ name: mesh.primName, points: mesh.points.length / 3, faces: mesh.faceVertexCounts.length });
            }
            said(JSON.stringify(meshes));
            """;
        var result = Tool.Run("node", ["-e", TinyUsdz.Script(Script), path], Path.Combine(Tool.Home, "web"));
        Assert.True(result.Status == 0, result.Error);
        using var said = JsonDocument.Parse(result.Output);
        return
        [
            .. said
                .RootElement.EnumerateArray()
                .Select(m => new Shape(
                    m.GetProperty("name").GetString()!,
                    m.GetProperty("points").GetInt32(),
                    m.GetProperty("faces").GetInt32()
                )),
        ];
    }
}
