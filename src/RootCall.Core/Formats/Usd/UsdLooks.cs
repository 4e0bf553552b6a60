using System.Globalization;
using System.Text;
using RootCall.Core.Edits;
using RootCall.Core.Files;
using RootCall.Core.Formats.Usd.Layers;
using RootCall.Core.Formats.Usd.Text;
using RootCall.Core.Scenes;

namespace RootCall.Core.Formats.Usd;

/// <summary>
/// Writes edits into the scene's own layer: what stands there is replaced, what stands in another layer, a crate or an
/// archive is said anew as an over. A scene that is no text gets an overriding layer that stands on it.
/// </summary>
internal sealed class UsdLooks
{
    private readonly Scene scene;
    private readonly byte[] bytes;
    private readonly UsdLayer layer;
    private readonly List<ByteEdit> edits = [];
    private readonly Overs overs = new(string.Empty);
    private readonly bool isNew;

    /// <summary>Inputs that lost their image in this turn: a texture they alone read may be taken for another input.</summary>
    private readonly HashSet<string> freed = new(StringComparer.Ordinal);

    public UsdLooks(Scene scene)
    {
        this.scene = scene;
        using var stream = scene.Files[0].Open();
        bytes = new byte[stream.Length];
        stream.ReadExactly(bytes);
        isNew = !UsdaParser.IsUsda(bytes);
        if (isNew)
        {
            var name = Path.GetFileName(scene.Path);
            var up = scene.UpAxis is { } axis ? $"    upAxis = \"{axis}\"\n" : string.Empty;
            bytes = Encoding.UTF8.GetBytes(string.Create(CultureInfo.InvariantCulture, $"#usda 1.0\n(\n    metersPerUnit = {scene.MetresPerUnit ?? 0.01}\n{up}    subLayers = [@./{name}@]\n)\n"));
        }

        layer = UsdaParser.Read(bytes, []);
    }

    public OwnChanges Make(IReadOnlyList<LookEdit> looks)
    {
        foreach (var look in looks) One(look);
        Place(overs, layer.Root, string.Empty);
        if (!isNew) return OwnChanges.Of(edits.Select(e => (0, e)));

        // The overriding layer takes the scene's place; the scene itself lies beside it, untouched.
        using var whole = new MemoryStream();
        SplicedCopy.Write(new MemoryStream(bytes), whole, edits);
        return new(Array.Empty<(int, ByteEdit)>().ToLookup(e => e.Item1, e => e.Item2), new Dictionary<string, byte[]> { [scene.Path] = whole.ToArray() });
    }

    private void One(LookEdit look)
    {
        switch (look)
        {
            case SetValue value:
                var shader = Surface(value.Material);
                Attribute(shader, $"inputs:{value.Input}", TypeOf(value), value.To is null ? null : Text(value.To, TypeOf(value)));
                Disconnect(shader, $"inputs:{value.Input}");
                break;
            case SetImage image:
                Image(image);
                break;
            case AssignMaterial assign:
                var mesh = scene.Meshes.FirstOrDefault(m => m.Id == assign.Mesh || m.Name == assign.Mesh) ?? throw new CannotUseException($"The scene has no mesh {assign.Mesh}.");
                var path = assign.Part.Length > 0 ? $"{mesh.Id}/{assign.Part}" : mesh.Id;
                Relationship(path, "material:binding", assign.To.Length == 0 ? null : MaterialOf(assign.To).Id);
                break;
            case RemoveMaterial remove:
                Metadata(MaterialOf(remove.Material).Id, "active = false");
                break;
            case SelectVariant variant:
                Select(variant);
                break;
            case SetAsset asset:
                Attribute(Owner(asset.Property), Property(asset.Property), "asset", Asset(asset.To));
                break;
            case ExtractImage extract:
                var reference = scene.References.FirstOrDefault(r => r.Key == extract.Image) ?? throw new CannotUseException($"The scene has no image {extract.Image.Written}.");
                if (reference.Properties.IsEmpty) throw new CannotUseException($"Nothing in the scene reads {extract.Image.Written}.");
                foreach (var property in reference.Properties) Attribute(Owner(property), Property(property), "asset", Asset(extract.Written));
                break;
            default:
                throw new CannotUseException($"A layer of USD cannot say this: {look.Describe()}.");
        }
    }

