using System.Globalization;
using System.Text;
using RootCall.Testing;

namespace RootCall.Bench.Load;

/// <summary>A scene of 2,000 materials with ten maps each, 20,000 references in all, of which a tenth lies elsewhere.</summary>
internal static class LargeScene
{
    private const int Materials = 2_000;
    private const int Pictures = 40;

    private static readonly (string Statement, string Role)[] Maps =
    [
        ("map_Kd", "basecolor"),
        ("map_Ks", "specular"),
        ("map_Ns", "gloss"),
        ("map_d", "opacity"),
        ("map_Ke", "emissive"),
        ("map_Pr", "roughness"),
        ("map_Pm", "metallic"),
        ("map_Ps", "sheen"),
        ("norm", "normal"),
        ("disp", "height"),
    ];

    /// <summary>Writes the maps once, and as many scenes that use them.</summary>
    /// <returns>The scenes' paths.</returns>
    public static List<string> Write(Place place, int scenes)
    {
        var png = Enumerable.Range(0, Pictures).Select(i => RootCall.Testing.Pictures.Png(64, 64, (byte)(40 + (i * 4)))).ToArray();
        for (var m = 0; m < Materials; m++)
        for (var i = 0; i < Maps.Length; i++)
        {
            var folder = place.At($"load/{(i == m % Maps.Length ? "moved" : "maps")}");
            Directory.CreateDirectory(folder);
            File.WriteAllBytes(Path.Combine(folder, Name(m, Maps[i].Role)), png[((m * 7) + i) % Pictures]);
        }

        return [.. Enumerable.Range(0, scenes).Select(s => Scene(place, s))];
    }

    private static string Name(int material, string role) =>
        string.Create(CultureInfo.InvariantCulture, $"crate_{material:0000}_{role}.png");

    private static string Scene(Place place, int number)
    {
        var (obj, mtl) = (
            new StringBuilder($"mtllib shed_{number}.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\n"),
            new StringBuilder()
        );
        for (var m = 0; m < Materials; m++)
        {
            obj.Append(CultureInfo.InvariantCulture, $"o crate_{m:0000}\nusemtl crate_{m:0000}\nf 1/1 2/2 3/3\n");
            mtl.Append(CultureInfo.InvariantCulture, $"newmtl crate_{m:0000}\nKd 1 1 1\n");
            foreach (var (statement, role) in Maps)
                mtl.Append(CultureInfo.InvariantCulture, $"{statement} maps/{Name(m, role)}\n");
        }

        place.Put($"load/shed_{number}.mtl", mtl.ToString());
        return place.Put($"load/shed_{number}.obj", obj.ToString());
    }
}
