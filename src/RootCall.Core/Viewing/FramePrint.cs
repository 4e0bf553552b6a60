using System.Globalization;
using System.IO.Hashing;
using System.Text;
using RootCall.Core.Muster;
using RootCall.Core.Scenes;

namespace RootCall.Core.Viewing;

/// <summary>
/// Tells whether a frame still shows the scene: a hash of all that it is made of. Of the files the scene itself is made of, their state
/// counts; of images, what a swatch of each material is made of.
/// </summary>
public static class FramePrint
{
    private const int Version = 1;

    public static string Of(MusterReport report, FrameLighting light, string? camera, string? colours)
    {
        var hash = new XxHash128();
        void Add(string text) => hash.Append(Encoding.UTF8.GetBytes(text + "\n"));
        Add($"{Version} {light} {camera} {colours}");
        foreach (var file in report.Scene.Files.Select(f => f.Path).Concat(Called(report, light)))
            Add(FileFacts.Stamp(file) is { } stamp ? $"{file} {stamp.Bytes} {stamp.ModifiedUtc.Ticks}" : file);
        foreach (var part in report.Scene.Meshes.SelectMany(m => m.Parts))
            Add($"{part.MaterialId} {part.Material}");
        var references = new ReferencesByKey(report);
        foreach (var material in report.Scene.Materials)
        {
            Add($"{material.Id} {material.Name}");
            hash.Append(SwatchOrder.Of(material, references, light.OfSwatches(), 0).Write());
        }

        return hash.GetCurrentHashAsUInt128().ToString("x32", CultureInfo.InvariantCulture);
    }

    /// <summary>Files that geometry lies in, and those of lights where the scene's own are drawn by.</summary>
    private static IEnumerable<string> Called(MusterReport report, FrameLighting light)
    {
        var images = light == FrameLighting.Scene ? report.Scene.Lamps.Select(l => l.Image).OfType<ReferenceKey>().ToHashSet() : [];
        return report
            .References.Where(r => r.Reference.Kind == ReferenceKind.Buffer || images.Contains(r.Reference.Key))
            .Select(r => r.Resolved)
            .OfType<string>();
    }
}
