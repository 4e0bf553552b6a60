using System.Collections.Immutable;
using System.Text;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Usd;

/// <summary>USD: text layers, crates and packages, composed.</summary>
public sealed class UsdFormat : ISceneFormat
{
    public ImmutableArray<string> Extensions { get; } = [".usda", ".usdc", ".usd", ".usdz"];

    public Scene Read(string path, ReadContext context) => new UsdSceneReader(path, context).Read();

    public ImmutableArray<ByteEdit> PathEdits(Scene scene, int file, IReadOnlyDictionary<ReferenceSite, string> paths)
    {
        var edits = ImmutableArray.CreateBuilder<ByteEdit>();
        using var stream = scene.Files[file].Open();
        foreach (var (site, path) in paths)
        {
            var anchored = path.StartsWith('.') || path.StartsWith('/') ? path : "./" + path;
            // A path that holds an at sign needs three of them around it (USD text syntax).
            var wide = anchored.Contains('@', StringComparison.Ordinal) && !IsWide(stream, site.Start);
            edits.Add(new(site.Start, site.Length, Encoding.UTF8.GetBytes(wide ? $"@@{anchored}@@" : anchored)));
        }

        return edits.DrainToImmutable();
    }

    public OwnChanges LookEdits(Scene scene, IReadOnlyList<LookEdit> edits) => new UsdLooks(scene).Make(edits);

    public Stream OpenCarried(CarriedData carried)
    {
        using var stream = File.OpenRead(carried.File);
        if (carried.Start + carried.Length > stream.Length) throw new CannotUseException($"The data at byte {carried.Start:N0} is cut off by the end of the archive.");
        var bytes = new byte[carried.Length];
        stream.Position = carried.Start;
        stream.ReadExactly(bytes);
        return new MemoryStream(bytes);
    }

    private static bool IsWide(FileStream stream, long start)
    {
        if (start < 3) return false;
        stream.Position = start - 3;
        Span<byte> before = stackalloc byte[3];
        return stream.ReadAtLeast(before, 3, throwOnEndOfStream: false) == 3 && before.SequenceEqual("@@@"u8);
    }
}
