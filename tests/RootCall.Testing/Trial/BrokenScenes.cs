using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Testing.Trial;

/// <summary>How one broken reference ended.</summary>
/// <param name="Found">Root Call settled alone.</param>
/// <param name="Right">And took a right file.</param>
public sealed record Outcome(Break Kind, ReferenceState State, bool Found, bool Right, string Story);

/// <summary>
/// Scenes with sets of textures, broken at random from a fixed seed in ways whose truth is known. Names are made of
/// syllables, so that nothing is tuned to real ones.
/// </summary>
public sealed class BrokenScenes(Place place, int seed)
{
    private static readonly string[] Syllables =
    [
        "ba",
        "dor",
        "fen",
        "gil",
        "hul",
        "kam",
        "lor",
        "mu",
        "nes",
        "pir",
        "quo",
        "ras",
        "sel",
        "tam",
        "ur",
        "vin",
        "wex",
        "yar",
        "zo",
    ];
    private static readonly string[][] Roles =
    [
        ["basecolor", "albedo", "diffuse", "col"],
        ["normal", "nrm", "nor"],
        ["roughness", "rough", "rgh"],
        ["metalness", "metallic", "met"],
        ["ao", "occlusion"],
        ["height", "disp"],
    ];
    private static readonly string[] Inputs = ["map_Kd", "norm", "map_Pr", "map_Pm", "map_AO", "disp"];
    private static readonly string[] Colours = ["red", "blue", "green", "teal"];
    private readonly Random random = new(seed);
    private int contents;

    /// <summary>Makes, breaks and musters so many scenes.</summary>
    public IEnumerable<Outcome> Run(int scenes)
    {
        for (var i = 0; i < scenes; i++)
            foreach (var outcome in Scene(i))
                yield return outcome;
    }

