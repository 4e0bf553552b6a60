using System.Collections.Immutable;
using System.Security.Cryptography;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Codecs;

namespace RootCall.Core.Muster;

/// <summary>An image to take out: the edit, the file it goes to, and what identifies its bytes.</summary>
public sealed record PlannedExtraction(int Number, ExtractImage Edit, string File, string Sha256, long Bytes);

/// <summary>
/// Takes images that a scene carries inside out into files beside it. Names never collide: another content of the same
/// name takes a suffix, the same content under any name is one file.
/// </summary>
public static class CarriedImages
{
    private const string Folder = "textures";

    /// <param name="numbers">References to take out; what is not carried is passed over.</param>
    /// <param name="folder">Absolute folder that stands for the scene's own when the paths are written.</param>
    /// <exception cref="CannotUseException">The data of one cannot be read.</exception>
    public static ImmutableArray<PlannedExtraction> Plan(MusterReport report, IEnumerable<int> numbers, string folder)
    {
        var wanted = numbers.ToHashSet();
        var plan = ImmutableArray.CreateBuilder<PlannedExtraction>();
        var taken = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
        foreach (var reference in report.References.Where(r => wanted.Contains(r.Number) && r.Reference.Carried is { File.Length: > 0 }))
        {
            using var stream = SceneFormats.Of(report.Scene.Path).OpenCarried(reference.Reference.Carried!);
            var bytes = stream.Length;
            var hash = Convert.ToHexStringLower(SHA256.HashData(stream));
            var written = plan.FirstOrDefault(p => p.Sha256 == hash)?.Edit.Written ?? Free(reference, hash, folder, taken);
            taken[written] = hash;
            plan.Add(
                new(
                    reference.Number,
                    new(reference.Reference.Key, Path.Combine(folder, written), written),
                    Path.Combine(folder, written),
                    hash,
                    bytes
                )
            );
        }

        return plan.ToImmutable();
    }

    /// <summary>The edits that take the images out, and those that call them from where they are laid.</summary>
    public static ImmutableArray<Edit> Edits(MusterReport report, ImmutableArray<PlannedExtraction> plan) =>
        [
            .. plan.Select(p => p.Edit),
            .. plan.DistinctBy(p => p.Edit.Written)
                .Select(p => new RelinkReference(ExtractImage.KeyIn(report.Scene, p.Edit.Written), null, p.File)),
        ];

    /// <summary>Writes the files of a plan; one that is there already with the same contents stays.</summary>
    public static void WriteFiles(MusterReport report, IEnumerable<PlannedExtraction> plan)
    {
        var byNumber = report.References.ToDictionary(r => r.Number);
        foreach (var planned in plan.DistinctBy(p => p.File))
        {
            if (System.IO.File.Exists(planned.File))
                continue;
            WholeOrNothing.File(planned.File, to =>
            {
                using var from = SceneFormats.Of(report.Scene.Path).OpenCarried(byNumber[planned.Number].Reference.Carried!);
                from.CopyTo(to);
            });
        }
    }

    private static string Free(MusteredReference reference, string hash, string folder, Dictionary<string, string> taken)
    {
        var name = PortableName.Make(WrittenPath.Parse(reference.Reference.Written).FileName);
        if (reference.Facts is { } facts && !name.EndsWith(Ending(facts.Format), StringComparison.OrdinalIgnoreCase))
            name = Path.ChangeExtension(name, null) + Ending(facts.Format);
        var stem = Path.GetFileNameWithoutExtension(name);
        for (var n = 0; ; n++)
        {
            var suffix = n < 26 ? ((char)('a' + n)).ToString() : n.ToString(System.Globalization.CultureInfo.InvariantCulture);
            var written = n == 0 ? $"{Folder}/{name}" : $"{Folder}/{stem}-{suffix}{Path.GetExtension(name)}";
            if (taken.ContainsKey(written))
                continue;
            var file = Path.Combine(folder, written);
            if (!System.IO.File.Exists(file))
                return written;
            using var there = System.IO.File.OpenRead(file);
            if (Convert.ToHexStringLower(SHA256.HashData(there)) == hash)
                return written;
        }
    }

    private static string Ending(ImageFormat format) => ImageCodecs.Of(format).Extensions[0];
}
