using System.IO.Compression;
using System.Text;
using System.Text.Json;
using RootCall.Core.Files;
using RootCall.Core.Formats.Fbx;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;
using RootCall.Core.SendOff;
using RootCall.Testing;
using SharpGLTF.Schema2;

namespace RootCall.Core.Tests.Formats;

public sealed class FbxTests(DemoPlace demo) : IClassFixture<DemoPlace>, IDisposable
{
    private const string Models = "/usr/share/assimp/models/FBX";
    private readonly Place place = new();

    [Theory]
    [InlineData(7400u)]
    [InlineData(7500u)]
    public void Records_are_read_by_their_lengths_in_both_widths(uint version)
    {
        var file = Binary(version, w => Record(w, version, "Objects", [], inner =>
            {
                Record(inner, version, "Geometry", [Long(7), Text("leaf\0\u0001Geometry"), Text("Mesh")], mesh =>
                {
                    Record(
                        mesh,
                        version,
                        "Vertices",
                        [Deflated('d', Enumerable.Range(0, 12).SelectMany(i => BitConverter.GetBytes((double)i)).ToArray(), 12)]
                    );
                    Record(
                        mesh,
                        version,
                        "PolygonVertexIndex",
                        [Plain('i', new[] { 0, 1, 2, -4 }.SelectMany(BitConverter.GetBytes).ToArray(), 4)]
                    );
                });
            }));
        var document = FbxDocument.Read(file, "x");
        Assert.Empty(document.Errors);
        Assert.Equal(version, document.Version);
        var geometry = document.Objects["7"];
        Assert.Equal(("leaf", "Mesh"), (geometry.Name, geometry.Class));
        Assert.Equal(Enumerable.Range(0, 12).Select(i => (double)i), geometry.Node.Child("Vertices")!.Numbers());
        Assert.Equal([0, 1, 2, -4], geometry.Node.Child("PolygonVertexIndex")!.Numbers());

        // Cut anywhere: what stands before is kept, and the byte is told.
        var cut = FbxDocument.Read(file.AsMemory(0, file.Length - 60), "x");
        Assert.Contains(cut.Errors, e => e.StartsWith("byte ", StringComparison.Ordinal));
        Assert.Contains("7", cut.Objects.Keys);
    }

    [Fact]
    public void Npm_fbx_parser_finds_the_same_connections_and_properties()
    {
        const string Script = """
            const { readFileSync } = require('fs');
            const { parseBinary, parseText } = require('fbx-parser');
            const bytes = readFileSync(process.argv[1]);
            const root = bytes.subarray(8, 18).toString() === 'FBX Binary' ? parseBinary(bytes) : parseText(bytes.toString());
            const all = (name) => root.filter((n) => n.name === name).flatMap((n) => n.nodes);
            const properties = (o) =>
              o.nodes.filter((n) => n.name === 'Properties70').flatMap((n) => n.nodes.map((p) => String(p.props[0])));
            console.log(JSON.stringify({
              connections: all('Connections').filter((c) => c.name === 'C').map((c) => c.props.map(String).join('|')),
              objects: all('Objects').map((o) => [o.name, String(o.props[0]), properties(o)]),
            }));
            """;
        string[] samples =
        [
            $"{Models}/box.fbx",
            $"{Models}/phong_cube.fbx",
            $"{Models}/huesitos.fbx",
            $"{Models}/animation_with_skeleton.fbx",
        ];
        foreach (var path in samples)
        {
            var said = Tool.Run("node", ["-e", Script, path], Path.Combine(Tool.Home, "web"));
            Assert.True(said.Status == 0, said.Error);
            using var json = JsonDocument.Parse(said.Output);
            var document = FbxDocument.Read(File.ReadAllBytes(path), path);
            var connections = document
                .Root.Child("Connections")!
                .All("C")
                .Select(c => string.Join('|', c.Properties.Select(p => p.AsText)));
            Assert.Equal(json.RootElement.GetProperty("connections").EnumerateArray().Select(c => c.GetString()), connections);
            var objects = document
                .Root.Child("Objects")!
                .Children.Select(o =>
                    $"{o.Name} {o.Text(0)} {string.Join(',', o.All("Properties70").SelectMany(p => p.All("P")).Select(p => p.Text(0)))}"
                );
            Assert.Equal(
                json.RootElement.GetProperty("objects")
                    .EnumerateArray()
                    .Select(o => $"{o[0]} {o[1]} {string.Join(',', o[2].EnumerateArray().Select(p => p.GetString()))}"),
                objects
            );
        }
    }