    private IEnumerable<Outcome> Scene(int number)
    {
        var home = $"{number:000}";
        var sets = Enumerable.Range(0, random.Next(2, 5)).Select(_ => Word(3)).Distinct().ToList();
        var library = new StringBuilder();
        var truths = new List<(string Written, Break Kind, HashSet<string> Right)>();
        var seen = new Dictionary<string, (string Path, byte[] Bytes)>();
        foreach (var (set, s) in sets.Select((n, s) => (n, s)))
        {
            library.Append(System.Globalization.CultureInfo.InvariantCulture, $"newmtl {set}\n");
            var oldFolder = $"D:/{Word(2)}/{Word(2)}/{set}";
            var newFolder = $"{home}/lib/{Word(2)}/{set}";
            var how = (Break)random.Next(Enum.GetValues<Break>().Length);
            var renamed = Word(3);
            foreach (var (spellings, r) in Roles.Take(random.Next(4, 7)).Select((x, r) => (x, r)))
            {
                // Of a set renamed in part, one map loses its name; the other ways befall about half of the maps.
                var kind =
                    how == Break.RenamedInSet ? (r == 2 ? how : Break.MovedFolder)
                    : random.Next(2) == 0 ? how
                    : Break.MovedFolder;
                var (written, right) = One(kind, set, s, spellings, oldFolder, newFolder, home, renamed, seen);
                truths.Add((written, kind, right));
                // What lies beside: near names of other things.
                if (random.Next(2) == 0)
                    Put($"{newFolder}/{set}{random.Next(2, 9)}_{spellings[0]}.png");
                if (random.Next(3) == 0)
                    Put($"{home}/lib/{Word(2)}/old_{set}_{spellings[0]}.png");
                library.Append(System.Globalization.CultureInfo.InvariantCulture, $"{Inputs[r]} {written}\n");
            }
        }

        place.Put($"{home}/s/s.mtl", library.ToString());
        Directory.CreateDirectory(place.At($"{home}/lib"));
        var scene = place.Put(
            $"{home}/s/s.obj",
            $"mtllib s.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\n{string.Concat(sets.Select(n => $"usemtl {n}\nf 1 2 3\n"))}"
        );
        var context = Look.Context(scene, place.At($"{home}/lib"));
        var keys = Look.Read(scene, place.At($"{home}/lib")).References.ToDictionary(x => x.Written, x => x.Key);
        context = context with
        {
            LastSeen = seen.Where(x => keys.ContainsKey(x.Key))
                .ToDictionary(
                    x => keys[x.Key],
                    x => new LastSeen(
                        x.Value.Path,
                        new(x.Value.Bytes.Length, default),
                        4,
                        4,
                        Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(x.Value.Bytes))
                    )
                ),
        };
        var report = CurrentScene.Muster(scene, context, Bounds.Default);
        foreach (var (written, kind, right) in truths)
        {
            var reference = report.References.Single(x => x.Reference.Kind == ReferenceKind.Image && x.Reference.Written == written);
            var clear = reference.Clear;
            var path = clear is null ? null : Path.GetRelativePath(place.Folder, clear.Called);
            yield return new(
                kind,
                reference.State,
                clear is not null,
                path is not null && right.Contains(path),
                $"{written} -> {path} ({string.Join("; ", clear?.Reasons ?? [])}); right: {string.Join(", ", right)}"
            );
        }
    }

    /// <summary>Puts the files of one map as the break leaves them.</summary>
    /// <returns>The path the scene calls, and the paths that answer it rightly, from the trial's folder.</returns>
    private (string Written, HashSet<string> Right) One(
        Break kind,
        string set,
        int s,
        string[] spellings,
        string oldFolder,
        string newFolder,
        string home,
        string renamed,
        Dictionary<string, (string, byte[])> seen
    )
    {
        var role = spellings[0];
        var name = $"{set}_{role}";
        string Old(string file) => $"{oldFolder}/{file}";
        switch (kind)
        {
            case Break.MovedAlone:
                return (Old($"{name}.png"), [Put($"{home}/lib/{Word(2)}/{name}.png")]);
            case Break.Case:
                return (Old($"{name}.png"), [Put($"{newFolder}/{name.ToUpperInvariant()}.PNG")]);
            case Break.Separators:
                return (
                    Old($"{name}.png"),
                    [Put($"{newFolder}/{(random.Next(2) == 0 ? name.Replace('_', '-') : $"{Capital(set)}{Capital(role)}")}.png")]
                );
            case Break.Ending:
                return (Old($"{name}.tif"), [Put($"{newFolder}/{name}.png")]);
            case Break.Resolution:
                return (Old($"{name}_4k.png"), [Put($"{newFolder}/{name}_2k.png")]);
            case Break.Version:
                return (Old($"{name}_v003.png"), [Put($"{newFolder}/{name}_v004.png")]);
            case Break.TwoDifferences:
                return (Old($"{name}_4k.tif"), [Put($"{newFolder}/{name}_2k.png")]);
            case Break.RoleSpelling:
                return (Old($"{name}.png"), [Put($"{newFolder}/{set}_{spellings[random.Next(1, spellings.Length)]}.png")]);
            case Break.Unicode:
                return (Old($"{set}é_{role}.png"), [Put($"{newFolder}/{set}e\u0301_{role}.png")]);
            case Break.RenamedSeen:
            {
                var file = Put($"{home}/lib/{Word(2)}/{Word(4)}{contents}.png");
                seen[Old($"{name}.png")] = (Old($"{name}.png"), File.ReadAllBytes(place.At(file)));
                return (Old($"{name}.png"), [file]);
            }

            case Break.RenamedInSet:
                return (Old($"{renamed}_{contents}.png"), [Put($"{newFolder}/{set}_{spellings[^1]}.png")]);
            case Break.Tiles:
                foreach (var tile in new[] { 1002, 1003 })
                    Put($"{newFolder}/{name}.{tile}.png");
                Put($"{newFolder}/{name}.1001.png");
                return (Old($"{name}.<UDIM>.png"), [$"{newFolder}/{name}.<UDIM>.png"]);
            case Break.GenericName:
                return ($"{oldFolder}/{role}.png", [Put($"{newFolder}/{role}.png")]);
            case Break.Copied:
            {
                var bytes = Bytes();
                return (
                    Old($"{name}.png"),
                    [PutBytes($"{home}/lib/{Word(2)}/a/{name}.png", bytes), PutBytes($"{home}/lib/{Word(2)}/b/{name}.png", bytes)]
                );
            }

            case Break.Deleted:
                return (Old($"{name}.png"), []);
            case Break.OnlyOlder:
                Put($"{newFolder}/{name}_v002.png");
                return (Old($"{name}_v003.png"), []);
            case Break.OnlyOtherColour:
                Put($"{newFolder}/{set}_{Colours[(s + 1) % Colours.Length]}_{role}.png");
                return (Old($"{set}_{Colours[s % Colours.Length]}_{role}.png"), []);
            case Break.OnlyOtherSet:
                Put($"{home}/lib/{Word(2)}/{Word(3)}/{role}.png");
                return ($"{oldFolder}/{role}.png", []);
            case Break.TwoOfOneName:
                Put($"{home}/lib/{Word(2)}/a/{name}.png");
                Put($"{home}/lib/{Word(2)}/b/{name}.png");
                return (Old($"{name}.png"), []);
            case Break.TwoResolutions:
                Put($"{newFolder}/{name}_2k.png");
                Put($"{newFolder}/{name}_1k.png");
                return (Old($"{name}_4k.png"), []);
            default:
                return (Old($"{name}.png"), [Put($"{newFolder}/{name}.png")]);
        }
    }

    private string Put(string name) => PutBytes(name, Bytes());

    private string PutBytes(string name, byte[] bytes)
    {
        place.Put(name, bytes);
        return name;
    }

    /// <summary>A picture of its own each time.</summary>
    private byte[] Bytes()
    {
        contents++;
        return Pictures.Png(4, 4, (byte)contents, ("tEXt", Encoding.ASCII.GetBytes($"n\0{contents}")));
    }

    private string Word(int syllables) =>
        string.Concat(Enumerable.Range(0, syllables).Select(_ => Syllables[random.Next(Syllables.Length)]));

    private static string Capital(string word) => char.ToUpperInvariant(word[0]) + word[1..];
}
