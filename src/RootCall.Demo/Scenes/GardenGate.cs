using System.Numerics;
using System.Text;
using RootCall.Demo.Meshes;

namespace RootCall.Demo.Scenes;

/// <summary>A garden gate as a small text FBX: absolute and relative paths, one texture left behind.</summary>
internal static class GardenGate
{
    private const string Name = "garden_gate";
    private const string Arrived = $"arrived/{Name}";

    public static DemoScene Scene =>
        new(Name, $"{Name}.fbx", Calls, Own)
        {
            Losses =
            [
                new("material", "gate_iron", "tiling", "tiling fell back to 1") { Input = "base colour" },
                new("material", "gate_iron", "map", "bump map did not come along") { Input = "bump" },
                new("image", "enamel_sign_07_bump.png", "missing", "bump map did not come along"),
            ],
        };

    private static IReadOnlyList<Call> Calls =>
        [
            new("enamel_sign_07_bump.png", "textures/enamel_sign_07_bump.png", string.Empty) { LeftBehind = true },
            new("chain_iron_basecolor.png", "textures/chain_iron_basecolor.png", @"..\..\tex\chain_iron_basecolor.png")
            {
                Copies = [new("library/tin-orchard/tex/chain_iron_basecolor.png")],
                State = "elsewhere",
                Fault = "moved",
            },
            new("verdigris_normal.png", "textures/verdigris_normal.png", "textures/verdigris_normal.png")
            {
                Copies = [new($"{Arrived}/textures/verdigris_normal.png")],
            },
        ];

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        DemoPart[] parts =
        [
            new("gate", "gate_iron", OrchardMeshes.Chain(), Vector3.Zero),
            new("plate", "gate_iron", OrchardMeshes.Sign(), Vector3.Zero),
        ];
        string Texture(long id, string name, string relative, double tiling) =>
            FbxAuthor.Texture(id, name, @"D:\jobs\2231\gate\" + name + ".png", relative, tiling);
        var geometries = string.Concat(parts.Select((p, i) => FbxAuthor.Geometry(100 + i, p)));
        var models = string.Concat(parts.Select((p, i) => FbxAuthor.Model(200 + i, p.Name, i)));
        var text = $$"""
            ; FBX 7.4.0 project file
            ; The Tin Orchard, a made-up film

            FBXHeaderExtension:  {
            	FBXHeaderVersion: 1003
            	FBXVersion: 7400
            }
            GlobalSettings:  {
            	Version: 1000
            	Properties70:  {
            		P: "UpAxis", "int", "Integer", "",1
            		P: "UnitScaleFactor", "double", "Number", "",100
            	}
            }
            Objects:  {
            {{geometries}}{{models}}	Material: 300, "Material::gate_iron", "" {
            		Version: 102
            		ShadingModel: "phong"
            		Properties70:  {
            			P: "DiffuseColor", "Color", "", "A",0.8,0.8,0.8
            			P: "ShininessExponent", "Number", "", "A",24
            		}
            	}
            {{Texture(400, "chain_iron_basecolor", path("chain_iron_basecolor.png")!, arrived ? 1 : 2)}}{{Texture(
                401,
                "verdigris_normal",
                path("verdigris_normal.png")!,
                1
            )}}{{(arrived ? string.Empty : Texture(402, "enamel_sign_07_bump", "textures/enamel_sign_07_bump.png", 1))}}}
            Connections:  {
            	C: "OO",200,0
            	C: "OO",201,200
            	C: "OO",100,200
            	C: "OO",101,201
            	C: "OO",300,200
            	C: "OO",300,201
            	C: "OP",400,300, "DiffuseColor"
            	C: "OP",401,300, "NormalMap"
            {{(arrived ? string.Empty : "	C: \"OP\",402,300, \"Bump\"\n")}}}

            """;
        return [($"{Name}.fbx", Encoding.UTF8.GetBytes(text))];
    }
}
