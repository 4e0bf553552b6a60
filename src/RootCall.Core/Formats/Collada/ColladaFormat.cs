using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats.Gltf;
using RootCall.Core.Formats.Xml;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Collada;

/// <summary>COLLADA 1.4.1.</summary>
public sealed class ColladaFormat : ISceneFormat
{
    public ImmutableArray<string> Extensions { get; } = [".dae"];

    public Scene Read(string path, ReadContext context) => new ColladaReader(path, context).Read();

    public ImmutableArray<ByteEdit> PathEdits(Scene scene, int file, IReadOnlyDictionary<ReferenceSite, string> paths) =>
        [.. paths.Select(p => new ByteEdit(p.Key.Start, p.Key.Length, Encoding.UTF8.GetBytes(XmlText.Encode(GltfUri.Encode(p.Value)))))];

    public Stream OpenCarried(CarriedData carried) => throw new CannotUseException("A COLLADA document that is read here carries no images inside.");

    public OwnChanges LookEdits(Scene scene, IReadOnlyList<LookEdit> edits)
    {
        var bytes = File.ReadAllBytes(scene.Files[0].Edited ?? scene.Path);
        var document = ColladaReader.Parse(bytes, Path.GetFileName(scene.Path), []);
        return OwnChanges.Of(edits.SelectMany(e => One(document, scene, e)).Select(e => (0, e)));
    }

    private static IEnumerable<ByteEdit> One(ColladaDocument document, Scene scene, LookEdit look) => look switch
    {
        SetValue value => Value(document, value),
        SetImage { To: null } image => [Replace(Input(document, image.Material, image.Input).Child("texture") ?? throw new CannotUseException($"{image.Input} of {image.Material} reads no image."), Plain(image.Input))],
        SetImage { To: { } to } image => Image(document, scene, image, to),
        AssignMaterial assign => Assign(document, scene, assign),
        _ => throw new CannotUseException($"COLLADA cannot say this: {look.Describe()}."),
    };

    private static XmlTree MaterialOf(ColladaDocument document, string name) =>
        document.Library("library_materials", "material").FirstOrDefault(m => ColladaMaterials.NameOf(m) == name || m["id"] == name) ?? throw new CannotUseException($"The document has no material {name}.");

    private static XmlTree Shader(ColladaDocument document, string material)
    {
        var effect = document.Find(MaterialOf(document, material).Child("instance_effect")?["url"]);
        return ColladaMaterials.ShaderOf(effect) is { SelfClosing: false } shader ? shader : throw new CannotUseException($"The effect of {material} has no common profile.");
    }

    private static XmlTree Input(ColladaDocument document, string material, string input) =>
        Shader(document, material).Child(input) ?? throw new CannotUseException($"{material} has no {input}.");

    private static IEnumerable<ByteEdit> Value(ColladaDocument document, SetValue edit)
    {
        if (!ColladaMaterials.IsInput(edit.Input) || edit.Input == "bump") throw new CannotUseException($"The common profile has no value {edit.Input}.");
        var shader = Shader(document, edit.Material);
        var numbers = edit.To?.Numbers ?? [];
        var text = numbers.Length switch
        {
            0 => string.Empty,
            1 => $"<float>{Number(numbers[0])}</float>",
            _ => $"<color>{string.Join(' ', numbers.Select(Number))}{(numbers.Length == 3 ? " 1" : string.Empty)}</color>",
        };
        if (shader.Child(edit.Input) is { } input)
        {
            if (text.Length == 0) return [new(input.Start, input.End - input.Start, [])];
            var held = input.Children.FirstOrDefault(c => c.Name is "color" or "float" or "texture" or "param");
            return [held is null ? new(input.ContentStart, input.ContentEnd - input.ContentStart, Encoding.UTF8.GetBytes(text)) : Replace(held, text)];
        }

        return text.Length == 0 ? [] : [new(shader.ContentEnd, 0, Encoding.UTF8.GetBytes($"<{edit.Input}>{text}</{edit.Input}>"))];
    }