    [Fact]
    public void A_material_keeps_every_property_and_a_texture_both_its_paths()
    {
        var scene = Look.Read(demo.At("arrived/garden_gate/garden_gate.fbx"));
        Assert.Empty(scene.Notes);
        Assert.Equal(("fbx", 1.0, "Y"), (scene.Format.Id, scene.MetresPerUnit, scene.UpAxis));
        Assert.Equal([("gate", -1), ("plate", 0)], scene.Nodes.Select(n => (n.Name, n.Parent)));
        Assert.Equal(1, scene.Nodes[1].Transform[12]);
        var surface = scene.Materials.Single().Graph.SurfaceNode!;
        Assert.Equal("phong", surface.Type);
        Assert.Equal(ShaderValue.Of(24), surface.Input("ShininessExponent")!.Value);
        var color = scene.References.Single(r => r.Written.EndsWith("basecolor.png", StringComparison.Ordinal));
        Assert.Equal(
            (@"..\..\tex\chain_iron_basecolor.png", @"D:\jobs\2231\gate\chain_iron_basecolor.png"),
            (color.Written, color.AlsoWritten)
        );
        Assert.Equal(new ReferenceUse("gate_iron", "DiffuseColor"), Assert.Single(color.UsedBy));
        Assert.Equal(
            2,
            Look.Read(demo.At("clean/garden_gate/garden_gate.fbx"))
                .Materials[0]
                .Graph.ImagesOf(scene.Materials[0].Graph.SurfaceNode!.Input("DiffuseColor")!)
                .Single()
                .Transform.ScaleU
        );
        Assert.Equal(["map1"], scene.Meshes[0].UvSets.ToArray());
    }

    [Fact]
    public void Images_carried_inside_are_given_out()
    {
        var report = Look.Muster($"{Models}/box_orphant_embedded_texture.fbx");
        var image = report.References.Single(r => r.Reference.Carried is not null);
        Assert.Equal(ReferenceState.Embedded, image.State);
        using var bytes = new FbxFormat().OpenCarried(image.Reference.Carried!);
        Assert.Equal(image.Stamp!.Value.Bytes, bytes.Length);
    }

    [Fact]
    public void An_FBX_goes_out_as_a_GLB_that_others_open()
    {
        var arrived = demo.At("arrived/garden_gate/garden_gate.fbx");
        var report = Look.TakeClear(arrived, demo.Library);
        Directory.CreateDirectory(place.At("work"));
        var writable = WritableScene.Make(report, Look.Context(arrived, demo.Library), Bounds.Default, place.At("work"));
        var package = PackageBuilder.Build(PackagePlan.Make(writable, new()), place.At("gate"), DateTimeOffset.UnixEpoch);
        Assert.True(PackageProof.Prove(package.Written, Bounds.Default).Holds);
        var model = ModelRoot.Load(Path.Combine(package.Written, "data/garden_gate.glb"));
        Assert.Equal(
            report.Scene.Counts.Triangles,
            model.LogicalMeshes.SelectMany(m => m.Primitives).Sum(p => p.GetTriangleIndices().Count())
        );
        Assert.Equal(2, model.LogicalImages.Count);
        var material = model.LogicalMaterials.Single();
        Assert.NotNull(material.FindChannel("BaseColor")!.Value.Texture);
        Assert.NotNull(material.FindChannel("Normal")!.Value.Texture);
        Assert.Equal(1, model.LogicalNodes.Single(n => n.Name == "plate").WorldMatrix.Translation.X, 3);
    }

