using System.Text.Json.Nodes;
using RootCall.Core.Formats.Json;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Gltf;

/// <summary>The textures, samplers and images of a glTF file, those that are about to be added among them.</summary>
internal sealed class GltfTextures
{
    private const int Repeat = 10497;
    private readonly Scene before;
    private readonly Scene now;
    private readonly JsonTree root;
    private readonly JsonPatch patch;
    private readonly GltfCarrier carrier;
    private readonly HashSet<string> used;
    private readonly Dictionary<ReferenceKey, int> images = [];
    private readonly Dictionary<(int Image, int WrapU, int WrapV), int> made = [];
    private readonly Dictionary<(int Sampler, int WrapU, int WrapV), int> samplers = [];

    public GltfTextures(Scene before, Scene now, JsonTree root, JsonPatch patch, GltfCarrier carrier)
    {
        (this.before, this.now, this.root, this.patch, this.carrier) = (before, now, root, patch, carrier);
        used = [.. root["extensionsUsed"].Items.Select(i => i.Text ?? string.Empty)];
        var keys = carrier.Keys(before);
        foreach (var (key, i) in keys.Select((k, i) => (k, i)))
            if (key is { } known)
                images.TryAdd(known, i);
    }

    private JsonSpot Root => new(root, null);

    public void Use(string extension)
    {
        if (used.Add(extension))
            patch.Append(patch.Child(Root, "extensionsUsed", array: true), extension);
    }

    /// <summary>Takes images out and puts them in, as the references say.</summary>
    public void Images()
    {
        foreach (var reference in now.References.Where(r => r.Arrived is not null))
        {
            if (!images.TryGetValue(reference.Arrived!.Value, out var image))
                continue;
            var was = before.References.First(r => r.Key == reference.Arrived).Carried is not null;
            if (reference.Carried is null && was)
                carrier.Extract(patch, image, reference.Written);
            else if (reference.Carried is { } carried && !was)
                carrier.Carry(patch, new(root["images"][image], null), carried.File);
            else if (reference.Carried is null && reference.Written != reference.Arrived.Value.Written)
                patch.Set(new(root["images"][image], null), "uri", GltfUri.Encode(reference.Written));
        }
    }

    /// <summary>Index of a texture that reads the image with those wrap modes: the present one, any other, or a new one.</summary>
    public int Of(ImageUse image, int? present)
    {
        var source = Source(image.Reference);
        var (u, v) = (Wrap(image.WrapU), Wrap(image.WrapV));
        if (present is { } at && Reads(root["textures"][at], source, u, v))
            return at;
        for (var i = 0; i < root["textures"].Items.Count; i++)
            if (Reads(root["textures"][i], source, u, v))
                return i;
        if (made.TryGetValue((source, u, v), out var known))
            return known;
        var texture = new JsonObject { ["source"] = source };
        if (Sampler(present is { } p ? root["textures"][p]["sampler"].Index ?? -1 : -1, u, v) is { } sampler)
            texture["sampler"] = sampler;
        return made[(source, u, v)] = patch.Append(patch.Child(Root, "textures", array: true), texture);
    }

    private bool Reads(JsonTree texture, int source, int u, int v)
    {
        var image = texture["source"].Index
            ?? texture["extensions"]["KHR_texture_basisu"]["source"].Index
            ?? texture["extensions"]["EXT_texture_webp"]["source"].Index;
        return image == source && WrapOf(texture["sampler"].Index ?? -1) == (u, v);
    }

    private (int U, int V) WrapOf(int sampler) =>
        (root["samplers"][sampler]["wrapS"].Index ?? Repeat, root["samplers"][sampler]["wrapT"].Index ?? Repeat);

    /// <summary>A sampler with those wraps and the filters of the one there is; none where it would say nothing.</summary>
    private int? Sampler(int like, int u, int v)
    {
        var filters = root["samplers"][like];
        bool Same(JsonTree s) => s["magFilter"].Index == filters["magFilter"].Index && s["minFilter"].Index == filters["minFilter"].Index;
        if (like < 0 && (u, v) == (Repeat, Repeat))
            return null;
        for (var i = 0; i < root["samplers"].Items.Count; i++)
            if (WrapOf(i) == (u, v) && (like < 0 || Same(root["samplers"][i])))
                return i;
        if (samplers.TryGetValue((like, u, v), out var known))
            return known;
        var sampler = new JsonObject();
        foreach (var filter in new[] { "magFilter", "minFilter" })
            if (filters[filter].Index is { } number)
                sampler[filter] = number;
        if (u != Repeat)
            sampler["wrapS"] = u;
        if (v != Repeat)
            sampler["wrapT"] = v;
        if (sampler.Count == 0)
            return null;
        return samplers[(like, u, v)] = patch.Append(patch.Child(Root, "samplers", array: true), sampler);
    }

    private int Source(ReferenceKey key)
    {
        if (images.TryGetValue(key, out var image))
            return image;
        var reference = now.References.FirstOrDefault(r => r.Key == key);
        if (reference?.Arrived is { } arrived && images.TryGetValue(arrived, out image))
            return images[key] = image;
        var entry = new JsonObject();
        if (reference?.Carried is { } carried)
        {
            entry["name"] = reference.CarriedName;
            carrier.Carry(patch, new(null, entry), carried.File);
        }
        else
            entry["uri"] = GltfUri.Encode(key.Written);
        return images[key] = patch.Append(patch.Child(Root, "images", array: true), entry);
    }

    private static int Wrap(WrapMode mode) =>
        mode switch
        {
            WrapMode.Mirror => 33648,
            WrapMode.Clamp or WrapMode.Black => 33071,
            _ => Repeat,
        };
}
