using System.Globalization;
using System.IO.Hashing;
using System.Text;
using RootCall.Core.Muster;
using RootCall.Core.Rendering.Swatches;

namespace RootCall.Core.Viewing;

/// <summary>
/// Tells whether a frame still shows the scene: a hash of all that it is made of. Of the files the scene itself is made of, their state
/// counts; of images, what a swatch of each material is made of.
/// </summary>
public static class FramePrint
{
    private const int Version = 1;

    public static string Of(MusterReport report, SwatchLight light, string? camera)
    {
        var hash = new XxHash128();
        void Add(string text) => hash.Append(Encoding.UTF8.GetBytes(text + "\n"));
        Add($"{Version} {light} {camera}");
        foreach (var file in report.Scene.Files.Select(f => f.Path).Concat(Buffers(report)))
            Add(FileFacts.Stamp(file) is { } stamp ? $"{file} {stamp.Bytes} {stamp.ModifiedUtc.Ticks}" : file);
        foreach (var part in report.Scene.Meshes.SelectMany(m => m.Parts))
            Add($"{part.MaterialId} {part.Material}");
        var references = new ReferencesByKey(report);
        foreach (var material in report.Scene.Materials)
        {
            Add($"{material.Id} {material.Name}");
            hash.Append(SwatchOrder.Of(material, references, light, 0).Write());
        }

        return hash.GetCurrentHashAsUInt128().ToString("x32", CultureInfo.InvariantCulture);
    }

    /// <summary>Files that geometry lies in.</summary>
    private static IEnumerable<string> Buffers(MusterReport report) =>
        report.References.Where(r => r.Reference.Kind == Scenes.ReferenceKind.Buffer).Select(r => r.Resolved).OfType<string>();
}
