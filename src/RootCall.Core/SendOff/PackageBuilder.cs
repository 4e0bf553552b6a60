using System.Collections.Immutable;
using System.Text;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;
using static System.FormattableString;

namespace RootCall.Core.SendOff;

/// <summary>What was built.</summary>
/// <param name="Written">Absolute path of the zip or folder.</param>
/// <param name="Files">Number of payload files.</param>
/// <param name="BytesAfter">Bytes of the payload.</param>
public sealed record BuiltPackage(string Written, int Files, long BytesBefore, long BytesAfter);

/// <summary>Builds a package from a plan: a bag (RFC 8493) in a folder, or in a zip when the name ends so.</summary>
public static class PackageBuilder
{
    /// <summary>Endings that say a file of another form: a folder of such a name would be taken for one.</summary>
    private static readonly ImmutableArray<string> OtherForms =
    [
        .. SceneFormats.All.SelectMany(f => f.Extensions),
        ".tar",
        ".gz",
        ".tgz",
        ".7z",
        ".rar",
        ".json",
    ];

    /// <param name="progress">Called with bytes done, bytes in all and the file in hand.</param>
    /// <exception cref="CannotUseException">Something of that name is already there, or the disk is full.</exception>
    public static BuiltPackage Build(
        PackagePlan plan,
        string output,
        DateTimeOffset at,
        Action<long, long, string>? progress = null,
        CancellationToken stop = default
    )
    {
        var target = Path.GetFullPath(output);
        var isZip = target.EndsWith(".zip", StringComparison.OrdinalIgnoreCase);
        if (!isZip && OtherForms.Contains(Path.GetExtension(target).ToLowerInvariant()))
            throw new CannotUseException($"A package is a folder or a .zip; “{Path.GetFileName(target)}” says neither. Nothing was built.");
        var filled = Directory.Exists(target) && (isZip || Directory.EnumerateFileSystemEntries(target).Any());
        if (File.Exists(target) || filled)
            throw new CannotUseException($"“{target}” is already there; nothing that exists is written over. Name another place.");
        try
        {
            BuiltPackage? built = null;
            if (isZip)
                WholeOrNothing.File(target, stream =>
                {
                    using var sink = new PackageSink.InZip(stream, Path.GetFileNameWithoutExtension(target));
                    built = Fill(sink, plan, target, at, progress, stop);
                });
            else
                WholeOrNothing.Folder(target, folder =>
                {
                    using var sink = new PackageSink.InFolder(folder);
                    built = Fill(sink, plan, target, at, progress, stop);
                });
            return built!;
        }
        catch (IOException e) when (IsDiskFull(e))
        {
            throw new CannotUseException(
                Invariant($"The disk that holds “{Path.GetDirectoryName(target)}” is full; the package needs {plan.BytesAfter:N0} ")
                    + $"bytes. Nothing was kept.",
                e
            );
        }
    }

    private static BuiltPackage Fill(
        PackageSink sink,
        PackagePlan plan,
        string target,
        DateTimeOffset at,
        Action<long, long, string>? progress,
        CancellationToken stop
    )
    {
        var scene = plan.Report.Scene;
        // Any absolute folder will do: only the relations between the files in it are written.
        var place = Path.Combine(Path.GetDirectoryName(target)!, BagIt.Payload.TrimEnd('/'));
        var names = plan.Files.SelectMany(f => f.References.Select(n => (n, f.Name))).ToDictionary(f => f.n, f => f.Name);
        var writer = new SceneWriter(
            scene,
            place,
            plan.Report.References.Where(r => names.ContainsKey(r.Number))
                .ToDictionary(r => r.Reference.Key, r => Path.Combine(place, Called(r, names[r.Number])))
        );

        var payload = new List<(string Name, string Sha256)>();
        var done = 0L;
        void Add(string name, Action<Stream> write)
        {
            stop.ThrowIfCancellationRequested();
            progress?.Invoke(done, plan.BytesAfter, name);
            var (hash, bytes) = sink.Add(BagIt.Payload + name, write);
            payload.Add((BagIt.Payload + name, hash));
            done += bytes;
        }

        for (var i = 0; i < scene.Files.Length; i++)
            Add(plan.OwnNames[i], stream => writer.Write(i, stream, stop));
        foreach (var file in plan.Files)
            Add(file.Name, stream =>
            {
                if (RegularFile.IsEmpty(file.Source))
                    return;
                using var source = RegularFile.Open(file.Source);
                SplicedCopy.Write(source, stream, [], stop);
            });

        var tags = new List<(string Name, string Sha256)>();
        void Tag(string name, string text) => tags.Add((name, sink.Add(name, s => s.Write(Encoding.UTF8.GetBytes(text))).Sha256));
        Tag("bagit.txt", BagIt.Declaration);
        Tag("bag-info.txt", BagIt.Info(done, payload.Count, BagIt.Payload + plan.OwnNames[0], at));
        Tag(BagIt.Manifest, BagIt.ManifestOf(payload));
        Tag("report.json", PackageReport.Json(plan, at));
        sink.Add(BagIt.TagManifest, s => s.Write(Encoding.UTF8.GetBytes(BagIt.ManifestOf(tags))));
        progress?.Invoke(done, plan.BytesAfter, string.Empty);
        return new(target, payload.Count, plan.BytesBefore, done);
    }

    private static string Called(MusteredReference reference, string name) =>
        reference.Tiles.IsEmpty
            ? name
            : Path.Combine(Path.GetDirectoryName(name)!, WrittenPath.Parse(reference.Reference.Written).FileName);

    // ENOSPC, and ERROR_DISK_FULL where the runtime maps it.
    private static bool IsDiskFull(IOException e) => (e.HResult & 0xFFFF) is 28 or 0x70;
}
