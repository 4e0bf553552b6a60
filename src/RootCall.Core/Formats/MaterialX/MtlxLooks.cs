using System.Globalization;
using System.Text;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats.Xml;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>Writes edits of looks into MaterialX documents.</summary>
internal sealed class MtlxLooks(Scene scene, MtlxDocument document)
{
    private readonly List<(int File, ByteEdit Edit)> edits = [];
    private readonly HashSet<string> names = [.. document.Files.SelectMany(f => f.Root.Descendants()).Select(t => t["name"] ?? string.Empty)];

    public IEnumerable<(int File, ByteEdit Edit)> Make(IReadOnlyList<LookEdit> looks)
    {
        foreach (var look in looks)
        {
            switch (look)
            {
                case SetValue value:
                    Value(value);
                    break;
                case SetImage image:
                    Image(image);
                    break;
                case AssignMaterial assign:
                    Assign(assign);
                    break;
                case Rename { Kind: "material" } rename:
                    Rename(rename);
                    break;
                case RemoveMaterial remove:
                    Cut(document.All("surfacematerial").FirstOrDefault(m => m.Name == remove.Material) ?? throw new CannotUseException($"The document has no material {remove.Material}."));
                    break;
                default:
                    throw new CannotUseException($"MaterialX cannot say this: {look.Describe()}.");
            }
        }

        return edits;
    }

    private void Rename(Rename rename)
    {
        var material = document.All("surfacematerial").FirstOrDefault(m => m.Name == rename.From) ?? throw new CannotUseException($"The document has no material {rename.From}.");
        Set(material, "name", rename.To);
        foreach (var assign in document.All("look").SelectMany(l => l.Tree.All("materialassign").Select(a => new MtlxElement(l.File, a))).Where(a => a.Tree["material"] == rename.From)) Set(assign, "material", rename.To);
    }

    private MtlxElement Shader(string material)
    {
        var element = document.All("surfacematerial").FirstOrDefault(m => m.Name == material) ?? throw new CannotUseException($"The document has no material {material}.");
        var input = document.InputsOf(element).FirstOrDefault(i => i.Name == "surfaceshader");
        return input?.Tree["nodename"] is { } name && document.Find(name) is { } shader ? shader : throw new CannotUseException($"The surface shader of {material} is not there.");
    }

    private void Value(SetValue edit)
    {
        var shader = Shader(edit.Material);
        var input = shader.Inputs.FirstOrDefault(i => i.Name == edit.Input);
        if (edit.To is null)
        {
            if (input is not null) Cut(input);
            return;
        }

        var text = edit.To.Text ?? string.Join(", ", edit.To.Numbers.Select(n => n.ToString("0.#########", CultureInfo.InvariantCulture)));
        if (input is null) Insert(shader, $"<input name=\"{edit.Input}\" type=\"{TypeOf(edit)}\" value=\"{XmlText.Encode(text)}\"/>");
        else
        {
            foreach (var name in Links) Drop(input, name);
            Set(input, "value", text);
        }
    }

    private static readonly string[] Links = ["nodename", "nodegraph", "output", "interfacename", "channels"];

    private string TypeOf(SetValue edit)
    {
        var known = scene.Materials.SelectMany(m => m.Graph.Nodes).SelectMany(n => n.Inputs).FirstOrDefault(i => i.Name == edit.Input);
        return known?.Type ?? (edit.To!.Text is not null ? "string" : edit.To.Numbers.Length switch { 1 => "float", 2 => "vector2", 3 => "color3", _ => "color4" });
    }

    private void Image(SetImage edit)
    {
        var shader = Shader(edit.Material);
        var input = shader.Inputs.FirstOrDefault(i => i.Name == edit.Input);
        if (edit.To is not { } image)
        {
            if (input is null) return;
            if (input.Tree["value"] is null) Cut(input);
            else foreach (var name in Links) Drop(input, name);
            return;
        }

        if (edit.From is { } from && Node(edit, from) is { } node) Change(node, from, image);
        else Connect(shader, input, edit.Input, image);
    }

    /// <summary>The node of the input's own graph that reads the image, unless another material reads through it too.</summary>
    private MtlxElement? Node(SetImage edit, ImageUse from)
    {
        var graph = scene.Materials.First(m => m.Name == edit.Material).Graph;
        var input = graph.SurfaceNode?.Input(edit.Input);
        var name = input is null ? null : graph.Nodes.FirstOrDefault(n => n.Image is { } i && i.Reference == from.Reference && graph.ImagesOf(input).Contains(i))?.Name;
        if (name is null) return null;
        var parts = name.Split('/');
        return parts.Length == 1 ? document.Find(name) : document.Find(document.Find(parts[0]), parts[1]);
    }

