using System.Globalization;
using System.Text;

namespace RootCall.Demo.Meshes;

/// <summary>Writes objects of a text FBX, version 7.4. Its v runs upward, so it is flipped.</summary>
internal static class FbxAuthor
{
    public static string Geometry(long id, DemoPart part)
    {
        var mesh = part.Mesh;
        var text = new StringBuilder();
        text.Append(CultureInfo.InvariantCulture, $"\tGeometry: {id}, \"Geometry::{part.Name}\", \"Mesh\" {{\n");
        void Array(string indent, string name, IEnumerable<string> values)
        {
            var list = values.ToList();
            text.Append(CultureInfo.InvariantCulture, $"{indent}{name}: *{list.Count} {{\n{indent}\ta: ")
                .AppendJoin(',', list)
                .Append(CultureInfo.InvariantCulture, $"\n{indent}}}\n");
        }

        static string Number(float v) => v.ToString("0.#####", CultureInfo.InvariantCulture);
        Array("\t\t", "Vertices", mesh.Positions.SelectMany(p => new[] { Number(p.X), Number(p.Y), Number(p.Z) }));
        // The last corner of a polygon is written as its complement.
        Array(
            "\t\t",
            "PolygonVertexIndex",
            mesh.Indices.Select((v, i) => (i % 3 == 2 ? -v - 1 : v).ToString(CultureInfo.InvariantCulture))
        );
        text.Append(
            "\t\tLayerElementNormal: 0 {\n\t\t\tMappingInformationType: \"ByVertice\"\n\t\t\tReferenceInformationType: \"Direct\"\n"
        );
        Array("\t\t\t", "Normals", mesh.Normals.SelectMany(p => new[] { Number(p.X), Number(p.Y), Number(p.Z) }));
        text.Append(
            "\t\t}\n\t\tLayerElementUV: 0 {\n\t\t\tName: \"map1\"\n\t\t\tMappingInformationType: "
                + "\"ByPolygonVertex\"\n\t\t\tReferenceInformationType: \"IndexToDirect\"\n"
        );
        Array("\t\t\t", "UV", mesh.Uvs.SelectMany(p => new[] { Number(p.X), Number(1 - p.Y) }));
        Array("\t\t\t", "UVIndex", mesh.Indices.Select(i => i.ToString(CultureInfo.InvariantCulture)));
        text.Append(
            "\t\t}\n\t\tLayerElementMaterial: 0 {\n\t\t\tMappingInformationType: \"AllSame\"\n\t\t\tReferenceInformationType: "
                + "\"IndexToDirect\"\n\t\t\tMaterials: *1 {\n\t\t\t\ta: 0\n\t\t\t}\n\t\t}\n\t}\n"
        );
        return text.ToString();
    }

    /// <param name="x">Where it stands, in scene units.</param>
    public static string Model(long id, string name, int x) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $$"""
            	Model: {{id}}, "Model::{{name}}", "Mesh" {
            		Version: 232
            		Properties70:  {
            			P: "Lcl Translation", "Lcl Translation", "", "A",{{x}},0,0
            		}
            	}

            """
        );

    public static string Texture(long id, string name, string absolute, string relative, double tiling) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $$"""
            	Texture: {{id}}, "Texture::{{name}}", "" {
            		Type: "TextureVideoClip"
            		Version: 202
            		FileName: "{{absolute}}"
            		RelativeFilename: "{{relative}}"
            		ModelUVTranslation: 0,0
            		ModelUVScaling: {{tiling}},{{tiling}}
            	}

            """
        );
}
