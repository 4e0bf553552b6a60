using System.Xml.Linq;
using RootCall.Core.Files;
using RootCall.Core.Formats.Gltf;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Formats.Xml;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Collada;

/// <summary>Writes what differs between two states of a scene into its COLLADA document.</summary>
internal sealed class ColladaWriter(Scene before, Scene now, ColladaDocument document)
{
    private readonly XmlPatch patch = new(document.Bytes.ToArray(), document.Root);
    private readonly Dictionary<string, string> images = [];
    private XElement? library;
    private readonly HashSet<string> taken = new(StringComparer.Ordinal);

    public IEnumerable<ByteEdit> Write()
    {
        var done = new HashSet<XmlTree>();
        for (var i = 0; i < now.Materials.Length; i++)
        {
            if (ReferenceEquals(now.Materials[i], before.Materials[i]))
                continue;
            var effect = document.Find(MaterialOf(before.Materials[i].Id).Child("instance_effect")?["url"]);
            // Materials that share an effect share its inputs.
            if (ColladaMaterials.ShaderOf(effect) is not { } shader || !done.Add(shader))
                continue;
            foreach (var (old, input) in FixedGraph.Changes(before.Materials[i].Graph, now.Materials[i].Graph))
                Input(effect!, shader, old, input);
        }

        foreach (
            var (old, mesh) in before.Meshes.Zip(now.Meshes).Where(m => !ReferenceEquals(m.First, m.Second)).DistinctBy(m => m.First.Id)
        )
            Assign(old, mesh);
        return patch.Build();
    }

    private XmlTree MaterialOf(string name) =>
        document.Library("library_materials", "material").FirstOrDefault(m => m["id"] == name)
        ?? document.Library("library_materials", "material").FirstOrDefault(m => ColladaMaterials.NameOf(m) == name)
        ?? throw new CannotUseException($"The document has no material {name}.");

    private void Input(XmlTree effect, XmlTree shader, FixedInput? old, FixedInput? input)
    {
        var name = (input ?? old)!.Name;
        if (name == "opaque")
        {
            if (shader.Child("transparent") is not { } transparent)
                return;
            if (input?.Value?.Text is { } opaque)
                patch.Set(transparent, "opaque", opaque);
            else if (FixedGraph.Read(Now(effect)).Any(i => i.Name == "transparent"))
                patch.Drop(transparent, "opaque");
            return;
        }

        var there = shader.Child(name) ?? (name == "bump" ? effect.Descendants().FirstOrDefault(d => d.Name == "bump") : null);
        if (input is null)
        {
            if (there is not null)
                patch.Cut(there);
            return;
        }

        var held = there?.Children.FirstOrDefault(c => c.Name is "color" or "float" or "texture" or "param");
        if (input.Image is { } image && old?.Image is { } was && held is { Name: "texture" })
        {
            // The element stays: what programs say of it in extra elements stays too.
            if (image.Reference != was.Reference || image.WrapU != was.WrapU || image.WrapV != was.WrapV)
                patch.Set(held, "texture", Sampler(effect, name, image));
            if (image.UvSet != was.UvSet)
                patch.Set(held, "texcoord", image.UvSet);
            return;
        }

        var content =
            input.Image is { } use
                ? new XElement("texture", new XAttribute("texture", Sampler(effect, name, use)), new XAttribute("texcoord", use.UvSet))
            : input.Value!.Numbers.Length == 1 ? new XElement("float", NumberText.Of(input.Value.Numbers[0]))
            : new XElement("color", $"{NumberText.Join(" ", input.Value.Numbers)} {Alpha(held)}");
        if (held is not null)
            patch.Replace(held, content);
        else if (there is not null)
            patch.Add(there, content);
        else
        {
            var element = new XElement(name, content);
            if (name == "transparent" && FixedGraph.Read(Now(effect)).FirstOrDefault(i => i.Name == "opaque")?.Value?.Text is { } opaque)
                element.SetAttributeValue("opaque", opaque);
            patch.Add(shader, element);
        }
    }

    private ShaderGraph Now(XmlTree effect) =>
        now.Materials.First(m => document.Find(MaterialOf(m.Id).Child("instance_effect")?["url"]) == effect).Graph;

