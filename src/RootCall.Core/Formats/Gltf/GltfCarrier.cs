using System.Text.Json.Nodes;
using RootCall.Core.Files;
using RootCall.Core.Formats.Json;
using RootCall.Core.Imaging;
using RootCall.Core.Imaging.Codecs;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Gltf;

/// <summary>
/// Takes images out of a glTF file and puts them in. In a GLB the bytes leave the binary chunk too; the buffer view they
/// had stays, pointing at one byte, so that no other index moves.
/// </summary>
internal sealed class GltfCarrier(JsonTree root, GlbContainer? glb)
{
    private readonly List<(long Start, long Length)> cuts = [];
    private readonly List<(JsonObject View, byte[] Bytes)> added = [];
    private readonly HashSet<int> emptied = [];
    private readonly HashSet<int> extracted = [];
    private readonly long binLength = glb is null ? 0 : (long)(root["buffers"][0]["byteLength"].Number ?? glb.BinLength);

    /// <summary>Edits of the binary chunk; its length changes by what they add and take.</summary>
    public List<ByteEdit> Bin { get; } = [];

    /// <summary>The reference that each entry of <c>images</c> calls for, or null for an entry that calls for nothing.</summary>
    public IReadOnlyList<ReferenceKey?> Keys(Scene scene)
    {
        var carried = scene.References.Where(r => r.Carried is not null).ToList();
        var called = scene
            .References.Where(r => r.Kind == ReferenceKind.Image && r.Carried is null)
            .DistinctBy(r => r.Written)
            .ToDictionary(r => r.Written, r => r.Key, StringComparer.Ordinal);
        return [.. root["images"].Items.Select(KeyOf)];

        ReferenceKey? KeyOf(JsonTree image)
        {
            if (image["uri"].Text is { } uri && !GltfUri.IsData(uri))
                return called.TryGetValue(GltfUri.Decode(uri), out var key) ? key : null;
            return carried.Find(r => Holds(image, r.Carried!))?.Key;
        }
    }

    private bool Holds(JsonTree image, CarriedData carried) =>
        carried.DataUri is { } site
            ? image["uri"].Exists && site.Start - (glb?.JsonStart ?? 0) == image["uri"].Start
            : image["bufferView"].Index is { } v
                && StartOf(root["bufferViews"][v]) + (carried.File.Length == 0 ? 0 : glb?.BinStart ?? 0) == carried.Start;

    public void Extract(JsonPatch patch, int image, string written)
    {
        var entry = root["images"][image];
        var spot = new JsonSpot(entry, null);
        extracted.Add(image);
        patch.Set(spot, "uri", GltfUri.Encode(written));
        patch.Remove(spot, "mimeType");
        if (entry["bufferView"].Index is not { } view)
            return;
        patch.Remove(spot, "bufferView");
        if (glb is null || root["bufferViews"][view]["buffer"].Index != 0 || !emptied.Add(view))
            return;
        cuts.Add((StartOf(root["bufferViews"][view]), (long)(root["bufferViews"][view]["byteLength"].Number ?? 0)));
    }

    /// <param name="spot">The entry of <c>images</c>.</param>
    public void Carry(JsonPatch patch, JsonSpot spot, string file)
    {
        var bytes = RegularFile.Bytes(file, Bounds.Default.TextBytes);
        var mime = MimeOf(file) ?? throw new CannotUseException(NotCarried(file));
        if (glb is not { BinStart: >= 0 })
        {
            patch.Set(spot, "uri", $"data:{mime};base64,{Convert.ToBase64String(bytes)}");
            return;
        }

        patch.Remove(spot, "uri");
        patch.Set(spot, "mimeType", mime);
        var view = new JsonObject
        {
            ["buffer"] = 0,
            ["byteOffset"] = 0,
            ["byteLength"] = bytes.Length,
        };
        patch.Set(spot, "bufferView", patch.Append(patch.Child(new(root, null), "bufferViews", array: true), view));
        Array.Resize(ref bytes, (int)Aligned(bytes.Length));
        added.Add((view, bytes));
    }

    /// <summary>Null for an image that glTF does not carry inside (glTF 2.0, 5.16.3, and the extensions that add to it).</summary>
    public static string? MimeOf(string file) =>
        ImageProbe.File(file).Facts is { } facts && ImageCodecs.Of(facts.Format) is { InGltf: not GltfCarriage.None } codec
            ? codec.MediaType
            : null;

    public static string NotCarried(string file) =>
        $"“{Path.GetFileName(file)}” is neither PNG nor JPEG; glTF carries no other image inside.";

    /// <summary>Moves what lies behind the cuts, puts what is new at the end, and tells the buffer its new length.</summary>
    public void Finish(JsonPatch patch)
    {
        if (glb is null || (cuts.Count == 0 && added.Count == 0))
            return;
        // A view that an image still reads is not emptied.
        var whole = Whole(cuts).ToList();
        foreach (var (start, length) in whole)
            if (length > 0)
                Bin.Add(new(glb.BinStart + start, (int)length, []));
        foreach (var (view, index) in root["bufferViews"].Items.Select((v, i) => (v, i)))
        {
            if (view["buffer"].Index != 0)
                continue;
            var start = StartOf(view);
            var moved = whole.Where(c => c.Start < start).Sum(c => c.Length);
            if (emptied.Contains(index) && !IsRead(index))
            {
                patch.Set(new(view, null), "byteOffset", 0);
                patch.Set(new(view, null), "byteLength", 1);
            }
            else if (moved > 0)
            {
                patch.Set(new(view, null), "byteOffset", start - moved);
            }
        }

        var left = binLength - whole.Sum(c => c.Length);
        if (added.Count > 0)
        {
            var padding = Aligned(left) - left;
            Bin.Add(
                new(
                    glb.BinStart + binLength,
                    (int)Math.Min(Aligned(binLength) - binLength, glb.BinLength - binLength),
                    [.. new byte[padding], .. added.SelectMany(a => a.Bytes)]
                )
            );
            left += padding;
            foreach (var (view, bytes) in added)
            {
                view["byteOffset"] = left;
                left += bytes.Length;
            }
        }

        patch.Set(new(root["buffers"][0], null), "byteLength", left);
    }

    private bool IsRead(int view) => root["images"].Items.Where((_, i) => !extracted.Contains(i)).Any(i => i["bufferView"].Index == view);

    /// <summary>Only whole words are cut, so that what lies behind keeps its alignment; the few bytes left are padding.</summary>
    private IEnumerable<(long Start, long Length)> Whole(IEnumerable<(long Start, long Length)> ranges)
    {
        var others = root["bufferViews"]
            .Items.Where((v, i) => (!emptied.Contains(i) || IsRead(i)) && v["buffer"].Index == 0)
            .Select(v => (Start: StartOf(v), End: StartOf(v) + (long)(v["byteLength"].Number ?? 0)))
            .ToList();
        foreach (var (start, length) in ranges.Distinct().OrderBy(r => r.Start))
        {
            // Bytes that another view reads too stay.
            if (others.Any(o => o.Start < start + length && o.End > start))
                continue;
            // The padding behind goes along when nothing reads it.
            var next = others.Where(o => o.Start >= start + length).Select(o => o.Start).DefaultIfEmpty(binLength).Min();
            var end = Math.Min(next, Aligned(start + length));
            yield return (start, (end - start) / 4 * 4);
        }
    }

    private static long StartOf(JsonTree view) => (long)(view["byteOffset"].Number ?? 0);

    private static long Aligned(long length) => (length + 3) / 4 * 4;
}
