using System.Text.Json.Nodes;
using RootCall.Core.Files;
using RootCall.Core.Formats.Json;
using RootCall.Core.Imaging;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Gltf;

/// <summary>
/// Takes images out of a glTF file and puts them in. In a GLB the bytes leave the binary chunk too; the buffer view they
/// had stays, pointing at one byte, so that no other index moves.
/// </summary>
internal sealed class GltfCarrier(JsonTree root, GlbContainer? glb)
{
    private readonly List<(long Start, long Length)> cuts = [];
    private readonly List<byte[]> appended = [];
    private readonly HashSet<int> emptied = [];
    private long binLength = glb is null ? 0 : (long)(root["buffers"][0]["byteLength"].Number ?? glb.BinLength);

    /// <summary>Edits of the binary chunk; its length changes by what they add and take.</summary>
    public List<ByteEdit> Bin { get; } = [];

    /// <summary>Index of the image a carried reference stands for, or -1.</summary>
    public int FindCarried(Scene scene, ReferenceKey key)
    {
        var carried = scene.References.FirstOrDefault(r => r.Key == key)?.Carried;
        if (carried is null) return -1;
        return root["images"].Items.ToList().FindIndex(i => carried.DataUri is { } site
            ? site.Start - (glb?.JsonStart ?? 0) == i["uri"].Start && i["uri"].Exists
            : i["bufferView"].Index is { } v && StartOf(root["bufferViews"][v]) + (glb?.BinStart ?? 0) == carried.Start);
    }

    public void Extract(JsonPatch patch, int image, string written)
    {
        var entry = root["images"][image];
        var spot = new JsonSpot(entry, null);
        patch.Set(spot, "uri", GltfUri.Encode(written));
        patch.Remove(spot, "mimeType");
        if (entry["bufferView"].Index is not { } view) return;
        patch.Remove(spot, "bufferView");
        var shared = root["images"].Items.Where((_, i) => i != image).Any(i => i["bufferView"].Index == view);
        if (glb is null || shared || root["bufferViews"][view]["buffer"].Index != 0) return;
        cuts.Add((StartOf(root["bufferViews"][view]), (long)(root["bufferViews"][view]["byteLength"].Number ?? 0)));
        emptied.Add(view);
    }

    public void Carry(JsonPatch patch, int image, string file)
    {
        var bytes = File.ReadAllBytes(file);
        var mime = ImageProbe.File(file).Facts?.Format switch { ImageFormat.Jpeg => "image/jpeg", ImageFormat.Png => "image/png", ImageFormat.WebP => "image/webp", ImageFormat.Ktx2 => "image/ktx2", _ => null }
            ?? throw new CannotUseException($"“{Path.GetFileName(file)}” is neither PNG nor JPEG; glTF carries no other image inside.");
        var spot = new JsonSpot(root["images"][image], null);
        if (glb is null)
        {
            patch.Set(spot, "uri", $"data:{mime};base64,{Convert.ToBase64String(bytes)}");
            return;
        }

        if (glb.BinStart < 0) throw new CannotUseException("This GLB has no binary chunk to carry an image in.");
        patch.Remove(spot, "uri");
        patch.Set(spot, "mimeType", mime);
        var view = new JsonObject { ["buffer"] = 0, ["byteOffset"] = Aligned(binLength) + appended.Sum(a => (long)a.Length), ["byteLength"] = bytes.Length };
        patch.Set(spot, "bufferView", patch.Append(patch.Child(new(root, null), "bufferViews", array: true), view));
        Array.Resize(ref bytes, (int)Aligned(bytes.Length));
        appended.Add(bytes);
    }

    /// <summary>Moves what lies behind the cuts, and tells the buffer its new length.</summary>
    public void Finish(JsonPatch patch)
    {
        if (glb is null || (cuts.Count == 0 && appended.Count == 0)) return;
        if (cuts.Count > 0 && appended.Count > 0) throw new CannotUseException("Images are extracted and carried inside in one entry; do one after the other.");
        foreach (var (start, length) in Whole(cuts))
            if (length > 0) Bin.Add(new(glb.BinStart + start, (int)length, []));
        var whole = Whole(cuts).ToList();
        foreach (var (view, index) in root["bufferViews"].Items.Select((v, i) => (v, i)))
        {
            if (view["buffer"].Index != 0) continue;
            var start = StartOf(view);
            var moved = whole.Where(c => c.Start < start).Sum(c => c.Length);
            if (emptied.Contains(index))
            {
                patch.Set(new(view, null), "byteOffset", 0);
                patch.Set(new(view, null), "byteLength", 1);
            }
            else if (moved > 0)
            {
                patch.Set(new(view, null), "byteOffset", start - moved);
            }
        }

        var added = appended.Sum(a => (long)a.Length);
        if (added > 0)
        {
            var padding = Aligned(binLength) - binLength;
            Bin.Add(new(glb.BinStart + binLength, (int)Math.Min(padding, glb.BinLength - binLength), [.. new byte[padding], .. appended.SelectMany(a => a)]));
        }

        binLength = (added > 0 ? Aligned(binLength) : binLength) + added - whole.Sum(c => c.Length);
        patch.Set(new(root["buffers"][0], null), "byteLength", binLength);
    }

    /// <summary>Only whole words are cut, so that what lies behind keeps its alignment; the few bytes left are padding.</summary>
    private IEnumerable<(long Start, long Length)> Whole(IEnumerable<(long Start, long Length)> ranges)
    {
        var others = root["bufferViews"].Items.Where((v, i) => !emptied.Contains(i) && v["buffer"].Index == 0).Select(v => (Start: StartOf(v), End: StartOf(v) + (long)(v["byteLength"].Number ?? 0))).ToList();
        foreach (var (start, length) in ranges.Distinct().OrderBy(r => r.Start))
        {
            // Bytes that another view reads too stay.
            if (others.Any(o => o.Start < start + length && o.End > start)) continue;
            // The padding behind goes along when nothing reads it.
            var next = others.Where(o => o.Start >= start + length).Select(o => o.Start).DefaultIfEmpty(binLength).Min();
            var end = Math.Min(next, Aligned(start + length));
            yield return (start, (end - start) / 4 * 4);
        }
    }

    private static long StartOf(JsonTree view) => (long)(view["byteOffset"].Number ?? 0);

    private static long Aligned(long length) => (length + 3) / 4 * 4;
}
