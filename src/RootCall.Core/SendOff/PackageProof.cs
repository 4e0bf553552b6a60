using System.Collections.Immutable;
using System.Security.Cryptography;
using RootCall.Core.Files;
using RootCall.Core.Formats;
using RootCall.Core.Muster;

namespace RootCall.Core.SendOff;

/// <summary>The outcome of opening a package alone.</summary>
/// <param name="Resolved">References that answer inside the package.</param>
/// <param name="Unresolved">Those that do not, with their state there.</param>
/// <param name="BrokenFiles">Payload files that are missing or whose SHA-256 differs from the manifest.</param>
public sealed record Proof(int Resolved, ImmutableArray<MusteredReference> Unresolved, ImmutableArray<string> BrokenFiles)
{
    /// <summary>The scene before it was packed and from the package; null when nobody asked for it to be drawn.</summary>
    public ProofFrames? Frames { get; init; }

    public bool Holds => Unresolved.IsEmpty && BrokenFiles.IsEmpty;
}

/// <summary>Opens a package in an empty place with no other root and musters what is in it.</summary>
public static class PackageProof
{
    /// <exception cref="CannotUseException">There is no bag, or no scene in it.</exception>
    /// <param name="under">Where a zip is opened; null for the system's place for temporary files.</param>
    /// <param name="drawn">Draws what is in it, beside the frame from before.</param>
    public static Proof Prove(
        string package,
        Bounds bounds,
        string? under = null,
        (ProofPainter Painter, ProofFrames Before)? drawn = null,
        CancellationToken stop = default
    )
    {
        if (Directory.Exists(package))
            return ProveFolder(package, bounds, drawn, stop);
        using var empty = Folders.Temporary(under);
        ZipIntake.Unpack(package, empty.Path, bounds, stop: stop);
        return ProveFolder(Directory.EnumerateDirectories(empty.Path).Single(), bounds, drawn, stop);
    }

    private static Proof ProveFolder(string bag, Bounds bounds, (ProofPainter Painter, ProofFrames Before)? drawn, CancellationToken stop)
    {
        var manifest = Path.Combine(bag, BagIt.Manifest);
        if (!File.Exists(manifest))
            throw new CannotUseException($"“{bag}” is no package: it has no {BagIt.Manifest}.");
        var broken = BagIt
            .Read(File.ReadAllText(manifest))
            .Where(f => !Matches(Path.Combine(bag, f.Name), f.Sha256))
            .Select(f => f.Name)
            .ToImmutableArray();
        var payload = Path.Combine(bag, "data");
        var info = Path.Combine(bag, "bag-info.txt");
        var named = File.Exists(info) ? BagIt.SceneIn(File.ReadAllText(info)) : null;
        var scene = named is null ? SceneFinder.In(payload) : Path.Combine(bag, named);
        var scope = new RootScope([payload]);
        var report = CurrentScene.Muster(scene, new(scope, RootIndex.Build(scope, stop: stop), new()) { Stop = stop }, bounds);
        return new(report.Answering, [.. report.References.Where(r => !r.State.Answers())], broken)
        {
            Frames = drawn?.Painter.After(drawn.Value.Before, new(report, report.Scene, new(scope, bounds, Stop: stop)), stop),
        };
    }

    private static bool Matches(string path, string sha256)
    {
        if (!File.Exists(path))
            return false;
        using var stream = File.OpenRead(path);
        return Convert.ToHexStringLower(SHA256.HashData(stream)) == sha256;
    }
}
