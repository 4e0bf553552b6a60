using System.Globalization;
using System.Text;

namespace RootCall.Demo.Meshes;

/// <summary>Writes geometry of COLLADA 1.4.1. Its v runs upward, so it is flipped.</summary>
internal static class ColladaAuthor
{
    public static string Geometry(DemoPart part)
    {
        var mesh = part.Mesh;
        var text = new StringBuilder();
        text.Append(CultureInfo.InvariantCulture, $"    <geometry id=\"{part.Name}-geo\" name=\"{part.Name}\"><mesh>\n");
        void Source(string id, IEnumerable<float> values, int stride, string names)
        {
            var list = values.ToList();
            text.Append(
                CultureInfo.InvariantCulture,
                $"      <source id=\"{part.Name}-{id}\"><float_array id=\"{part.Name}-{id}-array\" count=\"{list.Count}\">"
            );
            text.AppendJoin(' ', list.Select(v => v.ToString("0.#####", CultureInfo.InvariantCulture)));
            text.Append(
                CultureInfo.InvariantCulture,
                $"</float_array><technique_common><accessor source=\"#{part.Name}-{id}-array\" "
                    + $"count=\"{list.Count / stride}\" stride=\"{stride}\">"
            );
            foreach (var n in names)
                text.Append(CultureInfo.InvariantCulture, $"<param name=\"{n}\" type=\"float\"/>");
            text.Append("</accessor></technique_common></source>\n");
        }

        Source("pos", mesh.Positions.SelectMany(p => new[] { p.X, p.Y, p.Z }), 3, "XYZ");
        Source("nrm", mesh.Normals.SelectMany(p => new[] { p.X, p.Y, p.Z }), 3, "XYZ");
        Source("uv", mesh.Uvs.SelectMany(p => new[] { p.X, 1 - p.Y }), 2, "ST");
        text.Append(
            CultureInfo.InvariantCulture,
            $"      <vertices id=\"{part.Name}-vtx\"><input semantic=\"POSITION\" source=\"#{part.Name}-pos\"/></vertices>\n"
        );
        text.Append(
            CultureInfo.InvariantCulture,
            $"      <triangles material=\"look\" count=\"{mesh.Indices.Count / 3}\"><input semantic=\"VERTEX\" "
                + $"source=\"#{part.Name}-vtx\" offset=\"0\"/><input semantic=\"NORMAL\" source=\"#{part.Name}-nrm\" "
                + $"offset=\"1\"/><input semantic=\"TEXCOORD\" source=\"#{part.Name}-uv\" offset=\"2\" set=\"0\"/><p>"
        );
        text.AppendJoin(' ', mesh.Indices.Select(i => $"{i} {i} {i}"));
        return text.Append("</p></triangles>\n    </mesh></geometry>\n").ToString();
    }

    public static string Node(DemoPart part) =>
        $"""
                  <node id="{part.Name}" name="{part.Name}">
                    <instance_geometry url="#{part.Name}-geo">
                      <bind_material>
                        <technique_common>
                          <instance_material symbol="look" target="#{part.Material}">
                            <bind_vertex_input semantic="UV" input_semantic="TEXCOORD" input_set="0"/>
                          </instance_material>
                        </technique_common>
                      </bind_material>
                    </instance_geometry>
                  </node>

            """;
}
