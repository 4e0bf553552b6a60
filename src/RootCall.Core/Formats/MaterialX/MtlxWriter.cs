using System.Xml.Linq;
using RootCall.Core.Files;
using RootCall.Core.Formats.Looks;
using RootCall.Core.Formats.Xml;
using RootCall.Core.Scenes;
using RootCall.Core.Shading;

namespace RootCall.Core.Formats.MaterialX;

/// <summary>Writes what differs between two states of a scene into its MaterialX documents: attributes, inputs and nodes.</summary>
internal sealed class MtlxWriter(Scene before, Scene now, MtlxDocument document)
{
    private static readonly string[] Links = ["nodename", "nodegraph", "output", "interfacename", "channels"];
    private readonly Dictionary<MtlxFile, XmlPatch> patches = document.Files.ToDictionary(f => f, f => new XmlPatch(f.Bytes, f.Root));
    private readonly HashSet<string> names =
    [
        .. document.Files.SelectMany(f => f.Root.Descendants()).Select(t => t["name"] ?? string.Empty),
    ];
    private readonly Dictionary<string, string> made = new(StringComparer.Ordinal);
    private readonly HashSet<string> done = new(StringComparer.Ordinal);

    public IEnumerable<(int File, ByteEdit Edit)> Write()
    {
        var current = now.Materials.ToDictionary(m => m.Arrived ?? m.Name, StringComparer.Ordinal);
        foreach (var old in before.Materials)
        {
            if (!current.TryGetValue(old.Name, out var material))
                Cut(Element(old.Name));
            else if (!ReferenceEquals(old, material))
                Material(old, material);
        }

        var known = before.Materials.Select(m => m.Name).ToHashSet(StringComparer.Ordinal);
        Add([.. now.Materials.Where(m => !known.Contains(m.Arrived ?? m.Name))]);
        for (var i = 0; i < now.Meshes.Length; i++)
            if (
                i >= before.Meshes.Length
                || (current.GetValueOrDefault(before.Meshes[i].Parts[0].Material)?.Name ?? before.Meshes[i].Parts[0].Material)
                    != now.Meshes[i].Parts[0].Material
            )
                Assign(now.Meshes[i]);
        return patches.SelectMany(p => p.Value.Build().Select(e => (p.Key.Index, e)));
    }

    /// <summary>New materials at the end of the document that was opened.</summary>
    private void Add(IReadOnlyList<Material> materials)
    {
        if (materials.Count == 0)
            return;
        var home = document.Files[0];
        var author = new MtlxAuthor(k => ReferencePaths.In(now, k, Path.GetFileName(now.Path)).Written, names)
        {
            IsUnderPrefix = (home.Root["fileprefix"] ?? string.Empty).Length > 0,
        };
        foreach (var material in materials)
            if (author.Add(material.Name, material.Graph) is { } why)
                throw new CannotUseException($"{material.Name} cannot be written. {why}");
        foreach (var element in author.Elements)
            patches[home].Add(home.Root, element);
    }

    private MtlxElement Element(string material) =>
        document.All("surfacematerial").FirstOrDefault(m => m.Name == material)
        ?? throw new CannotUseException($"The document has no material {material}.");

    private void Material(Material old, Material material)
    {
        if (old.Name != material.Name)
            Rename(old.Name, material.Name);
        if (ReferenceEquals(old.Graph, material.Graph) || material.Graph.SurfaceNode is not { } surface)
            return;
        var shader = ElementOf(surface.Name) ?? throw new CannotUseException($"The surface shader of {material.Name} is not there.");
        // Names of what is put in are settled first: nodes call each other.
        foreach (var node in material.Graph.Nodes.Where(n => ElementOf(n.Name) is null && !made.ContainsKey(n.Name)))
            made[node.Name] = Free(node.Name);
        foreach (var node in material.Graph.Nodes)
        {
            var known = old.Graph.Node(node.Name);
            if (ReferenceEquals(known, node) || !done.Add(node.Name))
                continue;
            if (ElementOf(node.Name) is not { } element)
                patches[shader.File].Before(shader.Tree, New(node, a => Around(shader, a)));
            else
                Change(
                    element,
                    known
                        ?? before.Materials.Select(m => m.Graph.Node(node.Name)).FirstOrDefault(n => n is not null)
                        ?? node with
                        {
                            Inputs = [],
                        },
                    node
                );
        }
    }