    private Material MaterialOf(string name) => scene.Materials.FirstOrDefault(m => m.Name == name && !m.IsTemplate) ?? scene.Materials.FirstOrDefault(m => m.Id == name || m.Name == name) ?? throw new CannotUseException($"The scene has no material {name}.");

    private string Surface(string material)
    {
        var found = MaterialOf(material);
        return found.Graph.Surface.Length > 0 ? Node(found, found.Graph.Surface) : throw new CannotUseException($"{material} has no surface shader.");
    }

    private static string Node(Material material, string node) => node.StartsWith('/') ? node : $"{material.Id}/{node}";

    private static string Owner(string property) => property[..property.LastIndexOf('.')];

    private static string Property(string property) => property[(property.LastIndexOf('.') + 1)..];

    private string TypeOf(SetValue edit)
    {
        var known = MaterialOf(edit.Material).Graph.SurfaceNode?.Input(edit.Input)?.Type;
        return (known ?? (edit.To!.Text is not null ? "string" : edit.To.Numbers.Length switch { 3 => "color3", 2 => "vector2", _ => "float" })) switch
        {
            "color3" => "color3f",
            "vector3" => "normal3f",
            "vector2" => "float2",
            "color4" => "color4f",
            "integer" => "int",
            "boolean" => "bool",
            "string" => "token",
            "filename" => "asset",
            var type => type,
        };
    }

