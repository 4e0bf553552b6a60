using System.Text.Json.Nodes;
using RootCall.Core.Formats.Json;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Gltf;

/// <summary>Writes the inputs of one material that differ, each into its own field.</summary>
internal sealed class GltfMaterialWriter(JsonSpot material, ShaderGraph before, ShaderGraph now, JsonPatch patch, GltfTextures textures)
{
    private const string Transform = "KHR_texture_transform";
    private readonly List<FixedInput> inputs = [.. FixedGraph.Read(now)];
    private readonly string model = now.SurfaceNode?.Type ?? GltfInputs.MetallicRoughness;

    public void Write()
    {
        var changes = FixedGraph.Changes(before, now).ToList();
        foreach (var (old, input) in changes.Where(c => (c.Now ?? c.Before)!.Name is "alphaMode" or "doubleSided"))
        {
            if (input?.Value?.Text is not { } text)
                patch.Remove(material, old!.Name);
            else
                patch.Set(material, input.Name, input.Name == "doubleSided" ? JsonValue.Create(text == "true") : JsonValue.Create(text)!);
        }

        if (changes.Exists(c => c.Now is { Name: "unlit", Value.Text: "true" }))
        {
            textures.Use("KHR_materials_unlit");
            patch.Child(patch.Child(material, "extensions"), "KHR_materials_unlit");
        }

        var fields = changes
            .Select(c => (c.Before, c.Now, Field: GltfInputs.Of(model).FirstOrDefault(i => i.Name == (c.Now ?? c.Before)!.Name)))
            .Where(c => c.Field is not null)
            .ToList();
        foreach (
            var field in fields
                .Where(c => !Equals(c.Before?.Value, c.Now?.Value) && c.Field!.Factor is not null)
                .Select(c => c.Field!)
                .DistinctBy(f => (f.Holder, f.Factor))
        )
            Factor(field);
        foreach (
            var (old, input, field) in fields
                .Where(c => c.Field!.Texture is not null && !(c.Before?.Image?.SameAs(c.Now?.Image) ?? c.Now?.Image is null))
                .DistinctBy(c => (c.Field!.Holder, c.Field.Texture))
        )
        {
            if (input?.Image is { } image)
                Texture(field!, old?.Image, image);
            else if (Holder(field!, make: false) is { } holder)
                patch.Remove(holder, field!.Texture!);
        }
    }

    private void Factor(GltfInput field)
    {
        var sharing = GltfInputs
            .Of(model)
            .Where(i => i.Holder == field.Holder && i.Factor == field.Factor)
            .OrderBy(i => i.FactorOffset)
            .Select(i => (Input: i, Said: inputs.Find(x => x.Name == i.Name)?.Value))
            .ToList();
        if (sharing.TrueForAll(s => s.Said is null))
        {
            if (Holder(field, make: false) is { } holder)
                patch.Remove(holder, field.Factor!);
            return;
        }

        double[] whole = [.. sharing.SelectMany(s => s.Said?.Numbers ?? s.Input.Default)];
        patch.Set(
            Holder(field, make: true)!.Value,
            field.Factor!,
            field.FactorLength == 1 ? JsonValue.Create(whole[0]) : new JsonArray([.. whole.Select(n => JsonValue.Create(n))])
        );
    }

    private JsonSpot? Holder(GltfInput field, bool make)
    {
        if (field.Holder.Length == 0)
            return material;
        if (make && field.IsExtension)
            textures.Use(field.Holder);
        var parent = field.IsExtension ? Inner(material, "extensions", make) : material;
        return parent is { } p ? Inner(p, field.Holder, make) : null;
    }

    private JsonSpot? Inner(JsonSpot spot, string name, bool make) =>
        make || spot.Existing?[name].Exists == true || (spot.Added as JsonObject)?.ContainsKey(name) == true
            ? patch.Child(spot, name)
            : null;

    private void Texture(GltfInput field, ImageUse? old, ImageUse image)
    {
        var info = patch.Child(Holder(field, make: true)!.Value, field.Texture!);
        var index = info.Existing?["index"].Index ?? Added(info, "index");
        patch.Set(info, "index", textures.Of(image, index));
        var set = GltfWriter.SetOf(image);
        var transform = info.Existing?["extensions"][Transform];
        // A set written in the transform holds before the one beside it.
        if (transform?["texCoord"].Exists == true)
            patch.Set(new(transform, null), "texCoord", set);
        if (set != (info.Existing?["texCoord"].Index ?? Added(info, "texCoord") ?? 0))
            patch.Set(info, "texCoord", set);
        if (field.Strength is { } strength && !(old?.Scale.SequenceEqual(image.Scale) ?? image.Scale.IsEmpty))
        {
            if (image.Scale is [var scale, ..])
                patch.Set(info, strength, JsonValue.Create(scale));
            else
                patch.Remove(info, strength);
        }

        if (image.Transform != (old?.Transform ?? UvTransform.Identity))
            Place(info, old?.Transform ?? UvTransform.Identity, image.Transform);
    }

    private static int? Added(JsonSpot spot, string name) =>
        (spot.Added as JsonObject)?[name]?.GetValue<double>() is { } number ? (int)number : null;

    /// <summary>Only what differs is written, and what says nothing is taken out.</summary>
    private void Place(JsonSpot info, UvTransform old, UvTransform t)
    {
        var extensions = Inner(info, "extensions", !t.IsIdentity);
        if (extensions is not { } outer || Inner(outer, Transform, !t.IsIdentity) is not { } spot)
            return;
        if (t.IsIdentity && spot.Existing?["texCoord"].Exists != true)
        {
            if (outer.Existing is { Members.Count: 1 })
                patch.Remove(info, "extensions");
            else
                patch.Remove(outer, Transform);
            return;
        }

        textures.Use(Transform);
        Part("offset", (old.OffsetU, old.OffsetV) != (t.OffsetU, t.OffsetV), t is { OffsetU: 0, OffsetV: 0 }, () =>
            new JsonArray(t.OffsetU, t.OffsetV)
        );
        Part("rotation", old.Rotation != t.Rotation, t.Rotation == 0, () => JsonValue.Create(t.Rotation * Math.PI / 180));
        Part("scale", (old.ScaleU, old.ScaleV) != (t.ScaleU, t.ScaleV), t is { ScaleU: 1, ScaleV: 1 }, () =>
            new JsonArray(t.ScaleU, t.ScaleV)
        );

        void Part(string name, bool differs, bool standard, Func<JsonNode> value)
        {
            if (standard)
                patch.Remove(spot, name);
            else if (differs)
                patch.Set(spot, name, value());
        }
    }
}
