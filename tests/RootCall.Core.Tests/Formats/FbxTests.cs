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

[Collection(DemoCollection.Name)]
public sealed class FbxTests(DemoPlace demo) : IDisposable
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
                Record(mesh, version, "Vertices", [Deflated('d', Enumerable.Range(0, 12).SelectMany(i => BitConverter.GetBytes((double)i)).ToArray(), 12)]);
                Record(mesh, version, "PolygonVertexIndex", [Plain('i', new[] { 0, 1, 2, -4 }.SelectMany(BitConverter.GetBytes).ToArray(), 4)]);
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
            console.log(JSON.stringify({
              connections: all('Connections').filter((c) => c.name === 'C').map((c) => c.props.map(String).join('|')),
              objects: all('Objects').map((o) => [o.name, String(o.props[0]), o.nodes.filter((n) => n.name === 'Properties70').flatMap((n) => n.nodes.map((p) => String(p.props[0])))]),
            }));
            """;
        string[] samples = [$"{Models}/box.fbx", $"{Models}/phong_cube.fbx", $"{Models}/huesitos.fbx", $"{Models}/animation_with_skeleton.fbx"];
        foreach (var path in samples)
        {
            var said = Tool.Run("node", ["-e", Script, path], Path.Combine(Tool.Home, "web"));
            Assert.True(said.Status == 0, said.Error);
            using var json = JsonDocument.Parse(said.Output);
            var document = FbxDocument.Read(File.ReadAllBytes(path), path);
            var connections = document.Root.Child("Connections")!.All("C").Select(c => string.Join('|', c.Properties.Select(p => p.AsText)));
            Assert.Equal(json.RootElement.GetProperty("connections").EnumerateArray().Select(c => c.GetString()), connections);
            var objects = document.Root.Child("Objects")!.Children.Select(o => $"{o.Name} {o.Text(0)} {string.Join(',', o.All("Properties70").SelectMany(p => p.All("P")).Select(p => p.Text(0)))}");
            Assert.Equal(json.RootElement.GetProperty("objects").EnumerateArray().Select(o => $"{o[0]} {o[1]} {string.Join(',', o[2].EnumerateArray().Select(p => p.GetString()))}"), objects);
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
        Assert.Equal((@"..\..\tex\chain_iron_basecolor.png", @"D:\jobs\2231\gate\chain_iron_basecolor.png"), (color.Written, color.AlsoWritten));
        Assert.Equal(new ReferenceUse("gate_iron", "DiffuseColor"), Assert.Single(color.UsedBy));
        Assert.Equal(2, Look.Read(demo.At("clean/garden_gate/garden_gate.fbx")).Materials[0].Graph.ImagesOf(scene.Materials[0].Graph.SurfaceNode!.Input("DiffuseColor")!).Single().Transform.ScaleU);
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
        Assert.Equal(report.Scene.Counts.Triangles, model.LogicalMeshes.SelectMany(m => m.Primitives).Sum(p => p.GetTriangleIndices().Count()));
        Assert.Equal(2, model.LogicalImages.Count);
        var material = model.LogicalMaterials.Single();
        Assert.NotNull(material.FindChannel("BaseColor")!.Value.Texture);
        Assert.NotNull(material.FindChannel("Normal")!.Value.Texture);
        Assert.Equal(1, model.LogicalNodes.Single(n => n.Name == "plate").WorldMatrix.Translation.X, 3);
    }

    [Fact]
    public void What_is_no_FBX_is_told_in_one_sentence()
    {
        Assert.Contains("neither", Assert.Throws<CannotUseException>(() => Look.Read(place.Put("a.fbx", "hello"))).Message, StringComparison.Ordinal);
        // Zeros became spaces when it went through a transfer as text.
        Assert.Contains("text", Assert.Throws<CannotUseException>(() => Look.Read($"{Models}/transparentTest.fbx")).Message, StringComparison.Ordinal);
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
            if (version >= 7500) writer.Write(value);
            else writer.Write((uint)value);
        }

        var start = writer.BaseStream.Position;
        Number(0);
        Number(properties.Length);
        Number(properties.Sum(p => p.Length));
        writer.Write((byte)name.Length);
        writer.Write(Encoding.ASCII.GetBytes(name));
        foreach (var property in properties) writer.Write(property);
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

    private static byte[] Text(string value) => [(byte)'S', .. BitConverter.GetBytes(Encoding.UTF8.GetByteCount(value)), .. Encoding.UTF8.GetBytes(value)];

    private static byte[] Plain(char type, byte[] bytes, int count) => [(byte)type, .. BitConverter.GetBytes(count), .. BitConverter.GetBytes(0), .. BitConverter.GetBytes(bytes.Length), .. bytes];

    private static byte[] Deflated(char type, byte[] bytes, int count)
    {
        using var packed = new MemoryStream();
        using (var zlib = new ZLibStream(packed, CompressionLevel.Optimal, leaveOpen: true)) zlib.Write(bytes);
        return [(byte)type, .. BitConverter.GetBytes(count), .. BitConverter.GetBytes(1), .. BitConverter.GetBytes((int)packed.Length), .. packed.ToArray()];
    }
}