    private static List<ByteEdit> Image(ColladaDocument document, Scene scene, SetImage edit, ImageUse to)
    {
        var before = edit.From?.Transform ?? UvTransform.Identity;
        if (to.Transform != before && !(to.Transform.IsIdentity && before.IsIdentity)) throw new CannotUseException("COLLADA's common profile has no UV transform.");
        var effect = document.Find(MaterialOf(document, edit.Material).Child("instance_effect")?["url"])!;
        var shader = Shader(document, edit.Material);
        var profile = effect.Child("profile_COMMON")!;
        var id = new string([.. Path.GetFileNameWithoutExtension(to.Reference.Written).Select(c => char.IsAsciiLetterOrDigit(c) || c is '_' or '-' ? c : '_')]);
        if (id.Length == 0 || !(char.IsAsciiLetter(id[0]) || id[0] == '_')) id = "image_" + id;
        for (var n = 2; document.Find(id) is not null; n++) id = $"{id}_{n}";
        var known = document.Library("library_images", "image").FirstOrDefault(i => GltfUri.Decode(document.Text(i.Child("init_from"))) == to.Reference.Written);
        var imageId = known?["id"] ?? id;
        var edits = new List<ByteEdit>();
        if (known is null)
        {
            var image = $"<image id=\"{id}\"><init_from>{XmlText.Encode(GltfUri.Encode(to.Reference.Written))}</init_from></image>";
            if (document.Root.Child("library_images") is { SelfClosing: false } library) edits.Add(new(library.ContentEnd, 0, Encoding.UTF8.GetBytes(image)));
            else edits.Add(new(document.Root.Child("library_effects")!.Start, 0, Encoding.UTF8.GetBytes($"<library_images>{image}</library_images>")));
        }

        var sampler = $"{edit.Input}-{imageId}-sampler";
        edits.Add(new(profile.ContentStart, 0, Encoding.UTF8.GetBytes(
            $"<newparam sid=\"{sampler}-surface\"><surface type=\"2D\"><init_from>{imageId}</init_from></surface></newparam><newparam sid=\"{sampler}\"><sampler2D><source>{sampler}-surface</source></sampler2D></newparam>")));
        var texture = $"<texture texture=\"{sampler}\" texcoord=\"{XmlText.Encode(to.UvSet.Length > 0 ? to.UvSet : scene.Meshes.SelectMany(m => m.UvSets).FirstOrDefault() ?? "TEXCOORD0")}\"/>";
        if (shader.Child(edit.Input) is { } input)
            edits.Add(input.Children.FirstOrDefault(c => c.Name is "color" or "float" or "texture" or "param") is { } held ? Replace(held, texture) : new(input.ContentStart, input.ContentEnd - input.ContentStart, Encoding.UTF8.GetBytes(texture)));
        else if (ColladaMaterials.IsInput(edit.Input) && edit.Input != "bump") edits.Add(new(shader.ContentEnd, 0, Encoding.UTF8.GetBytes($"<{edit.Input}>{texture}</{edit.Input}>")));
        else throw new CannotUseException($"The common profile has no input {edit.Input}.");
        return edits;
    }

    private static List<ByteEdit> Assign(ColladaDocument document, Scene scene, AssignMaterial edit)
    {
        var mesh = scene.Meshes.FirstOrDefault(m => m.Name == edit.Mesh || m.Id == edit.Mesh) ?? throw new CannotUseException($"The document has no geometry {edit.Mesh}.");
        var material = MaterialOf(document, edit.To);
        var edits = new List<ByteEdit>();
        foreach (var instance in document.Root.Descendants().Where(d => d.Name is "instance_geometry" or "instance_controller" && d["url"]?.TrimStart('#') == mesh.Id))
            foreach (var bound in instance.Child("bind_material")?.Child("technique_common")?.All("instance_material") ?? [])
                if ((edit.Part.Length == 0 || bound["symbol"] == edit.Part) && bound.Attribute("target") is { } target)
                    edits.Add(new(target.Start, target.End - target.Start, Encoding.UTF8.GetBytes("#" + XmlText.Encode(material["id"] ?? edit.To))));
        return edits.Count > 0 ? edits : throw new CannotUseException($"Nothing binds a material to {edit.Mesh}.");
    }

    private static ByteEdit Replace(XmlTree tree, string text) => new(tree.Start, tree.End - tree.Start, Encoding.UTF8.GetBytes(text));

    private static string Plain(string input) => input is "shininess" or "reflectivity" or "transparency" or "index_of_refraction" ? "<float>1</float>" : "<color>1 1 1 1</color>";

    private static string Number(double n) => n.ToString("0.#########", CultureInfo.InvariantCulture);
}
