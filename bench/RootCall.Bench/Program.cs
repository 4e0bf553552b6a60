using System.Security.Cryptography;
using RootCall.Bench;
using RootCall.Core.Files;
using RootCall.Core.Imaging;
using RootCall.Core.Muster;
using RootCall.Testing;

// Each measurement stands beside a yardstick of the same run; what counts is the ratio.
Console.WriteLine($"{Environment.ProcessorCount} cores, {Environment.OSVersion}, .NET {Environment.Version}");
using var place = new Place();
// One part alone, by its name: mustering, trial.
if (args is ["mustering"])
{
    MusterBench.Run(place);
    return;
}

const int Folders = 200;
const int FilesInEach = 100;
for (var folder = 0; folder < Folders; folder++)
{
    Directory.CreateDirectory(place.At($"lib/set_{folder:000}"));
    for (var file = 0; file < FilesInEach; file++)
        File.WriteAllBytes(place.At($"lib/set_{folder:000}/panel_{(folder * FilesInEach) + file:00000}_basecolor.png"), Pictures.Png(8, 8, (byte)file));
}

var library = new RootScope([place.At("lib")]);
Measure.Compare(
    $"listing {Folders * FilesInEach:N0} files into an index", () => RootIndex.Build(library),
    "find -printf '%p %s %T@'", () => Tool.Run("find", [place.At("lib"), "-type", "f", "-printf", "%p %s %T@\\n"]));

string Uri(int i) => i % 2 == 0 ? $"{place.At("lib")}/set_{i / FilesInEach:000}/panel_{i:00000}_basecolor.png" : $"D:/jobs/{i / FilesInEach}/tex/panel_{i:00000}_basecolor.png";
var scene = place.Put("scene/rows.gltf", Look.Gltf([.. Enumerable.Range(0, Folders * FilesInEach).Select(Uri)]));
var index = RootIndex.Build(CurrentScene.Scope(scene, [place.At("lib")]));
var read = Look.Read(scene, place.At("lib"));
Measure.Compare(
    $"mustering {Folders * FilesInEach:N0} references, half of them moved, with relocation rules",
    () => RelocationRules.Infer(Mustering.Run(read, new(CurrentScene.Scope(scene, [place.At("lib")]), index, new())).References),
    "reading the scene alone", () => Look.Read(scene, place.At("lib")));

var images = Directory.GetFiles(place.At("lib"), "*.png", SearchOption.AllDirectories)[..2000];
Measure.Compare(
    $"probing {images.Length:N0} image headers", () => Array.ForEach(images, i => ImageProbe.File(i)),
    "iinfo over the same files", () => Tool.Run("iinfo", images));

var big = place.Put("big.bin", RandomNumberGenerator.GetBytes(256 << 20));
var facts = new FileFacts();
Measure.Compare(
    "hashing 256 MiB", () => new FileFacts().Hash(big, FileFacts.Stamp(big)!.Value),
    "sha256sum", () => Tool.Run("sha256sum", [big]));

Measure.Compare(
    "muster from the command line, start to end, of a scene of 2 references",
    () => Tool.RootCall("muster", place.Put("small/s.gltf", Look.Gltf("a.png", "b.png"))),
    "dotnet --version", () => Tool.Run("dotnet", ["--version"]));

ReadingScenes.Run(place);
