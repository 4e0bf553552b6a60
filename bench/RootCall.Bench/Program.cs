using RootCall.Bench;
using RootCall.Bench.Load;
using RootCall.Testing;
using RootCall.Testing.Trial;

// Each measurement stands beside a yardstick of the same run; what counts is the ratio.
Console.WriteLine($"{Environment.ProcessorCount} cores, {Environment.OSVersion}, .NET {Environment.Version}");
using var place = new Place();
var parts = new Dictionary<string, Action>
{
    ["mustering"] = () => MusterBench.Run(place),
    ["hashing"] = () => Hashing.Run(place),
    ["audit"] = () => AuditBench.Run(place),
    ["swatches"] = () => SwatchBench.Run(place),
    ["frames"] = FrameBench.Run,
    ["crossing"] = CrossingBench.Run,
    ["bake"] = BakeBench.Run,
    ["session"] = () => SessionBench.Run(place),
    ["trial"] = () => Console.WriteLine(new TrialReport([.. new BrokenScenes(place, seed: 20_261).Run(500)])),
    ["list"] = ListBench.Run,
    ["sheet"] = SheetBench.Run,
    ["delivery"] = () => DeliveryBench.Run(place),
    ["load"] = () => LoadBench.Run(place),
    ["reading"] = () => ReadingScenes.Run(place),
    ["start"] = () =>
        Measure.Compare(
            "muster from the command line, start to end, of a scene of 2 references",
            () => Tool.RootCall("muster", place.Put("small/s.gltf", Look.Gltf("a.png", "b.png"))),
            "dotnet --version",
            () => Tool.Run("dotnet", ["--version"])
        ),
};
var asked = args.Length == 0 ? [.. parts.Keys] : args;
if (asked.FirstOrDefault(a => !parts.ContainsKey(a)) is { } unknown)
{
    Console.Error.WriteLine($"There is no part “{unknown}”; there are {string.Join(", ", parts.Keys)}.");
    return 2;
}

foreach (var part in asked)
    parts[part]();
return 0;