    private void Change(MtlxElement node, ImageUse from, ImageUse to)
    {
        var file = node.Inputs.FirstOrDefault(i => i.Type == "filename") ?? throw new CannotUseException($"{node.Name} reads its file from outside its graph; change it there.");
        if (from.Reference.Written != to.Reference.Written)
        {
            if ((file.Active("fileprefix") ?? string.Empty).Length > 0) Set(file, "fileprefix", string.Empty);
            Set(file, "value", to.Reference.Written);
        }

        if (from.DeclaredSpace != to.DeclaredSpace) Set(file, "colorspace", to.DeclaredSpace);
        if (from.WrapU != to.WrapU) SetInput(node, "uaddressmode", "string", Wrap(to.WrapU));
        if (from.WrapV != to.WrapV) SetInput(node, "vaddressmode", "string", Wrap(to.WrapV));
        if (from.Transform == to.Transform) return;
        var t = to.Transform;
        if (node.Tree.Name == "tiledimage" && t.Rotation == 0)
        {
            SetInput(node, "uvtiling", "vector2", Pair(t.ScaleU, t.ScaleV));
            if (from.Transform.OffsetU != t.OffsetU || from.Transform.OffsetV != t.OffsetV) SetInput(node, "uvoffset", "vector2", Pair(t.OffsetU, t.OffsetV));
        }
        else if (node.Inputs.FirstOrDefault(i => i.Name == "texcoord")?.Tree["nodename"] is { } place
            && document.Find(node.Tree.Parent is { Name: "nodegraph" } g ? new(node.File, g) : null, place) is { Tree.Name: "place2d" } place2d)
        {
            SetInput(place2d, "scale", "vector2", Pair(1 / t.ScaleU, 1 / t.ScaleV));
            if (t.Rotation != from.Transform.Rotation) SetInput(place2d, "rotate", "float", Number(t.Rotation));
            if (from.Transform.OffsetU != t.OffsetU || from.Transform.OffsetV != t.OffsetV) SetInput(place2d, "offset", "vector2", Pair(-t.OffsetU, -t.OffsetV));
        }
        else if (node.Tree.Name == "image" && t.Rotation == 0 && !node.Inputs.Any(i => i.Name == "texcoord"))
        {
            // A tiled image is an image with two more inputs.
            edits.Add((node.File.Index, new(node.Tree.Start + 1, "image".Length, "tiledimage"u8.ToArray())));
            if (!node.Tree.SelfClosing) edits.Add((node.File.Index, new(node.Tree.ContentEnd + 2, "image".Length, "tiledimage"u8.ToArray())));
            SetInput(node, "uvtiling", "vector2", Pair(t.ScaleU, t.ScaleV));
            if (t.OffsetU != 0 || t.OffsetV != 0) SetInput(node, "uvoffset", "vector2", Pair(t.OffsetU, t.OffsetV));
        }
        else throw new CannotUseException($"{node.Name} takes its UV coordinates from other nodes; its tiling was left as it is.");
    }

    /// <summary>Puts an image node before the shader and connects it; a normal goes through a normal-map node.</summary>
    private void Connect(MtlxElement shader, MtlxElement? input, string name, ImageUse image)
    {
        var type = input?.Type is { Length: > 0 } known ? known : name.Contains("normal", StringComparison.Ordinal) ? "vector3" : name.Contains("color", StringComparison.Ordinal) ? "color3" : "float";
        var node = Free($"{shader.Name}_{name}");
        var t = image.Transform;
        if (t.Rotation != 0) throw new CannotUseException("A rotation of UV coordinates is not written into a new node.");
        var tiled = !t.IsIdentity;
        // One channel of several: the image is read as a colour, and the channel taken out of it.
        var pick = type == "float" && image.Channels is "g" or "b" or "a" ? "rgba".IndexOf(image.Channels, StringComparison.Ordinal) : -1;
        var stored = pick < 0 ? type : pick == 3 ? "color4" : "color3";
        var space = image.DeclaredSpace.Length > 0 ? $" colorspace=\"{XmlText.Encode(image.DeclaredSpace)}\"" : string.Empty;
        var text = new StringBuilder();
        text.Append(CultureInfo.InvariantCulture, $"<{(tiled ? "tiledimage" : "image")} name=\"{node}\" type=\"{stored}\"><input name=\"file\" type=\"filename\" fileprefix=\"\" value=\"{XmlText.Encode(image.Reference.Written)}\"{space}/>");
        if (tiled) text.Append(CultureInfo.InvariantCulture, $"<input name=\"uvtiling\" type=\"vector2\" value=\"{Pair(t.ScaleU, t.ScaleV)}\"/>");
        if (t.OffsetU != 0 || t.OffsetV != 0) text.Append(CultureInfo.InvariantCulture, $"<input name=\"uvoffset\" type=\"vector2\" value=\"{Pair(t.OffsetU, t.OffsetV)}\"/>");
        text.Append(tiled ? "</tiledimage>" : "</image>");
        if (pick >= 0)
        {
            var channel = Free(node + "_channel");
            text.Append(CultureInfo.InvariantCulture, $"<extract name=\"{channel}\" type=\"float\"><input name=\"in\" type=\"{stored}\" nodename=\"{node}\"/><input name=\"index\" type=\"integer\" value=\"{pick}\"/></extract>");
            node = channel;
        }

        if (type == "vector3")
        {
            var map = Free(node + "_map");
            text.Append(CultureInfo.InvariantCulture, $"<normalmap name=\"{map}\" type=\"vector3\"><input name=\"in\" type=\"vector3\" nodename=\"{node}\"/></normalmap>");
            node = map;
        }

        edits.Add((shader.File.Index, new(shader.Tree.Start, 0, Encoding.UTF8.GetBytes(text.Append('\n').ToString()))));
        if (input is null) Insert(shader, $"<input name=\"{name}\" type=\"{type}\" nodename=\"{node}\"/>");
        else
        {
            foreach (var link in Links.Skip(1)) Drop(input, link);
            Drop(input, "value");
            Set(input, "nodename", node);
        }
    }