    private MtlxElement? ElementOf(string node)
    {
        var parts = node.Split('/');
        return parts.Length == 1 ? document.Find(node)
            : document.Find(parts[0]) is { } graph ? document.Find(graph, parts[1])
            : null;
    }

    private string Free(string wanted)
    {
        var slash = wanted.LastIndexOf('/') + 1;
        for (var n = 1; ; n++)
        {
            var name = n == 1 ? wanted[slash..] : $"{wanted[slash..]}{n}";
            if (names.Add(name))
                return wanted[..slash] + name;
        }
    }

    /// <summary>The name by which another node of the same graph calls it.</summary>
    private string Called(string node) => made.GetValueOrDefault(node, node) is var name ? name[(name.LastIndexOf('/') + 1)..] : node;

    private XElement New(ShaderNode node, Func<string, string?> around)
    {
        var element = new XElement(node.Type, new XAttribute("name", Called(node.Name)), new XAttribute("type", node.Output.Word));
        foreach (var input in node.Inputs)
            element.Add(Input(input, node, around));
        return element;
    }

    /// <param name="around">Attributes of what it is put into: prefixes and colour spaces hold there too.</param>
    private XElement Input(ShaderInput input, ShaderNode node, Func<string, string?> around)
    {
        var element = new XElement("input", new XAttribute("name", input.Name), new XAttribute("type", input.Type.Word));
        if (input.From is { } from)
            Connect((n, v) => element.SetAttributeValue(n, v), from, node.Name);
        else if (input.Value is { } value)
        {
            if (input.Type == InputType.FileName && (around("fileprefix") ?? string.Empty).Length > 0)
                element.SetAttributeValue("fileprefix", string.Empty);
            element.SetAttributeValue("value", Text(value));
        }

        if (input.Type == InputType.FileName && node.Image is { } image && image.DeclaredSpace != (around("colorspace") ?? string.Empty))
            element.SetAttributeValue("colorspace", image.DeclaredSpace);
        return element;
    }

    private static string? Around(MtlxElement element, string attribute) =>
        element.Tree.Parent is { } parent ? new MtlxElement(element.File, parent).Active(attribute) : null;

    private void Connect(Action<string, string> set, Connection from, string reader)
    {
        var (graph, ownGraph) = (MtlxShape.GraphOf(from.Node), MtlxShape.GraphOf(reader));
        if (graph == ownGraph)
            set("nodename", Called(from.Node));
        else if (
            graph.Length > 0
            && document
                .Find(graph)
                ?.Tree.All("output")
                .FirstOrDefault(o => o["nodename"] == Called(from.Node) && (o["output"] ?? "out") == from.Output)
                is { } output
        )
        {
            set("nodegraph", graph);
            if (output["name"] is { } name)
                set("output", name);
            return;
        }
        else
            throw new CannotUseException($"{reader} cannot be connected to {from.Node}: it stands in another graph.");
        if (from.Output is not ("out" or ""))
            set("output", from.Output);
    }

    private static string Text(ShaderValue value) => value.Text ?? NumberText.Join(", ", value.Numbers);