    [Fact]
    public void What_is_no_FBX_is_told_in_one_sentence()
    {
        Assert.Contains(
            "neither",
            Assert.Throws<CannotUseException>(() => Look.Read(place.Put("a.fbx", "hello"))).Message,
            StringComparison.Ordinal
        );
        // Zeros became spaces when it went through a transfer as text.
        Assert.Contains(
            "text",
            Assert.Throws<CannotUseException>(() => Look.Read($"{Models}/transparentTest.fbx")).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void The_text_form_is_the_same_tree_as_the_binary_one()
    {
        const string Text = """
            ; FBX 6.1.0 project file
            FBXHeaderExtension: { FBXVersion: 6100 }
            Objects:  {
            	Model: "Model::leaf", "Mesh" {
            		Properties60:  {
            			Property: "Lcl Translation", "Lcl Translation", "A+",1,2,3
            		}
            		Vertices: 0,0,0,
            		  1,0,0,1,1e0,-.5
            		PolygonVertexIndex: 0,1,-3
            		LayerElementUV: 0 {
            			Name: "map &quot;1&quot;"
            		}
            	}
            	Material: "Material::tin", "" { ShadingModel: "lambert" }
            }
            Connections:  {
            	Connect: "OO", "Model::leaf", "Model::Scene"
            	Connect: "OO", "Material::tin", "Model::leaf"
            }
            """;
        var scene = Look.Read(place.Put("s.fbx", Text));
        Assert.Empty(scene.Notes);
        Assert.Equal("FBX 6.1", scene.Format.Name);
        var mesh = scene.Meshes.Single();
        Assert.Equal(("leaf", 3L, 1L, "tin"), (mesh.Name, mesh.Vertices, mesh.Triangles, mesh.Parts[0].Material));
        Assert.Equal(-0.5, mesh.Bounds!.Value.Min.Z);
        Assert.Equal(["map \"1\""], mesh.UvSets.ToArray());
        Assert.Equal([1, 2, 3], scene.Nodes.Single().Transform[12..15].ToArray());
        var cut = Look.Read(
            place.Put(
                "cut.fbx",
                Text[..Text.IndexOf("Connections", StringComparison.Ordinal)].Replace("lambert\" }", "lambert", StringComparison.Ordinal)
            )
        );
        Assert.Contains(cut.Notes, n => n.Message.Contains("line", StringComparison.Ordinal));
        Assert.Equal(1, cut.Counts.Triangles);
    }

    [Theory]
    [InlineData("ByPolygonVertex", "Direct", "1,2,3,4,5,6", "1 2 3 4 5 6")]
    [InlineData("ByPolygonVertex", "IndexToDirect", "1,2,3,4", "3 4 1 2 1 2")]
    [InlineData("ByVertice", "Direct", "1,2,3,4,5,6", "5 6 3 4 1 2")]
    [InlineData("AllSame", "Direct", "7,8", "7 8 7 8 7 8")]
    public void Values_are_mapped_to_corners_as_the_layer_says(string mapping, string reference, string values, string expected)
    {
        // One triangle over the points 2, 1, 0, so that a mapping by point differs from one by corner.
        var path = place.Put(
            "s.fbx",
            $$"""
            ; FBX 7.4.0 project file
            FBXHeaderExtension: { FBXVersion: 7400 }
            GlobalSettings: { Properties70: { P: "UnitScaleFactor", "double", "Number", "",100 } }
            Objects: {
            	Geometry: 1, "Geometry::g", "Mesh" {
            		Vertices: *9 { a: 0,0,0,1,0,0,1,1,0 }
            		PolygonVertexIndex: *3 { a: 2,1,-1 }
            		LayerElementUV: 0 {
            			MappingInformationType: "{{mapping}}"
            			ReferenceInformationType: "{{reference}}"
            			UV: *{{values.Split(',').Length}} { a: {{values}} }
            			UVIndex: *3 { a: 1,0,0 }
            		}
            	}
            	Model: 2, "Model::m", "Mesh" {
            	}
            }
            Connections: {
            	C: "OO",1,2
            }
            """
        );
        var scene = Look.Read(path);
        using var output = new MemoryStream();
        FbxToGlb.Write(scene, output, r => r.Written, Bounds.Default);
        var primitive = ModelRoot.ParseGLB(output.ToArray()).LogicalMeshes.Single().Primitives.Single();
        var uvs = primitive.GetVertexAccessor("TEXCOORD_0").AsVector2Array();
        // glTF has v downward.
        Assert.Equal(expected, string.Join(' ', primitive.GetIndices().Select(i => $"{uvs[(int)i].X} {1 - uvs[(int)i].Y}")));
    }

    [Fact]
    public void A_model_stands_where_its_pivots_and_rotations_put_it()
    {
        string P(string name, params double[] v) => $"P: \"{name}\", \"\", \"\", \"A\",{string.Join(',', v)}\n";
        var scene = Look.Read(
            place.Put(
                "s.fbx",
                $$"""
                ; FBX 7.4.0 project file
                FBXHeaderExtension: { FBXVersion: 7400 }
                Objects: {
                	Model: 1, "Model::plain", "Null" { Properties70: { {{P("Lcl Translation", 1, 2, 3)}} {{P("Lcl Rotation", 0, 0, 90)}} {{P(
                    "Lcl Scaling",
                    2,
                    2,
                    2
                )}} } }
                	Model: 2, "Model::pivoted", "Null" { Properties70: { {{P("RotationPivot", 1, 0, 0)}} {{P("Lcl Rotation", 0, 0, 180)}} } }
                	Model: 3, "Model::before", "Null" { Properties70: { {{P("PreRotation", 90, 0, 0)}} {{P("Lcl Rotation", 0, 0, 90)}} } }
                }
                """
            )
        );
        (double, double, double) At(string name, double x, double y, double z)
        {
            var m = scene.Nodes.Single(n => n.Name == name).Transform;
            double Row(int c) => Math.Round((x * m[c]) + (y * m[4 + c]) + (z * m[8 + c]) + m[12 + c], 6);
            return (Row(0), Row(1), Row(2));
        }

        Assert.Equal((1, 4, 3), At("plain", 1, 0, 0)); // Scaled to 2, turned to y, moved.
        Assert.Equal((2, 0, 0), At("pivoted", 0, 0, 0)); // Half a turn around (1, 0, 0).
        Assert.Equal((0, 0, 1), At("before", 1, 0, 0)); // First around z to y, then the pre-rotation takes y to z.
    }

    public void Dispose() => place.Dispose();

    private static byte[] Binary(uint version, Action<BinaryWriter> records)
    {
        using var file = new MemoryStream();
        using var writer = new BinaryWriter(file);
        writer.Write(new byte[8]);
        writer.Write("FBX Binary  \0\x1a\0"u8);
        writer.Write(version);
        records(writer);
        writer.Write(new byte[version >= 7500 ? 25 : 13]);
        return file.ToArray();
    }

    private static void Record(BinaryWriter writer, uint version, string name, byte[][] properties, Action<BinaryWriter>? children = null)
    {
        void Number(long value)
        {
            if (version >= 7500)
                writer.Write(value);
            else
                writer.Write((uint)value);
        }

        var start = writer.BaseStream.Position;
        Number(0);
        Number(properties.Length);
        Number(properties.Sum(p => p.Length));
        writer.Write((byte)name.Length);
        writer.Write(Encoding.ASCII.GetBytes(name));
        foreach (var property in properties)
            writer.Write(property);
        if (children is not null)
        {
            children(writer);
            writer.Write(new byte[version >= 7500 ? 25 : 13]);
        }

        var end = writer.BaseStream.Position;
        writer.BaseStream.Position = start;
        Number(end);
        writer.BaseStream.Position = end;
    }

    private static byte[] Long(long value) => [(byte)'L', .. BitConverter.GetBytes(value)];

    private static byte[] Text(string value) =>
        [(byte)'S', .. BitConverter.GetBytes(Encoding.UTF8.GetByteCount(value)), .. Encoding.UTF8.GetBytes(value)];

    private static byte[] Plain(char type, byte[] bytes, int count) =>
        [(byte)type, .. BitConverter.GetBytes(count), .. BitConverter.GetBytes(0), .. BitConverter.GetBytes(bytes.Length), .. bytes];

    private static byte[] Deflated(char type, byte[] bytes, int count)
    {
        using var packed = new MemoryStream();
        using (var zlib = new ZLibStream(packed, CompressionLevel.Optimal, leaveOpen: true))
            zlib.Write(bytes);
        return
        [
            (byte)type,
            .. BitConverter.GetBytes(count),
            .. BitConverter.GetBytes(1),
            .. BitConverter.GetBytes((int)packed.Length),
            .. packed.ToArray(),
        ];
    }
}