    private void Assign(AssignMaterial edit)
    {
        var assigns = document.All("look").SelectMany(l => l.Tree.All("materialassign").Select(a => new MtlxElement(l.File, a))).ToList();
        var assign = assigns.FirstOrDefault(a => (a.Active("geomprefix") ?? string.Empty) + a.Tree["geom"] == edit.Mesh);
        if (assign is not null) Set(assign, "material", edit.To);
        else if (document.All("look").FirstOrDefault() is { } look) Insert(look, $"<materialassign name=\"{Free("assign")}\" material=\"{XmlText.Encode(edit.To)}\" geom=\"{XmlText.Encode(edit.Mesh)}\"/>");
        else throw new CannotUseException("The document has no look that could assign a material.");
    }

    private void SetInput(MtlxElement node, string name, string type, string value)
    {
        if (node.Inputs.FirstOrDefault(i => i.Name == name) is { } input) Set(input, "value", value);
        else Insert(node, $"<input name=\"{name}\" type=\"{type}\" value=\"{value}\"/>");
    }

    private void Set(MtlxElement element, string attribute, string value)
    {
        var bytes = Encoding.UTF8.GetBytes(XmlText.Encode(value));
        if (element.Tree.Attribute(attribute) is { } known) edits.Add((element.File.Index, new(known.Start, known.End - known.Start, bytes)));
        else edits.Add((element.File.Index, new(element.Tree.TagEnd, 0, Encoding.UTF8.GetBytes($" {attribute}=\"{XmlText.Encode(value)}\""))));
    }

    private void Drop(MtlxElement element, string attribute)
    {
        // The closing quote goes along; the white space before the name stays.
        if (element.Tree.Attribute(attribute) is { } known) edits.Add((element.File.Index, new(known.NameStart, known.End + 1 - known.NameStart, [])));
    }

    private void Insert(MtlxElement parent, string child)
    {
        if (!parent.Tree.SelfClosing) edits.Add((parent.File.Index, new(parent.Tree.ContentEnd, 0, Encoding.UTF8.GetBytes(child))));
        else
        {
            var tag = Encoding.UTF8.GetString(parent.File.Bytes.AsSpan((parent.Tree.Start + 1)..)).Split([' ', '/', '>', '\t', '\r', '\n'])[0];
            edits.Add((parent.File.Index, new(parent.Tree.TagEnd, 2, Encoding.UTF8.GetBytes($">{child}</{tag}>"))));
        }
    }

    private void Cut(MtlxElement element) => edits.Add((element.File.Index, new(element.Tree.Start, element.Tree.End - element.Tree.Start, [])));

    private string Free(string wanted)
    {
        for (var n = 1; ; n++)
        {
            var name = n == 1 ? wanted : $"{wanted}{n}";
            if (names.Add(name)) return name;
        }
    }

    private static string Wrap(WrapMode mode) => mode switch { WrapMode.Clamp => "clamp", WrapMode.Mirror => "mirror", WrapMode.Black => "constant", _ => "periodic" };

    private static string Pair(double a, double b) => $"{Number(a)}, {Number(b)}";

    private static string Number(double n) => n.ToString("0.#########", CultureInfo.InvariantCulture);
}