    /// <summary>The fourth number of a colour stays as it is.</summary>
    private string Alpha(XmlTree? held) =>
        held is { Name: "color" }
        && document.Text(held).Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries) is [_, _, _, var alpha, ..]
            ? alpha
            : "1";

    /// <summary>The name of a sampler that reads the image so; one is added before the technique that uses it.</summary>
    private string Sampler(XmlTree effect, string input, ImageUse image)
    {
        var id = ImageId(image.Reference);
        var technique = effect.Child("profile_COMMON")!.Child("technique")!;
        var name = Free($"{input}-{id}-sampler", n => effect.Descendants().Any(d => d["sid"] == n));
        patch.Before(
            technique,
            new(
                "newparam",
                new XAttribute("sid", name + "-surface"),
                new XElement("surface", new XAttribute("type", "2D"), new XElement("init_from", id))
            )
        );
        var sampler = new XElement("sampler2D", new XElement("source", name + "-surface"));
        if (image.WrapU != WrapMode.Repeat)
            sampler.Add(new XElement("wrap_s", Wrap(image.WrapU)));
        if (image.WrapV != WrapMode.Repeat)
            sampler.Add(new XElement("wrap_t", Wrap(image.WrapV)));
        patch.Before(technique, new("newparam", new XAttribute("sid", name), sampler));
        return name;
    }

    private string ImageId(ReferenceKey key)
    {
        if (images.TryGetValue(key.Written, out var made))
            return made;
        var known = document
            .Library("library_images", "image")
            .FirstOrDefault(i => GltfUri.Decode(document.Text(i.Child("init_from")?.Child("ref") ?? i.Child("init_from"))) == key.Written);
        if (known?["id"] is { } id)
            return images[key.Written] = id;
        var stem = new string([
            .. Path.GetFileNameWithoutExtension(key.Written).Select(c => char.IsAsciiLetterOrDigit(c) || c is '_' or '-' ? c : '_'),
        ]);
        if (stem.Length == 0 || !(char.IsAsciiLetter(stem[0]) || stem[0] == '_'))
            stem = "image_" + stem;
        var fresh = Free(stem, n => document.Find(n) is not null);
        var image = new XElement("image", new XAttribute("id", fresh), new XElement("init_from", GltfUri.Encode(key.Written)));
        if (document.Root.Child("library_images") is { } there)
            patch.Add(there, image);
        else if (library is not null)
            library.Add(image);
        else
            patch.Before(document.Root.Child("library_effects")!, library = new("library_images", image));
        return images[key.Written] = fresh;
    }

    private string Free(string wanted, Func<string, bool> isThere)
    {
        for (var n = 1; ; n++)
        {
            var name = n == 1 ? wanted : $"{wanted}_{n}";
            if (!isThere(name) && taken.Add(name))
                return name;
        }
    }

    /// <summary>COLLADA 1.4.1, fx_sampler_wrap_common.</summary>
    private static string Wrap(WrapMode mode) =>
        mode switch
        {
            WrapMode.Mirror => "MIRROR",
            WrapMode.Clamp => "CLAMP",
            WrapMode.Black => "BORDER",
            _ => "WRAP",
        };

    private void Assign(Mesh old, Mesh mesh)
    {
        var bindings = document
            .Root.Descendants()
            .Where(d => d.Name is "instance_geometry" or "instance_controller" && d["url"]?.TrimStart('#') == mesh.Id)
            .SelectMany(i => i.Child("bind_material")?.Child("technique_common")?.All("instance_material") ?? [])
            .ToList();
        var done = 0;
        for (var p = 0; p < mesh.Parts.Length; p++)
        {
            var part = mesh.Parts[p];
            if (part.Material == old.Parts[p].Material)
                continue;
            foreach (var bound in bindings.Where(b => (part.Name.Length == 0 || b["symbol"] == part.Name) && b["target"] is not null))
            {
                patch.Set(bound, "target", "#" + (MaterialOf(part.Material)["id"] ?? part.Material));
                done++;
            }
        }

        if (done == 0)
            throw new CannotUseException($"Nothing binds a material to {mesh.Name}.");
    }
}
