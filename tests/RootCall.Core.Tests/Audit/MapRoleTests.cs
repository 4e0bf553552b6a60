using System.Globalization;
using System.Reflection;
using RootCall.Core.Audit;
using RootCall.Core.Audit.Roles;
using RootCall.Core.Shading;
using RootCall.Testing;
using RootCall.Testing.Looks;

namespace RootCall.Core.Tests.Audit;

/// <summary>The table and the worked examples of docs/map-roles.md.</summary>
public sealed class MapRoleTests
{
    /// <summary>A number of the made pictures that is brown, with channels that go together.</summary>
    private const int Brown = 7;

    [Fact]
    public void The_table_says_what_the_code_counts()
    {
        var written = Rows("| evidence").ToDictionary(r => r[0].Trim('`'), r => int.Parse(r[1], CultureInfo.InvariantCulture));
        var counted = typeof(RoleWeights)
            .GetFields(BindingFlags.Public | BindingFlags.Static)
            .ToDictionary(f => f.Name, f => (int)f.GetRawConstantValue()!);
        Assert.Equal(counted.OrderBy(c => c.Key, StringComparer.Ordinal), written.OrderBy(c => c.Key, StringComparer.Ordinal));
    }

    [Fact]
    public void The_worked_examples_are_told_so()
    {
        var rows = Rows("| file").ToList();
        Assert.True(rows.Count > 10);
        var wrong = rows.Select(r => (Written: string.Join(" | ", r), Found: string.Join(" | ", Run(r)))).Where(r => r.Written != r.Found);
        Assert.True(!wrong.Any(), string.Join("\n", wrong.Select(w => $"written: {w.Written}\nfound:   {w.Found}")));
    }

    private static string[] Run(string[] row)
    {
        using var place = new Place();
        var (file, feeds, pixels) = (row[0].Trim('`'), row[2], row[3]);
        var others = row[1].Split(' ').Select(o => o.Trim('`')).ToList();
        string[] free = feeds == "base colour" ? ["normal"] : ["base colour", "normal"];
        var maps = others.Zip(free, (name, input) => (name, input)).Append((name: file, input: feeds));
        Directory.CreateDirectory(place.At("textures"));
        var library = "newmtl tin\n";
        foreach (var (name, input) in maps)
        {
            var held = (
                name == file ? pixels
                : input == "normal" ? "normals"
                : "colours"
            ) switch
            {
                "colours" => Held.Colour,
                "normals" => Held.Normal,
                "two values" => Held.Metalness,
                _ => Held.Roughness,
            };
            File.WriteAllBytes(place.At($"textures/{name}.png"), LookPictures.Of(held, Brown));
            library += $"{Statement(input)} textures/{name}.png\n";
        }

        File.WriteAllText(place.At("tin.mtl"), library);
        File.WriteAllText(
            place.At("tin.obj"),
            "mtllib tin.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nusemtl tin\nf 1/1 2/2 3/3\n"
        );
        var audited = Audits.Open(place.At("tin.obj"));
        var map = audited.Scene.Materials[0].Maps.First(m => m.Input.Role?.Word() == feeds);
        var reading = map.Reading(audited.Scene);
        var told = audited
            .Report.Findings.Where(f => f.Rule is "wiring.role-mismatch" or "wiring.maps-swapped")
            .Select(f => f.Severity.Word())
            .FirstOrDefault("nothing");
        return
        [
            .. row.Take(4),
            reading.Wired.Bits.ToString(CultureInfo.InvariantCulture),
            reading.Rival is { } rival
                ? string.Create(CultureInfo.InvariantCulture, $"{rival.Bits} {rival.Role!.Value.Word()}")
                : string.Empty,
            told,
        ];
    }

    private static string Statement(string input) =>
        input switch
        {
            "base colour" => "map_Kd",
            "normal" => "norm",
            "roughness" => "map_Pr",
            _ => "map_Pm",
        };

    private static IEnumerable<string[]> Rows(string begins) =>
        File.ReadLines(Path.Combine(Tool.Home, "docs", "map-roles.md"))
            .SkipWhile(l => !l.StartsWith(begins, StringComparison.Ordinal))
            .Skip(2)
            .TakeWhile(l => l.StartsWith('|'))
            .Select(l => l.Replace("\\|", "/", StringComparison.Ordinal).Trim('|').Split('|').Select(c => c.Trim()).ToArray());
}