    private static string Text(ShaderValue value, string type) => value.Text is { } text
        ? type == "asset" ? Asset(text) : $"\"{text.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("\"", "\\\"", StringComparison.Ordinal)}\""
        : Tuple(value.Numbers);

    private static string Tuple(IReadOnlyCollection<double> numbers)
    {
        var text = string.Join(", ", numbers.Select(n => n.ToString("0.#########", CultureInfo.InvariantCulture)));
        return numbers.Count == 1 ? text : $"({text})";
    }

    private static string Asset(string path)
    {
        var anchored = path.StartsWith('.') || path.StartsWith('/') ? path : "./" + path;
        return anchored.Contains('@', StringComparison.Ordinal) ? $"@@@{anchored}@@@" : $"@{anchored}@";
    }

    /// <summary>Gives an attribute a value; null takes the statement of this layer out.</summary>
    private void Attribute(string prim, string name, string type, string? value)
    {
        var here = layer.Find(prim)?.Property(name);
        if (here is { ValueStart: >= 0 })
        {
            if (value is null) edits.Add(new(here.Start, here.End - here.Start, []));
            else edits.Add(new(here.ValueStart, here.ValueEnd - here.ValueStart, Encoding.UTF8.GetBytes(value)));
        }
        else if (value is not null)
        {
            overs.At(prim).Statements.Add($"{type} {name} = {value}");
        }
    }

    private void Disconnect(string prim, string name)
    {
        var here = layer.Find(prim)?.Property(name);
        if (here is { TargetsStart: >= 0 }) edits.Add(new(here.TargetsStart, here.TargetsEnd - here.TargetsStart, []));
        else if (scene.Materials.Any(m => prim == Node(m, m.Graph.Surface) && m.Graph.SurfaceNode?.Input(name["inputs:".Length..])?.From is not null))
            overs.At(prim).Statements.Add($"{here?.TypeName ?? "float"} {name}.connect = None");
    }

    private void Connect(string prim, string name, string type, string target)
    {
        var here = layer.Find(prim)?.Property(name);
        var statement = $"{type} {name}.connect = <{target}>";
        if (here is { TargetsStart: >= 0 }) edits.Add(new(here.TargetsStart, here.TargetsEnd - here.TargetsStart, Encoding.UTF8.GetBytes(statement)));
        else overs.At(prim).Statements.Add(statement);
    }

    private void Relationship(string prim, string name, string? target)
    {
        var here = layer.Find(prim)?.Property(name);
        var statement = target is null ? $"rel {name} = None" : $"rel {name} = <{target}>";
        if (here is { TargetsStart: >= 0 }) edits.Add(new(here.TargetsStart, here.TargetsEnd - here.TargetsStart, Encoding.UTF8.GetBytes(statement)));
        else overs.At(prim).Statements.Add(statement);
    }

    private void Image(SetImage edit)
    {
        var material = MaterialOf(edit.Material);
        var surface = Node(material, material.Graph.Surface);
        var input = material.Graph.SurfaceNode?.Input(edit.Input);
        if (edit.To is not { } to)
        {
            Disconnect(surface, $"inputs:{edit.Input}");
            freed.Add($"{material.Id}.{edit.Input}");
            return;
        }

        var node = input is null || edit.From is null ? null : material.Graph.Nodes.FirstOrDefault(n => n.Image is { } i && i.Reference == edit.From.Reference && material.Graph.ImagesOf(input).Contains(i));
        if (node is null && Unread(material, to) is { } spare) Change(material, spare, input ?? new(edit.Input, Guess(edit.Input), null), spare.Image! with { Channels = string.Empty }, to);
        else if (node is null) New(material, surface, edit.Input, input, to);
        else Change(material, node, input!, edit.From!, to);
    }

    /// <summary>A texture of that image that no input reads any more: it is connected, so that nothing is left behind.</summary>
    private ShaderNode? Unread(Material material, ImageUse to)
    {
        var read = (material.Graph.SurfaceNode?.Inputs ?? []).Where(i => !freed.Contains($"{material.Id}.{i.Name}")).SelectMany(material.Graph.ImagesOf).ToHashSet(ReferenceEqualityComparer.Instance);
        return material.Graph.Nodes.FirstOrDefault(n => n.Type == "UsdUVTexture" && n.Image is { } image && image.Reference == to.Reference && !read.Contains(image));
    }

    private static string Guess(string input) => input.Contains("ormal", StringComparison.Ordinal) ? "vector3" : input.Contains("olor", StringComparison.Ordinal) ? "color3" : "float";

    private void PickChannel(Material material, string texture, ShaderInput input, string channel)
    {
        if (layer.Find(texture)?.Property($"outputs:{channel}") is null) overs.At(texture).Statements.Add($"{(channel == "rgb" ? "float3" : "float")} outputs:{channel}");
        Connect(Node(material, material.Graph.Surface), $"inputs:{input.Name}", UsdTypeOf(input.Type), $"{texture}.outputs:{channel}");
    }

    private static string UsdTypeOf(string type) => type switch { "color3" => "color3f", "vector3" => "normal3f", _ => type };

    private void Change(Material material, ShaderNode node, ShaderInput input, ImageUse from, ImageUse to)
    {
        var prim = Node(material, node.Name);
        var file = node.Inputs.FirstOrDefault(i => i.Type == "filename")?.Name ?? "file";
        if (from.Reference.Written != to.Reference.Written) Attribute(prim, $"inputs:{file}", "asset", Asset(to.Reference.Written));
        if (from.DeclaredSpace != to.DeclaredSpace) Attribute(prim, "inputs:sourceColorSpace", "token", to.DeclaredSpace.Length == 0 ? null : $"\"{to.DeclaredSpace}\"");
        if (from.WrapU != to.WrapU) Attribute(prim, "inputs:wrapS", "token", $"\"{Wrap(to.WrapU)}\"");
        if (from.WrapV != to.WrapV) Attribute(prim, "inputs:wrapT", "token", $"\"{Wrap(to.WrapV)}\"");
        if (!from.Scale.SequenceEqual(to.Scale)) Attribute(prim, "inputs:scale", "float4", Tuple(to.Scale.IsEmpty ? [1, 1, 1, 1] : to.Scale));
        if (!from.Bias.SequenceEqual(to.Bias)) Attribute(prim, "inputs:bias", "float4", Tuple(to.Bias.IsEmpty ? [0, 0, 0, 0] : to.Bias));
        if (from.Channels != to.Channels) PickChannel(material, prim, input, to.Channels);
        if (from.Transform == to.Transform) return;
        var st = node.Input("st")?.From;
        var transform = st is null ? null : material.Graph.Node(st.Node);
        var place = transform is { Type: "UsdTransform2d" } ? Node(material, transform.Name) : $"{prim}_place";
        if (transform is not { Type: "UsdTransform2d" })
        {
            if (node.Type != "UsdUVTexture") throw new CannotUseException($"{node.Name} takes its UV coordinates from other nodes; its tiling was left as it is.");
            var over = overs.At(place);
            over.Definition = "def Shader";
            over.Statements.Add("uniform token info:id = \"UsdTransform2d\"");
            if (st is not null) over.Statements.Add($"float2 inputs:in.connect = <{Node(material, st.Node)}.outputs:{st.Output}>");
            over.Statements.Add("float2 outputs:result");
            Connect(prim, "inputs:st", "float2", $"{place}.outputs:result");
        }

        var t = to.Transform;
        if (transform is null or not { Type: "UsdTransform2d" } || from.Transform.ScaleU != t.ScaleU || from.Transform.ScaleV != t.ScaleV) Attribute(place, "inputs:scale", "float2", Tuple([t.ScaleU, t.ScaleV]));
        if (from.Transform.OffsetU != t.OffsetU || from.Transform.OffsetV != t.OffsetV) Attribute(place, "inputs:translation", "float2", Tuple([t.OffsetU, t.OffsetV]));
        if (from.Transform.Rotation != t.Rotation) Attribute(place, "inputs:rotation", "float", Tuple([t.Rotation]));
    }

    /// <summary>A texture, its transform where it needs one, and a reader of its UV set.</summary>
    private void New(Material material, string surface, string inputName, ShaderInput? input, ImageUse to)
    {
        var type = input?.Type is { Length: > 0 } known ? known : Guess(inputName);
        var stem = $"{material.Id}/{inputName}_texture";
        for (var n = 2; material.Graph.Nodes.Any(node => Node(material, node.Name) == stem) || overs.Has(stem); n++) stem = $"{material.Id}/{inputName}_texture{n}";
        var texture = overs.At(stem);
        texture.Definition = "def Shader";
        texture.Statements.Add("uniform token info:id = \"UsdUVTexture\"");
        texture.Statements.Add($"asset inputs:file = {Asset(to.Reference.Written)}");
        if (to.DeclaredSpace.Length > 0) texture.Statements.Add($"token inputs:sourceColorSpace = \"{to.DeclaredSpace}\"");
        else if (type != "color3") texture.Statements.Add("token inputs:sourceColorSpace = \"raw\"");
        texture.Statements.Add($"token inputs:wrapS = \"{Wrap(to.WrapU)}\"");
        texture.Statements.Add($"token inputs:wrapT = \"{Wrap(to.WrapV)}\"");
        if (!to.Scale.IsDefaultOrEmpty && to.Scale.Length == 4) texture.Statements.Add($"float4 inputs:scale = {Tuple(to.Scale)}");
        else if (type == "vector3") texture.Statements.Add("float4 inputs:scale = (2, 2, 2, 1)");
        if (!to.Bias.IsDefaultOrEmpty && to.Bias.Length == 4) texture.Statements.Add($"float4 inputs:bias = {Tuple(to.Bias)}");
        else if (type == "vector3") texture.Statements.Add("float4 inputs:bias = (-1, -1, -1, 0)");
        var channel = type == "float" ? to.Channels is "g" or "b" or "a" ? to.Channels : "r" : "rgb";
        texture.Statements.Add($"{(type == "float" ? "float" : "float3")} outputs:{channel}");
        var reader = overs.At($"{stem}_st");
        reader.Definition = "def Shader";
        reader.Statements.Add("uniform token info:id = \"UsdPrimvarReader_float2\"");
        reader.Statements.Add($"string inputs:varname = \"{(to.UvSet.Length > 0 ? to.UvSet : scene.Meshes.SelectMany(m => m.UvSets).FirstOrDefault() ?? "st")}\"");
        reader.Statements.Add("float2 outputs:result");
        var st = $"{stem}_st";
        if (!to.Transform.IsIdentity)
        {
            var place = overs.At($"{stem}_place");
            place.Definition = "def Shader";
            place.Statements.Add("uniform token info:id = \"UsdTransform2d\"");
            place.Statements.Add($"float2 inputs:in.connect = <{st}.outputs:result>");
            place.Statements.Add($"float2 inputs:scale = {Tuple([to.Transform.ScaleU, to.Transform.ScaleV])}");
            place.Statements.Add($"float2 inputs:translation = {Tuple([to.Transform.OffsetU, to.Transform.OffsetV])}");
            place.Statements.Add($"float inputs:rotation = {Tuple([to.Transform.Rotation])}");
            place.Statements.Add("float2 outputs:result");
            st = $"{stem}_place";
        }

        texture.Statements.Add($"float2 inputs:st.connect = <{st}.outputs:result>");
        Connect(surface, $"inputs:{inputName}", type switch { "color3" => "color3f", "vector3" => "normal3f", _ => type }, $"{stem}.outputs:{channel}");
    }

    private static string Wrap(WrapMode mode) => mode switch { WrapMode.Clamp => "clamp", WrapMode.Mirror => "mirror", WrapMode.Black => "black", WrapMode.FromFile => "useMetadata", _ => "repeat" };

    private void Select(SelectVariant edit)
    {
        var here = layer.Find(edit.Place);
        var choice = $"string {edit.Set} = \"{edit.To}\"";
        if (here is not null && here.SelectionSpans.TryGetValue(edit.Set, out var span)) edits.Add(new(span.Start, span.End - span.Start, Encoding.UTF8.GetBytes($"\"{edit.To}\"")));
        else Metadata(edit.Place, $"variants = {{ {choice} }}");
    }

    private void Metadata(string prim, string statement)
    {
        var here = layer.Find(prim);
        if (here is { MetadataEnd: >= 0 }) edits.Add(new(here.MetadataEnd, 0, Encoding.UTF8.GetBytes($"    {statement}\n")));
        else if (here is { NameEnd: >= 0 }) edits.Add(new(here.NameEnd, 0, Encoding.UTF8.GetBytes($" (\n    {statement}\n)")));
        else overs.At(prim).Metadata.Add(statement);
    }

    /// <summary>Writes the overs into the deepest prims that stand in the layer already.</summary>
    private void Place(Overs at, UsdPrimSpec spec, string indent)
    {
        var text = new StringBuilder();
        var inside = spec == layer.Root ? string.Empty : indent + "    ";
        foreach (var statement in at.Statements) text.Append(inside).Append(statement).Append('\n');
        foreach (var child in at.Children)
        {
            if (spec.Child(child.Name) is { BodyEnd: >= 0 } there) Place(child, there, IndentOf(there.BodyEnd));
            else child.Write(text, inside);
        }

        if (text.Length == 0) return;
        var position = spec == layer.Root ? bytes.Length : spec.BodyEnd;
        var lineStart = spec == layer.Root ? bytes.Length : LineStart(position);
        // Before the closing brace's own line where it stands alone, otherwise right before it.
        var alone = bytes.AsSpan(lineStart, position - lineStart).Trim(" \t"u8).Length == 0;
        if (!alone) text.Insert(0, '\n');
        if (spec == layer.Root && bytes.Length > 0 && bytes[^1] != (byte)'\n') text.Insert(0, '\n');
        edits.Add(new(alone ? lineStart : position, 0, Encoding.UTF8.GetBytes(text.ToString())));
    }

    private int LineStart(int at)
    {
        while (at > 0 && bytes[at - 1] != (byte)'\n') at--;
        return at;
    }

    private string IndentOf(int at)
    {
        var start = LineStart(at);
        var end = start;
        while (end < bytes.Length && bytes[end] is (byte)' ' or (byte)'\t') end++;
        return Encoding.ASCII.GetString(bytes.AsSpan(start, end - start));
    }

    /// <summary>A tree of prims to be said anew.</summary>
    private sealed class Overs(string name)
    {
        public string Name => name;

        public string Definition { get; set; } = "over";

        public List<string> Metadata { get; } = [];

        public List<string> Statements { get; } = [];

        public List<Overs> Children { get; } = [];

        public Overs At(string path)
        {
            var at = this;
            foreach (var part in path.Split('/', StringSplitOptions.RemoveEmptyEntries))
            {
                var child = at.Children.Find(c => c.Name == part);
                if (child is null) at.Children.Add(child = new(part));
                at = child;
            }

            return at;
        }

        public bool Has(string path)
        {
            var at = this;
            foreach (var part in path.Split('/', StringSplitOptions.RemoveEmptyEntries))
            {
                if (at.Children.Find(c => c.Name == part) is not { } child) return false;
                at = child;
            }

            return true;
        }

        public void Write(StringBuilder text, string indent)
        {
            text.Append(indent).Append(Definition).Append(" \"").Append(name).Append('"');
            if (Metadata.Count > 0) text.Append(" (\n").Append(indent).Append("    ").AppendJoin($"\n{indent}    ", Metadata).Append('\n').Append(indent).Append(')');
            text.Append('\n').Append(indent).Append("{\n");
            foreach (var statement in Statements) text.Append(indent).Append("    ").Append(statement).Append('\n');
            foreach (var child in Children) child.Write(text, indent + "    ");
            text.Append(indent).Append("}\n");
        }
    }
}
