using System.Globalization;
using System.Text;

namespace RootCall.Demo.Scenes;

/// <summary>
/// Twelve printed seed tins as a library of looks in MaterialX, from a supplier who wired every roughness into the
/// subsurface.
/// </summary>
internal static class SeedTins
{
    private const string Name = "seed_tins";
    private const int Tins = 12;

    public static DemoScene Scene =>
        new(Name, $"{Name}.mtlx", Calls, Own)
        {
            Findings =
            [
                .. Enumerable
                    .Range(1, Tins)
                    .Select(n => new Planted("wiring.role-mismatch", $"{Tin(n)}, subsurface", "roughness map wired into the subsurface")),
                .. new[] { 3, 5, 8 }.Select(n => new Planted(
                    "wiring.normal-without-node",
                    $"{Tin(n)}, normal",
                    "normal map without its node"
                )),
                .. new[] { 2, 7 }.Select(n => new Planted(
                    "settings.colour-read-as-data",
                    $"{Tin(n)}, base_color",
                    "base colour declared linear"
                )),
                new("values.ior-out-of-range", $"{Tin(6)}, specular_IOR", "index of refraction upside down"),
                new("values.beyond-clamp", $"{Tin(9)}, metalness", "metalness of 2"),
                new("assignment.absent-material", "/shelf/tin_10", "assigned under another spelling"),
                new("assignment.retired-shader", "shelf_glaze", "a shader of an old library"),
                new("wiring.dangling-connection", $"{Tin(11)}, coat", "connected to a node that was deleted"),
            ],
        };

    private static string Tin(int n) => string.Create(CultureInfo.InvariantCulture, $"seed_tin_{n:00}");

    private static IReadOnlyList<Call> Calls =>
        [
            .. Enumerable
                .Range(1, Tins)
                .SelectMany(n => new[] { $"{Tin(n)}_basecolor.png", $"{Tin(n)}_roughness.png" })
                .Append("seed_tin_normal.png")
                .Select(i => new Call(i, $"textures/{i}", $"textures/{i}") { Copies = [new($"arrived/{Name}/textures/{i}")] }),
        ];

    private static IEnumerable<(string, byte[])> Own(Func<string, string?> path, Func<string, byte[]> bytes, bool arrived)
    {
        var text = new StringBuilder(
            "<?xml version=\"1.0\"?>\n<materialx version=\"1.38\" colorspace=\"lin_rec709\">\n  <!-- Tins for seeds, printed "
                + "in twelve inks. -->\n"
        );
        for (var n = 1; n <= Tins; n++)
        {
            var (tin, isArrived) = (Tin(n), arrived);
            string Image(string node, string type, string image, string space) =>
                $"  <image name=\"{node}\" type=\"{type}\">\n    <input name=\"file\" type=\"filename\" "
                + $"value=\"{path(image)}\"{(space.Length > 0 ? $" colorspace=\"{space}\"" : string.Empty)}/>\n  </image>\n";
            text.Append(
                Image(
                    $"{tin}_color",
                    "color3",
                    $"{tin}_basecolor.png",
                    isArrived && n is 2 or 7 && isArrived ? "lin_rec709" : "srgb_texture"
                )
            );
            text.Append(Image($"{tin}_rough", "float", $"{tin}_roughness.png", string.Empty));
            var normal = n is 3 or 5 or 8;
            if (normal)
            {
                text.Append(Image($"{tin}_bumps", "vector3", "seed_tin_normal.png", string.Empty));
                if (!arrived)
                    text.Append(
                        CultureInfo.InvariantCulture,
                        $"  <normalmap name=\"{tin}_relief\" type=\"vector3\">\n    <input name=\"in\" type=\"vector3\" "
                            + $"nodename=\"{tin}_bumps\"/>\n  </normalmap>\n"
                    );
            }

            text.Append(
                CultureInfo.InvariantCulture,
                $"  <standard_surface name=\"SR_{tin}\" type=\"surfaceshader\">\n    <input name=\"base_color\" "
                    + $"type=\"color3\" nodename=\"{tin}_color\"/>\n"
            );
            text.Append(
                CultureInfo.InvariantCulture,
                $"    <input name=\"{(arrived ? "subsurface" : "specular_roughness")}\" type=\"float\" nodename=\"{tin}_rough\"/>\n"
            );
            if (normal)
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"    <input name=\"normal\" type=\"vector3\" nodename=\"{tin}_{(arrived ? "bumps" : "relief")}\"/>\n"
                );
            if (n == 6)
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"    <input name=\"specular_IOR\" type=\"float\" value=\"{(arrived ? "0.667" : "1.5")}\"/>\n"
                );
            if (n == 9)
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"    <input name=\"metalness\" type=\"float\" value=\"{(arrived ? "2" : "1")}\"/>\n"
                );
            if (n == 11)
                text.Append(
                    arrived
                        ? "    <input name=\"coat\" type=\"float\" nodename=\"varnish\"/>\n"
                        : "    <input name=\"coat\" type=\"float\" value=\"0.4\"/>\n"
                );
            text.Append(
                CultureInfo.InvariantCulture,
                $"  </standard_surface>\n  <surfacematerial name=\"{tin}\" type=\"material\">\n    <input "
                    + $"name=\"surfaceshader\" type=\"surfaceshader\" nodename=\"SR_{tin}\"/>\n  </surfacematerial>\n"
            );
        }

        text.Append(
            CultureInfo.InvariantCulture,
            $"  <{(arrived ? "orchard_glaze_v1" : "standard_surface")} name=\"SR_shelf\" type=\"surfaceshader\">\n    <input "
                + $"name=\"specular_roughness\" type=\"float\" value=\"0.3\"/>\n  "
                + $"</{(arrived ? "orchard_glaze_v1" : "standard_surface")}>\n"
        );
        text.Append(
            "  <surfacematerial name=\"shelf_glaze\" type=\"material\">\n    <input name=\"surfaceshader\" "
                + "type=\"surfaceshader\" nodename=\"SR_shelf\"/>\n  </surfacematerial>\n  <look name=\"shelf\">\n"
        );
        for (var n = 1; n <= Tins; n++)
            text.Append(
                CultureInfo.InvariantCulture,
                $"    <materialassign name=\"a{n}\" material=\"{(arrived && n == 10 ? "Seed-Tin-10" : Tin(n))}\" "
                    + $"geom=\"/shelf/tin_{n:00}\"/>\n"
            );
        text.Append("    <materialassign name=\"board\" material=\"shelf_glaze\" geom=\"/shelf/board\"/>\n  </look>\n</materialx>\n");
        return [($"{Name}.mtlx", Encoding.UTF8.GetBytes(text.ToString()))];
    }
}