    private void Change(MtlxElement element, ShaderNode old, ShaderNode node)
    {
        var patch = patches[element.File];
        if (old.Type != node.Type)
            patch.Rename(element.Tree, node.Type);
        if (old.Output != node.Output && node.Output.IsSaid)
            patch.Set(element.Tree, "type", node.Output.Word);
        foreach (var gone in old.Inputs.Where(i => node.Input(i.Name) is null))
            if (Own(element, gone.Name) is { } there)
                patch.Cut(there);
        foreach (var input in node.Inputs)
        {
            var was = old.Input(input.Name);
            if (Own(element, input.Name) is not { } there)
            {
                if (was is null || !Equals(was.Value, input.Value) || was.From != input.From)
                    patch.Add(element.Tree, Input(input, node, element.Active));
                continue;
            }

            if (was?.From != input.From || !Equals(was?.Value, input.Value) || was?.IsPassedOn != input.IsPassedOn)
                Set(patch, new(element.File, there), was, input, node);
        }

        if (
            node.Image is { } image
            && old.Image is { } read
            && node.Inputs.FirstOrDefault(i => i.Type == InputType.FileName) is { } file
            && (image.DeclaredSpace != read.DeclaredSpace || old.Input(file.Name)?.IsPassedOn != file.IsPassedOn)
            && Own(element, file.Name) is { } holder
        )
            patch.Set(holder, "colorspace", image.DeclaredSpace);
    }

    private void Set(XmlPatch patch, MtlxElement there, ShaderInput? was, ShaderInput input, ShaderNode node)
    {
        foreach (var link in Links.Where(l => input.From is null || l != "nodename"))
            patch.Drop(there.Tree, link);
        if (input.From is { } from)
        {
            if (input.Value is null)
                patch.Drop(there.Tree, "value");
            Connect((n, v) => patch.Set(there.Tree, n, v), from, node.Name);
            return;
        }

        if (input.Value is not { } value)
        {
            patch.Drop(there.Tree, "value");
            return;
        }

        var text = Text(value);
        if (input.Type == InputType.FileName && there.Active("fileprefix") is { Length: > 0 } prefix)
        {
            if (text.StartsWith(prefix, StringComparison.Ordinal))
                text = text[prefix.Length..];
            else
                patch.Set(there.Tree, "fileprefix", string.Empty);
        }

        patch.Set(there.Tree, "value", text);
    }

    private static XmlTree? Own(MtlxElement element, string input) => element.Inputs.FirstOrDefault(i => i.Name == input)?.Tree;

    private void Cut(MtlxElement element) => patches[element.File].Cut(element.Tree);

    private void Rename(string from, string to)
    {
        var material = Element(from);
        patches[material.File].Set(material.Tree, "name", to);
        foreach (var heir in document.All("surfacematerial").Where(m => m.Tree["inherit"] == from))
            patches[heir.File].Set(heir.Tree, "inherit", to);
        foreach (var assign in Assigns().Where(a => a.Tree["material"] == from))
            patches[assign.File].Set(assign.Tree, "material", to);
    }

    private IEnumerable<MtlxElement> Assigns() =>
        document.All("look").SelectMany(l => l.Tree.All("materialassign").Select(a => new MtlxElement(l.File, a)));

    private void Assign(Mesh mesh)
    {
        var chosen = before.Variants.FirstOrDefault(v => v.Set == MtlxAssignments.Set)?.Selected;
        var look = document.All("look").FirstOrDefault(l => l.Name == chosen)
            ?? document.All("look").FirstOrDefault()
            ?? throw new CannotUseException("The document has no look that could assign a material.");
        var material = mesh.Parts[0].Material;
        var assign = look
            .Tree.All("materialassign")
            .Select(a => new MtlxElement(look.File, a))
            .LastOrDefault(a => (a.Active("geomprefix") ?? string.Empty) + a.Tree["geom"] == mesh.Name);
        if (assign is not null)
            patches[assign.File].Set(assign.Tree, "material", material);
        else
        {
            var prefix = look.Active("geomprefix") ?? string.Empty;
            var fits = mesh.Name.StartsWith(prefix, StringComparison.Ordinal);
            var fresh = new XElement(
                "materialassign",
                new XAttribute("name", Free("assign")),
                new XAttribute("material", material),
                new XAttribute("geom", fits ? mesh.Name[prefix.Length..] : mesh.Name)
            );
            if (!fits)
                fresh.SetAttributeValue("geomprefix", string.Empty);
            patches[look.File].Add(look.Tree, fresh);
        }
    }
}
